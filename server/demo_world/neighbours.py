"""The second workshop of the demo's organisation: works by the first one's sheets, has its own jobs, people and drawer."""

from __future__ import annotations

from typing import Any

from accounts import demo as people
from jobs.models import Job
from shared.scope import in_shop
from stores.models import AxleFamily

_SHARED = ("corrie-ls19", "ostrel-ir20", "brannoch-bf21")


def load(new: Any) -> None:
    """Make it once; `new` begins a job."""
    shop, who = people.load_second()
    AxleFamily.objects.filter(code__in=_SHARED).update(shared=True)
    with in_shop(shop.pk):
        if Job.objects.exists():
            return
        edda, runa = who["edda"], who["runa"]
        new(
            3,
            edda,
            "corrie-ls19",
            customer="Hollin Ferries",
            vehicle="Luggage van, Corrie Carrier",
            complaint="New ring and pinion after the oil was lost",
        ).hands_to(runa).teeth(10, 41).passes_to("backlash").done()
        new(
            0.4,
            edda,
            "brannoch-bf21",
            kind="oil_service",
            customer="Pier Divers",
            vehicle="Dive truck, Brannoch Fell",
            layout="four_wheel_drive",
            complaint="Oil of both axles, water seen at the breather",
            use="shore",
        ).done()
