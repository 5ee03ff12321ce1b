"""What the build sheet says of parts: found and decided, new, left out, pieces, got, and what the customer said."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from amber_core.parts.findings import DECISIONS, FINDINGS
from amber_core.words import NOTHING, listed
from parts_wall.models import Act, NeedState
from parts_wall.wall import find_wall


def parts_record(work_id: UUID) -> dict[str, Any] | None:
    """The wall as it is signed; None when nothing was ever put on it."""
    wall = find_wall(work_id)
    if not wall.used and not wall.needs:
        return None
    states = list(wall.states.values())
    return {
        "off": sum(one.off is not None for one in states),
        "looked_at": [
            {
                "part": one.name,
                "found": listed(FINDINGS[code].word for code in one.look.findings) if one.look.findings else NOTHING,
                "decision": DECISIONS.get(one.look.decision, NOTHING),  # type: ignore[call-overload]
                "measured": one.look.measured,
                "way": one.look.way,
                "note": one.look.note,
                "by_name": one.look.by_name,
                "at": one.look.at,
            }
            for one in states
            if one.look is not None
        ],
        "new": [one.name for one in states if one.back is not None and one.back.is_new],
        "stays_out": [{"part": one.name, "why": one.back.note} for one in states if one.back is not None and one.back.act == Act.STAYS_OUT],
        "pieces": [
            {
                "part": one.name,
                "missing": one.pieces.missing,
                "given_up": one.pieces.given_up,
                "note": one.pieces.note,
                "by_name": one.pieces.by_name,
            }
            for one in states
            if one.pieces is not None
        ],
        "got": [
            {"name": one.name, "count": one.count, "supplier": one.supplier, "state": NeedState(one.state).label, "note": one.note}
            for one in wall.needs
        ],
        "answers": [
            {
                "name": link.answer.name,
                "at": link.answer.at,
                "yes": [wall.name_of(key) for key, yes in link.answer.answers.items() if yes],
                "no": [wall.name_of(key) for key, yes in link.answer.answers.items() if not yes],
                "note": link.answer.note,
            }
            for link in wall.rows("quote_links")
            if getattr(link, "answer", None) is not None
        ],
    }
