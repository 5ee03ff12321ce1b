"""The wall as the API shows it."""

from __future__ import annotations

from dataclasses import asdict
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.utils import timezone

from amber_core import payload
from amber_core.parts.assembly import LOOSEN, TRAPS, part_of
from amber_core.parts.build import CHOICES, WORDS, Build, asked_of
from amber_core.parts.catalogue import GROUPS
from amber_core.parts.drawing import HEIGHT, WIDTH, axes_of, spots_of
from amber_core.parts.findings import CLASSES, DECISIONS, FINDINGS, look_at
from amber_core.parts.sets import set_of
from amber_core.planning.quote import QuoteQuestion, compare_quotes
from amber_core.words import NOTHING, Said, listed, say
from parts_wall.models import Act, NeedState, PartNeed, PartRecord
from parts_wall.proposals import proposed
from parts_wall.schemas import PartOut
from parts_wall.services import closes, left_said, pieces_said
from parts_wall.wall import PartState, Wall

_GROUP = {one.code: one.name for one in GROUPS}
_GROUP_OF_NONE = say("typed in")


def wall_out(wall: Wall) -> dict[str, Any]:
    """Everything of a wall."""
    work = wall.work
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
        "parts": _parts_out(_Around(wall)),
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
        "axes": axes_of(spots_of(wall.assembly), wall.assembly),
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
            others = [key for key in look_at(state.look.findings, wall.assembly, state.key) if key not in found]
            if others:
                because = say("{part}: {found}", part=state.name, found=_found_said(tuple(state.look.findings)))
                found.update(dict.fromkeys(others, because))
    return found


@lru_cache(maxsize=256)
def _found_said(findings: tuple[str, ...]) -> Said:
    """What was found, in words."""
    return listed(FINDINGS[one].word for one in findings if one in FINDINGS)


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


class _Around:
    """What a part is shown by, beside what happened to it."""

    def __init__(self, wall: Wall) -> None:
        self.wall = wall
        self.needs = {one.key: one.state for one in wall.needs if one.key}
        self.spots = {one.key: one for one in spots_of(wall.assembly)}
        self.looked = _looked(wall)
        self.numbers = {state.key: number for number, state in enumerate(wall.in_order, start=1)}
        self.coming_off = frozenset(wall.planned)

    @property
    def keys(self) -> list[str]:
        """What comes off in this work, then what stays, then what was typed in."""
        wall = self.wall
        stays = (key for key in wall.assembly.places if key not in self.coming_off)
        return [*wall.planned, *stays, *(key for key in wall.states if key not in wall.assembly.places)]

    def of(self, key: str) -> PartState:
        """A part as it stands now."""
        return self.wall.states.get(key) or PartState(key=key, name=self.wall.name_of(key))

    def hangs_on(self, state: PartState) -> tuple[Any, ...]:
        """All that a part's place on its wall follows from; rows are only added, so that a key and its moment tell them."""
        rows = (state.off, state.back, state.look, state.pieces)
        told = tuple(row and (row.pk, row.at, row.photo in self.wall.photo_ids) for row in rows)
        pictures = tuple(photo.client_id for photo in state.photos)
        name, key = state.name, state.key
        return name, name.template, told, pictures, self.needs.get(key), self.looked.get(key), self.numbers.get(key)


@lru_cache(maxsize=16)
def last_shown(
    work: UUID, kind: str, sheet: int | None, build: Build, coming_off: frozenset[str]
) -> dict[str, tuple[tuple[Any, ...], PartOut]]:
    """Of each part what its place hung on when this wall was last shown, and the place; filled by `_parts_out`."""
    return {}


def _parts_out(around: _Around) -> list[PartOut]:
    """Every part. One about which nothing has changed since is not worked out again."""
    work = around.wall.work
    last = last_shown(work.pk, work.kind, work.sheet_revision_id, around.wall.build, around.coming_off)
    shown = []
    for key in around.keys:
        state = around.of(key)
        now = around.hangs_on(state)
        before = last.get(key)
        if before is None or before[0] != now:
            last[key] = before = now, PartOut.model_validate(_part_out(around, state))
        shown.append(before[1])
    return shown


def _part_out(around: _Around, state: PartState) -> dict[str, Any]:
    wall, key = around.wall, state.key
    place = wall.assembly.places.get(key)
    part = place.part if place else part_of(key)
    spot = around.spots.get(key)
    now = "on" if state.off is None else "off" if state.back is None else "stays_out" if state.back.act == Act.STAYS_OUT else "back"
    return {
        "key": key,
        "name": state.name,
        "group": _GROUP[part.group] if part else _GROUP_OF_NONE,
        "kind": part.kind if part else "",
        "planned": key in around.coming_off,
        "state": now,
        "count": wall.count_of(key),
        "wants_count": key in wall.counted or (part is not None and part.count is None and not part.stacked),
        "stacked": part is not None and part.stacked,
        "faces": part is not None and part.faces,
        "suggested_mark": place.mark if place else NOTHING,
        "one_time": wall.one_time(key),
        "trap": (LOOSEN.get(part.code) or TRAPS.get(part.code) or NOTHING) if part else NOTHING,
        "after": [one for one in wall.assembly.before[key] if one in around.coming_off] if place else [],
        "off": _off_out(state.off, around.numbers.get(key, 0)),
        "seen": _seen_out(state.look, wall.photo_ids),
        "pieces": _pieces_out(state.pieces),
        "back": _back_out(state.back),
        "look_at": around.looked.get(key, NOTHING) if state.look is None else NOTHING,
        "photos": [one.client_id for one in state.photos],
        "drawn": None if spot is None else {"x": spot.x, "y": spot.y, "turned_deg": spot.turned_deg},
        "need": around.needs.get(key),
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
        "findings_word": _found_said(tuple(row.findings)),
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
