"""Recording on the wall: off, inspected, pieces counted, back on, undone; how it is built; what has to be got."""

from __future__ import annotations

import re
from dataclasses import asdict, dataclass, field
from datetime import date
from typing import Any
from uuid import UUID, uuid5

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from accounts.models import Role
from amber_core import payload
from amber_core.parts.assembly import assembly_of
from amber_core.parts.build import Build
from amber_core.parts.findings import CLASSES, FINDINGS, kind_of
from amber_core.planning.quote import QuoteQuestion, compare_quotes
from amber_core.typed_stack import pieces_in
from amber_core.words import Said, listed, say
from jobs.models import WaitsFor
from jobs.services import settle, wait_begins, wait_over
from parts_wall.models import ON_ITS_WAY, Act, NeedState, PartNeed, PartPhoto, PartRecord, PhoneQueue, WallBuild
from parts_wall.proposals import proposed
from parts_wall.wall import OWN, PartState, Wall, find_wall
from records.writing import Writing
from shared.gathering import rows_of
from shared.pictures import Shrunk
from shared.refusals import Conflict, NotAllowed, Refusal
from work.models import Work
from work.services import lock_work, note_work

MOST_RECORDS = 3000
MOST_PHOTOS = 400
MOST_LINES = 300
MOST_PIECES = 40

CLOSING = frozenset({"cover", "tm", "thouse", "unit", "fdhalf", "scover"})
"""Parts that close over what lies behind them."""


def closes(key: str) -> bool:
    """Whether a part closes over others."""
    return key.partition(".")[0] in CLOSING


def _open(writing: Writing, work_id: UUID) -> tuple[Work, Wall]:
    """The work, locked, and its wall as it is now."""
    wall = find_wall(lock_work(Q(pk=work_id), writing, "record"))
    return wall.work, wall


def _keep(work: Work, wall: Wall, writing: Writing, key: str, act: str, **given: Any) -> Wall:
    """Append a record, and the wall with it; the first one of a work begins it."""
    if len(wall.rows("part_records")) >= MOST_RECORDS:
        raise Refusal(say("A wall can have {most} records at most.", most=MOST_RECORDS), field="key")
    if wall.taken_over is not None:  # what lies on this wall depends on it from now on
        rows_of(work, "wall_builds").append(WallBuild.objects.create(work=work, facts=asdict(wall.build), **writing.also()))
    record = PartRecord.objects.create(work=work, key=key, act=act, **given, **writing.row())
    if not work.begun:
        note_work(work, writing)
    return wall.after(record)


def _known(wall: Wall, key: str) -> None:
    if not key.startswith(OWN) and key not in wall.assembly.places and key not in wall.states:
        raise Refusal(
            say("This assembly has no such part. Correct how it is built, or type the part's name."), code="not_found", field="key"
        )


@transaction.atomic
def tell_build(writing: Writing, *, work_id: UUID, facts: dict[str, Any], asked: list[str]) -> None:
    """How the assembly is built, and what comes off beside the usual.

    Raises
    ------
    InvalidInput
        When it cannot be built so.
    """
    work, wall = _open(writing, work_id)
    build = payload.read(Build, facts)
    places = assembly_of(build).places
    lost = [state.name for key, state in wall.states.items() if state.is_off and not key.startswith(OWN) and key not in places]
    if lost:
        text = say("Built so, it would have no {parts}, which lies on the wall. Undo that first.", parts=listed(lost))
        raise Refusal(text, field="facts")
    WallBuild.objects.create(work=work, facts=asdict(build), asked=asked, **writing.row())


@dataclass(frozen=True, kw_only=True)
class Taken:
    """What is said of a part that comes off; all of it may be empty."""

    name: str = ""
    side: str = ""
    facing: str = ""
    mark: str = ""
    bag: str = ""
    counted: int | None = None
    stack: str = ""
    damaged: list[int] = field(default_factory=list)
    note: str = ""


@transaction.atomic
def take_off(writing: Writing, *, work_id: UUID, key: str, given: Taken, replaces: UUID | None, sure: bool) -> Wall:
    """A part is off, or what was said of one is corrected.

    Raises
    ------
    Refusal, InvalidInput, Conflict
        For a stack that cannot be, a count over what there is, or a part that somebody else has just put on the wall.
    """
    work, wall = _open(writing, work_id)
    _known(wall, key)
    state = wall.states.get(key)
    now = state.off if state is not None and state.is_off else None
    if now is not None and replaces != now.client_id:
        text = say("{part} is on the wall already: {by} took it off.", part=wall.name_of(key), by=now.by_name)
        raise Conflict(text, code="already_off")
    if now is None and replaces is not None:
        raise Conflict(say("Somebody else has changed this part. Look at it again before you correct it."), code="conflict")
    stack = _stack(given, writing)
    there = wall.count_of(key)
    if given.counted is not None and len(stack) > given.counted:
        text = say("{typed} thicknesses are typed and {counted} counted. Check which is right.", typed=len(stack), counted=given.counted)
        raise Refusal(text, field="stack")
    if given.counted is not None and there is not None and given.counted > there and not sure:
        text = say("{counted} counted, and there should be {there}. Count again.", counted=given.counted, there=there)
        raise Refusal(text, code="more_than_there_are", field="counted")
    told = {name: getattr(given, name) for name in ("side", "facing", "mark", "bag", "counted", "note")}
    name = given.name or ("" if not key.startswith(OWN) else wall.name_of(key).as_text())
    return _keep(work, wall, writing, key, Act.OFF, name=name, stack=stack, **told)


def _stack(given: Taken, writing: Writing) -> list[dict[str, Any]]:
    if not given.stack.strip():
        return []
    pieces = pieces_in(given.stack, unit=writing.length_unit, field="stack", most=MOST_PIECES)
    damaged = set(given.damaged)
    if damaged - set(range(len(pieces))):
        raise Refusal(say("A shim that is not in the stack is marked as damaged."), field="damaged")
    unit = {"mm": "mm", "thou": "thou", "hundredths_mm": "hundredths"}[writing.length_unit]
    return [
        {"entered": f"{one.text} {unit}" if one.bare else one.text, "mm": round(one.value, 4), "damaged": place in damaged}
        for place, one in enumerate(pieces)
    ]


@dataclass(frozen=True, kw_only=True)
class Seen:
    """What was found on a part, and what is decided."""

    findings: list[str]
    decision: str
    measured: str = ""
    photo: UUID | None = None
    drawn: list[dict[str, Any]] = field(default_factory=list)
    ways: dict[str, Any] | None = None
    way: str = ""
    note: str = ""


@transaction.atomic
def look_at(writing: Writing, *, work_id: UUID, key: str, seen: Seen) -> Wall:
    """A part was inspected, on the wall or in its place.

    Raises
    ------
    Refusal, InvalidInput
        For a finding that a part of its kind cannot have, a way that is not among the ways, or prices that do not hold together.
    """
    work, wall = _open(writing, work_id)
    _known(wall, key)
    known = CLASSES[kind_of(key)].findings if not key.startswith(OWN) else tuple(FINDINGS)
    for one in seen.findings:
        if one not in known:
            raise Refusal(say("This cannot be found on such a part. Choose from its list."), field="findings")
    if seen.ways is not None:
        priced = compare_quotes(_question(seen.ways))
        if seen.way and seen.way not in {one.name for one in priced.ways}:
            raise Refusal(say("“{way}” is not among the ways that are priced.", way=seen.way), field="way")
    if seen.photo is not None and seen.photo not in wall.photo_ids:
        raise Refusal(say("The picture is not on this wall."), field="photo")
    return _keep(work, wall, writing, key, Act.LOOK, **asdict(seen))


def _question(ways: dict[str, Any]) -> QuoteQuestion:
    question: QuoteQuestion = payload.read(QuoteQuestion, ways)
    return question


@transaction.atomic
def count_pieces(writing: Writing, *, work_id: UUID, key: str, missing: int, given_up: bool, note: str) -> Wall:
    """How many pieces of a broken part are missing, after they were laid out; given up by a foreman, with the reason.

    Raises
    ------
    NotAllowed, Refusal
        When a technician gives pieces up, or nobody says why.
    """
    work, wall = _open(writing, work_id)
    _known(wall, key)
    if given_up:
        if writing.by.works_as != Role.FOREMAN:
            raise NotAllowed(say("Only a foreman can give up pieces that are missing."))
        if not note:
            raise Refusal(say("Give a reason for giving up the missing pieces."), field="note")
    return _keep(work, wall, writing, key, Act.PIECES, missing=missing, given_up=given_up, note=note)


@transaction.atomic
def put_back(
    writing: Writing, *, work_id: UUID, key: str, is_new: bool, stays_out: bool, counted: int | None, sure: bool, note: str
) -> Wall:
    """A part is on again, a new one in its place, or it stays out with a reason.

    Raises
    ------
    Refusal, Conflict
        For a part that is on already, a used one that is used once, one that closes over others, or one before its turn.
    """
    work, wall = _open(writing, work_id)
    state = wall.states.get(key)
    if state is None or state.off is None:
        raise Refusal(say("This part was never taken off."), code="not_off", field="key")
    if state.back is not None:
        text = say("{part} is back on already: {by} put it on.", part=state.name, by=state.back.by_name)
        raise Conflict(text, code="already_back")
    if stays_out and not note:
        raise Refusal(say("Give a reason for leaving it out."), field="note")
    if not stays_out:
        _may_go_on(wall, state, is_new=is_new, counted=counted, sure=sure)
    act = Act.STAYS_OUT if stays_out else Act.BACK
    return _keep(work, wall, writing, key, act, is_new=is_new and not stays_out, counted=counted, note=note)


def _may_go_on(wall: Wall, state: PartState, *, is_new: bool, counted: int | None, sure: bool) -> None:
    key, off = state.key, state.off
    if wall.one_time(key) == "always" and not is_new:
        raise Refusal(say("{part}: used once. Fit a new one.", part=state.name), code="one_time", field="is_new")
    if state.look is not None and state.look.decision == "replace" and not is_new and not sure:
        text = say("{part}: the decision was to replace it. Fit a new one, or change the decision.", part=state.name)
        raise Refusal(text, code="to_replace", field="is_new")
    if off is not None and off.counted is not None and counted is not None:
        if counted > off.counted:
            text = say("{counted} cannot go back: {off} came off.", counted=counted, off=off.counted)
            raise Refusal(text, field="counted")
        if counted < off.counted:
            text = say(
                "{counted} counted, {off} came off: {missing} still missing.",
                counted=counted,
                off=off.counted,
                missing=off.counted - counted,
            )
            raise Refusal(text, code="short", field="counted")
    if closes(key):
        if missing := wall.pieces_missing:
            raise Refusal(pieces_said(missing), code="held", field="key")
        if left := wall.inside(key):
            raise Refusal(left_said(left), code="held", field="key")
    elif not sure and (first := _first(wall, key)):
        text = say("{first} goes on before this. Put that back first.", first=first.name)
        raise Refusal(text, code="out_of_order", field="key")


def _first(wall: Wall, key: str) -> PartState | None:
    """What lies on the wall and has to be on before this one, if anything."""
    waits = wall.assembly.back_before([one.key for one in wall.in_order]).get(key, set())
    return next((one for one in reversed(wall.in_order) if one.key in waits), None)


def pieces_said(missing: list[PartState]) -> Said:
    """Why nothing is closed yet: pieces."""
    return say(
        "Hold point: pieces are missing from {parts}. Find them, or have a foreman give them up with a reason.",
        parts=listed(one.name for one in missing),
    )


def left_said(left: list[PartState]) -> Said:
    """Why nothing is closed yet: parts on the wall."""
    some = listed(one.name for one in left[:6])
    if len(left) > 6:
        return say("Hold point: still on the wall: {parts} and {more} more. They go in first.", parts=some, more=len(left) - 6)
    return say("Hold point: still on the wall: {parts}. They go in first.", parts=some)


@transaction.atomic
def undo(writing: Writing, *, work_id: UUID, record_id: UUID) -> Wall:
    """Take a record of this wall back, or a picture; it stays readable.

    Raises
    ------
    Refusal, Conflict
        When there is no such record, it is undone already, or something later of the same part stands on it.
    """
    work, wall = _open(writing, work_id)
    rows = wall.rows("part_records")
    row = next((one for one in rows if one.client_id == record_id and one.act != Act.UNDO), None)
    photo = next((one for one in wall.rows("part_photos") if one.client_id == record_id), None)
    kept: PartRecord | PartPhoto | None = row or photo
    if kept is None:
        raise Refusal(say("This is not on the wall."), code="not_found", field="record")
    if kept.work.signed_off_at is not None:
        raise Conflict(say("This was recorded under work that is signed off."), code="signed_off")
    if kept not in [*wall.records, *wall.pictures]:
        raise Conflict(say("This is undone already."), code="already_undone")
    if row is None:
        return _keep(work, wall, writing, kept.key, Act.UNDO, photo=kept.client_id)
    state = wall.states[row.key]
    if row.act == Act.OFF and state.back is not None and state.off is not None and state.off.pk == row.pk:
        raise Refusal(say("This part is back on. Undo that first."), field="record")
    return _keep(work, wall, writing, row.key, Act.UNDO, undoes=row)


@transaction.atomic
def add_photo(writing: Writing, *, work_id: UUID, key: str, picture: Shrunk) -> None:
    """Keep a picture of a part.

    Raises
    ------
    Refusal
        With as many pictures as a wall can have.
    """
    work, wall = _open(writing, work_id)
    _known(wall, key)
    if len(wall.rows("part_photos")) >= MOST_PHOTOS:
        raise Refusal(say("A wall can have {most} pictures at most.", most=MOST_PHOTOS), field="file")
    PartPhoto.objects.create(work=work, key=key, content=picture.content, small=picture.small, **writing.row())


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """A line of the parts list as it is to be."""

    name: str
    count: int = 1
    price: str = ""
    supplier: str = ""
    state: str = NeedState.WANTED
    due_on: date | None = None
    note: str = ""
    key: str = ""


_MONEY = re.compile(r"\d{1,9}(?:[.,]\d{1,2})?")


def money_in(typed: str, field: str = "price") -> int | None:
    """A price as it is typed, in the smallest unit; None where nothing is.

    Raises
    ------
    Refusal
        For what is no amount.
    """
    text = typed.strip().replace("\u202f", "").replace(" ", "")
    if not text:
        return None
    if not _MONEY.fullmatch(text):
        raise Refusal(say("“{typed}” is no price. Write an amount such as 12.50.", typed=typed.strip()[:40]), field=field)
    whole, _, part = text.replace(",", ".").partition(".")
    return int(whole) * 100 + int(part.ljust(2, "0") or 0)


@transaction.atomic
def want(writing: Writing, *, work_id: UUID, line: UUID, wanted: Wanted, version: UUID | None) -> None:
    """A line of the parts list: new, or as it is from now on. The job waits by itself while parts are on their way.

    Raises
    ------
    Refusal, Conflict
        For a price that is none, or a line that somebody else has changed.
    """
    work, wall = _open(writing, work_id)
    rows = [one for one in wall.rows("part_needs") if one.line == line]
    last = max(rows, key=lambda one: one.pk, default=None)
    if (last.client_id if last else None) != version:
        raise Conflict(say("Somebody else changed this line while you were editing it. Look at it again."), code="conflict")
    if last is None and len(wall.needs) >= MOST_LINES:
        raise Refusal(say("A parts list can have {most} lines at most.", most=MOST_LINES), field="name")
    given = {name: value for name, value in vars(wanted).items() if name != "price"}
    PartNeed.objects.create(work=work, line=line, price=money_in(wanted.price), **given, **writing.row())
    _wait(work, find_wall(work.pk))


@transaction.atomic
def want_all(writing: Writing, *, work_id: UUID, keys: list[str]) -> None:
    """The parts that are proposed, each a line."""
    work, wall = _open(writing, work_id)
    offered = {one.key: one for one in proposed(wall)}
    for key in keys:
        one = offered.get(key)
        if one is not None:
            line, name = uuid5(writing.id, key), str(one.name)[:120]
            PartNeed.objects.create(work=work, line=line, key=key, name=name, count=one.count, **writing.also())


def _wait(work: Work, wall: Wall) -> None:
    """The job waits while parts are on their way, and comes back when they are here; what it waits for otherwise is left alone."""
    job = work.job
    on_way = [one for one in wall.needs if one.state in ON_ITS_WAY]
    mine = job.waits_for == WaitsFor.PARTS and job.waits_note.startswith(_ON_ORDER)
    if on_way and (mine or job.waits_for == WaitsFor.NOTHING):
        due = max((one.due_on for one in on_way if one.due_on), default=None)
        names = ", ".join(one.name for one in on_way)
        note = f"{_ON_ORDER} {names}"[:160] + (f"; due {due:%-d %B %Y}" if due else "")
        wait_begins(job, WaitsFor.PARTS, note)
        settle(job)
    elif not on_way and mine:
        wait_over(job)
        settle(job)


_ON_ORDER = "On order:"


@transaction.atomic
def announce(writing: Writing, *, work_id: UUID, waiting: int) -> None:
    """A device says how many writes of this wall it still holds."""
    PhoneQueue.objects.update_or_create(
        work_id=lock_work(Q(pk=work_id), writing, "record"),
        device=writing.device,
        defaults={"waiting": waiting, "person": writing.by, "person_name": str(writing.by), "at": timezone.now()},
    )
