"""A wall as it was last answered: nothing on it is ever changed, so that its newest rows tell whether it is still the same."""

from __future__ import annotations

from datetime import date
from functools import lru_cache
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone

from amber_core.words.reader import Reader, current
from parts_wall.present import wall_out
from parts_wall.schemas import WallOut
from parts_wall.wall import find_wall
from records.writing import body_of, in_json
from shared.gathering import prepared_cursor

_APPENDED = ("wallbuild", "partrecord", "partphoto", "partneed", "quotelink")
_OF_LINKS = ("quotelinkend", "quoteanswer")
_HERE = "(SELECT id FROM here)"
_NEWEST = [f"(SELECT concat(max(id), ' ', max(at)) FROM parts_wall_{name} WHERE work_id IN {_HERE})" for name in _APPENDED]  # noqa: S608
_NEWEST += [
    f"(SELECT concat(max(id), ' ', max(at)) FROM parts_wall_{name} WHERE link_id IN"  # noqa: S608
    f" (SELECT id FROM parts_wall_quotelink WHERE work_id IN {_HERE}))"
    for name in _OF_LINKS
]
_STAMP = f"""
WITH here AS (
    SELECT work.* FROM work_work asked JOIN work_work work ON work.job_id = asked.job_id AND work.assembly_id = asked.assembly_id
    WHERE asked.id = %(key)s
)
SELECT concat_ws('|',
    (SELECT string_agg(concat_ws(',', id, version, updated_at, signed_off_at, sheet_revision_id), ';' ORDER BY id) FROM here),
    (SELECT concat_ws(',', job.number, job.version, vehicle.version, vehicle.name) FROM jobs_job job
        JOIN vehicles_vehicle vehicle ON vehicle.id = job.vehicle_id WHERE job.id = (SELECT job_id FROM here LIMIT 1)),
    {", ".join(_NEWEST)},
    (SELECT max(told.id) FROM parts_wall_wallbuild told JOIN work_work earlier ON earlier.id = told.work_id
        WHERE earlier.assembly_id = (SELECT assembly_id FROM here LIMIT 1)),
    (SELECT concat(sum(waiting), ' ', max(at)) FROM parts_wall_phonequeue WHERE work_id IN {_HERE}),
    (SELECT count(*) FROM parts_wall_quotelink WHERE work_id IN {_HERE} AND expires_at <= %(now)s)
)
"""  # noqa: S608 - the names of tables stand above


def wall_answer(work_id: UUID) -> HttpResponse:
    """The wall of a piece of work; worked out again only when something about it has changed.

    Raises
    ------
    Http404
        When there is no such work.
    """
    return in_json(_body(work_id, _stamp(work_id), timezone.localdate(), current()))


def _stamp(work_id: UUID) -> str:
    """What the wall hangs on, taken before it is read: what comes in between is found by the next stamp."""
    with prepared_cursor() as cursor:
        cursor.execute(_STAMP, {"key": work_id, "now": timezone.now()})
        (found,) = cursor.fetchone()
    return str(found)


@lru_cache(maxsize=64)
def _body(work_id: UUID, stamp: str, day: date, reader: Reader) -> str:
    return body_of(WallOut, wall_out(find_wall(work_id)))
