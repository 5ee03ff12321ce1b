"""A visit as the API shows it."""

from __future__ import annotations

from typing import Any

from jobs.models import Job, Station, StationRecord
from vehicles.models import Place

PLAIN = (
    "id",
    "number",
    "version",
    "customer",
    "complaint",
    "use",
    "use_note",
    "promised_on",
    "state",
    "waits_for",
    "waits_note",
    "next_action",
    "created_by_name",
    "created_at",
    "updated_at",
    "signed_off_at",
    "imported_by_name",
    "imported_at",
    "imported_note",
)


def card_out(job: Job) -> dict[str, Any]:
    """The card of a visit with its vehicle."""
    return {
        **{field: getattr(job, field) for field in PLAIN},
        "vehicle_id": job.vehicle_id,
        "vehicle": job.vehicle.name,
        "registration": job.vehicle.registration,
        "layout": job.vehicle.layout,
        "state_word": job.get_state_display(),
        "waits_word": job.get_waits_for_display(),
    }


def stations_out(job: Job, worked: set[str]) -> list[dict[str, Any]]:
    """The map: every part with what is said of it now and what was said before; `worked` are the places that work is booked on."""
    order = list(Place)
    said: dict[str, list[StationRecord]] = {}
    for record in job.station_records.all():
        said.setdefault(record.place, []).append(record)
    stations: list[Station] = sorted(job.stations.all(), key=lambda one: order.index(Place(one.place)))
    return [
        {
            "place": station.place,
            "label": station.get_place_display(),
            "state": station.state,
            "word": station.get_state_display(),
            "note": station.note,
            "version": station.version,
            "under_work": station.place in worked,
            "history": [
                {"word": one.get_state_display(), "note": one.note, "by_name": one.by_name, "at": one.at}
                for one in reversed(said.get(station.place, []))
            ],
        }
        for station in stations
    ]
