"""The wall as the API shows it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.utils import timezone

from amber_core import payload
from amber_core.parts.assembly import LOOSEN, TRAPS, part_of
from amber_core.parts.build import CHOICES, WORDS, asked_of
from amber_core.parts.catalogue import GROUPS
from amber_core.parts.drawing import HEIGHT, WIDTH, axes_of, spots_of
from amber_core.parts.findings import CLASSES, DECISIONS, FINDINGS, look_at
from amber_core.parts.sets import set_of
from amber_core.planning.quote import QuoteQuestion, compare_quotes
from amber_core.words import NOTHING, Said, listed, say
from parts_wall.models import Act, NeedState, PartNeed, PartRecord
from parts_wall.proposals import proposed
from parts_wall.services import closes, left_said, pieces_said
from parts_wall.wall import PartState, Wall

_GROUP = {one.code: one.name for one in GROUPS}
_GROUP_OF_NONE = say("typed in")


def wall_out(wall: Wall) -> dict[str, Any]:
    """Everything of a wall."""
    work = wall.work
    needs = {one.key: one.state for one in wall.needs if one.key}
    spots = spots_of(wall.assembly)
    at = {one.key: one for one in spots}
    looked = _looked(wall)
    numbers = {state.key: number for number, state in enumerate(wall.in_order, start=1)}
    planned = wall.planned
    coming_off = set(planned)
    keys = [
        *planned,
        *(key for key in wall.assembly.places if key not in coming_off),
        *(key for key in wall.states if key not in wall.assembly.places),
    ]
    return {
        "work_id": work.pk,
        "job_id": work.job_id,
        "number": work.job.number,
        "title": work.title,
        "vehicle": work.job.vehicle.name,
        "signed": work.signed_off_at is not None,
        "guessed": wall.told is None,
        "taken_over": wall.taken_over and {"by_name": wall.taken_over.by_name, "at": wall.taken_over.at},
        "build": _build_out(wall),
        "asked": _asked_out(wall),
        "parts": [_part_out(wall, key, needs, at, looked, numbers, coming_off) for key in keys],
        "back": [
            {"key": one.key, "why": one.why, "closes": closes(one.key)}
            for one in wall.assembly.order_back([state.key for state in wall.in_order])
        ],
        "hold": _hold(wall),
        "needs": [need_out(one) for one in wall.needs],
        "proposals": proposed(wall),
        "findings": [{"code": code, "word": one.word, "then": one.then, "pieces": one.pieces} for code, one in FINDINGS.items()],
        "classes": [
            {"kind": kind, "findings": list(one.findings), "decides": one.decides, "tools": list(one.tools), "ways": list(one.ways)}
            for kind, one in CLASSES.items()
        ],
        "width": WIDTH,
        "height": HEIGHT,
        "axes": axes_of(spots, wall.assembly),
        "phones": [
            {"device": one.device, "person_name": one.person_name, "waiting": one.waiting, "at": one.at}
            for one in wall.rows("phone_queues")
            if one.waiting
        ],
        "links": [_link_out(one) for one in wall.rows("quote_links")],
    }


def _looked(wall: Wall) -> dict[str, Said]:
    """The parts that a finding on another makes one look at, and why."""
    found: dict[str, Said] = {}
    for state in wall.states.values():
        if state.look is not None:
            words = listed(FINDINGS[one].word for one in state.look.findings if one in FINDINGS)
            because = say("{part}: {found}", part=state.name, found=words)
            for key in look_at(state.look.findings, wall.assembly, state.key):
                found.setdefault(key, because)
    return found


def _hold(wall: Wall) -> Said:
    """What keeps it from being closed now, if anything."""
    if wall.pieces_missing:
        return pieces_said(wall.pieces_missing)
    closing = [one.key for one in wall.in_order if closes(one.key)]
    backs = [row for row in wall.records if row.act in (Act.BACK, Act.STAYS_OUT)]
    if closing and backs:
        left = {one.key: one for key in closing for one in wall.inside(key)}
        return left_said(list(left.values())) if left and len(left) <= 12 else NOTHING
    return NOTHING


def _build_out(wall: Wall) -> list[dict[str, Any]]:
    facts = asdict(wall.build)
    return [
        {
            "name": name,
            "label": WORDS[name][0],
            "value": facts[name],
            "choices": [{"code": code, "label": WORDS[name][1][code]} for code in CHOICES.get(name, ())],
        }
        for name in asked_of(wall.build.unit, wall.build.ends)
    ]


def _asked_out(wall: Wall) -> list[dict[str, Any]]:
    chosen = set(wall.told.asked) if wall.told else set()
    offered = set_of(wall.work.kind, wall.assembly).asked.split()
    named = []
    for code in offered:
        part = part_of(code)
        label = _GROUP.get(code) or (part.name if part else NOTHING)
        if code in _GROUP or any(place.part.code == code for place in wall.assembly.places.values()):
            named.append({"code": code, "label": label, "on": code in chosen})
    return named


def _part_out(
    wall: Wall, key: str, needs: dict[str, Any], at: dict[str, Any], looked: dict[str, Said], numbers: dict[str, int], coming_off: set[str]
) -> dict[str, Any]:
    state = wall.states.get(key) or PartState(key=key, name=wall.name_of(key))
    place = wall.assembly.places.get(key)
    part = place.part if place else part_of(key)
    spot = at.get(key)
    now = "on" if state.off is None else "off" if state.back is None else "stays_out" if state.back.act == Act.STAYS_OUT else "back"
    return {
        "key": key,
        "name": state.name,
        "group": _GROUP[part.group] if part else _GROUP_OF_NONE,
        "kind": part.kind if part else "",
        "planned": key in coming_off,
        "state": now,
        "count": wall.count_of(key),
        "wants_count": key in wall.counted or (part is not None and part.count is None and not part.stacked),
        "stacked": part is not None and part.stacked,
        "faces": part is not None and part.faces,
        "suggested_mark": place.mark if place else NOTHING,
        "one_time": wall.one_time(key),
        "trap": (LOOSEN.get(part.code) or TRAPS.get(part.code) or NOTHING) if part else NOTHING,
        "after": [one for one in wall.assembly.before[key] if one in coming_off] if place else [],
        "off": _off_out(state.off, numbers.get(key, 0)),
        "seen": _seen_out(state.look, wall.photo_ids),
        "pieces": _pieces_out(state.pieces),
        "back": _back_out(state.back),
        "look_at": looked.get(key, NOTHING) if state.look is None else NOTHING,
        "photos": [one.client_id for one in state.photos],
        "drawn": None if spot is None else {"x": spot.x, "y": spot.y, "turned_deg": spot.turned_deg},
        "need": needs.get(key),
    }


def _who(row: PartRecord) -> dict[str, Any]:
    return {"id": row.client_id, "by_name": row.by_name, "at": row.at}


def _off_out(row: PartRecord | None, order: int) -> dict[str, Any] | None:
    if row is None:
        return None
    told = {name: getattr(row, name) for name in ("side", "facing", "mark", "bag", "counted", "stack", "note")}
    total = round(sum(one["mm"] for one in row.stack), 4) if row.stack else None
    return {**_who(row), **told, "order": order, "stack_mm": total}


def _seen_out(row: PartRecord | None, photos: set[UUID]) -> dict[str, Any] | None:
    if row is None:
        return None
    told = {name: getattr(row, name) for name in ("findings", "decision", "measured", "photo", "drawn", "ways", "way", "note")}
    found = [FINDINGS[one] for one in row.findings if one in FINDINGS]
    return {
        **_who(row),
        **told,
        "photo": row.photo if row.photo in photos else None,  # a file can come without its pictures
        "findings_word": listed(one.word for one in found) if found else NOTHING,
        "then": [one.then for one in found],
        "decision_word": DECISIONS.get(row.decision, NOTHING),  # type: ignore[call-overload]
        "total": price_of(row),
    }


def price_of(row: PartRecord) -> int | None:
    """What the chosen way of a look costs, in the smallest unit; None without prices or a choice."""
    if row.ways is None or not row.way:
        return None
    priced = compare_quotes(payload.read(QuoteQuestion, row.ways))
    return next((one.total for one in priced.ways if one.name == row.way), None)


def _pieces_out(row: PartRecord | None) -> dict[str, Any] | None:
    return None if row is None else {**_who(row), "missing": row.missing, "given_up": row.given_up, "note": row.note}


def _back_out(row: PartRecord | None) -> dict[str, Any] | None:
    return None if row is None else {**_who(row), "is_new": row.is_new, "stays_out": row.act == Act.STAYS_OUT, "note": row.note}


def need_out(row: PartNeed) -> dict[str, Any]:
    """A line of the parts list."""
    told = {
        name: getattr(row, name)
        for name in ("line", "key", "name", "count", "price", "supplier", "state", "due_on", "note", "by_name", "at")
    }
    late = row.due_on is not None and row.due_on < timezone.localdate() and row.state in (NeedState.ASKED, NeedState.ORDERED)
    return {**told, "version": row.client_id, "state_word": NeedState(row.state).label, "late": late}


def _link_out(link: Any) -> dict[str, Any]:
    answer, end = getattr(link, "answer", None), getattr(link, "end", None)
    if end or answer:
        state = "called_back" if end else "answered"
    elif link.by_file:
        state = "by_file"
    else:
        state = "expired" if link.expires_at <= timezone.now() else "open"
    return {
        "id": link.client_id,
        "state": state,
        "by_name": link.by_name,
        "at": link.at,
        "expires_at": link.expires_at,
        "lines": len(link.document["lines"]),
        "answer": answer_out(answer),
    }


def answer_out(answer: Any) -> dict[str, Any] | None:
    """What the customer said."""
    return None if answer is None else {"name": answer.name, "note": answer.note, "at": answer.at, "answers": answer.answers}
