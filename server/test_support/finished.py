"""A job with nothing left but the signature, written straight into the database."""

from __future__ import annotations

from accounts.models import User
from demo_world.world import JobBuilder, Sits

_HOUSING = ([(0.8, 1)], [(4.5, 1)], [(4.7, 1)])


def finished_job(booked_by: User, measured_by: User | None = None, *, customer: str = "Skerrow Post", vehicle: str = "Post van") -> str:
    """The id of a regear whose steps are all passed and whose final trial is in; its one piece of work has the same id."""
    card = {"customer": customer, "vehicle": vehicle, "complaint": "Howl on overrun", "layout": "rear_drive", "axle": "rear", "use": "road"}
    made = (
        JobBuilder(days_ago=2, by=booked_by, family="corrie-ls19", fields=card)
        .teeth(10, 41)
        .passes_to("backlash")
        .sits(Sits(0.0, 0.165, 0.006))
        .shims(*_HOUSING)
        .reads()
        .paints()
        .passes("backlash", "pattern", "nut", "preload")
        .hands_to(measured_by or booked_by)
        .shims(*_HOUSING, preload_part="sleeve", is_final=True)
        .turns(2.1, 2.7)
        .reads()
        .paints()
        .passes_to()
        .done()
    )
    return str(made.pk)
