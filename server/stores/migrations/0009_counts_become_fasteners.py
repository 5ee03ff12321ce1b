"""How many bolts there are stood among the limits, before a sheet could say how they are tightened."""

from __future__ import annotations

from typing import Any

from django.db import migrations

COUNTED = (
    "cap_bolts",
    "cover_bolts",
    "drive_flange_nuts",
    "hub_nuts",
    "pin_bolt",
    "propshaft_bolts",
    "retainer_nuts",
    "ring_bolts",
    "unit_nuts",
)


def to_fasteners(apps: Any, schema_editor: Any) -> None:
    limits, fasteners = (apps.get_model("stores", name).objects for name in ("SpecLimit", "SpecFastener"))
    counts = limits.filter(quantity__in=COUNTED)
    made = []
    for one in counts:
        count = int(one.greatest if one.greatest is not None else one.least)
        if 1 <= count <= 200:
            made.append(fasteners.model(family_id=one.family_id, place=one.quantity, count=count, source_note=one.source_note))
    fasteners.bulk_create(made)
    counts.delete()


def to_limits(apps: Any, schema_editor: Any) -> None:
    limits, fasteners = (apps.get_model("stores", name).objects for name in ("SpecLimit", "SpecFastener"))
    limits.bulk_create(
        limits.model(family_id=one.family_id, quantity=one.place, least=one.count, greatest=one.count, source_note=one.source_note)
        for one in fasteners.filter(place__in=COUNTED)
    )


class Migration(migrations.Migration):
    dependencies = [("stores", "0008_fasteners_and_fluids")]

    operations = [migrations.RunPython(to_fasteners, to_limits)]
