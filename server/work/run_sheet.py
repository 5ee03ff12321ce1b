"""The run sheet of a piece of work: the steps of its kind, what was passed, and what a step asks before it lets go."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property, lru_cache

from django.utils import timezone

from amber_core.fits.land import moves_the_marks
from amber_core.procedures import library
from amber_core.procedures.steps import Ask, LibraryStep, Step, blocking_hold, next_step, steps_for
from amber_core.quantities import Typed, parse
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import NOTHING, Said, figure, say, together
from shared.refusals import Refusal
from work.checks import check_of, held_shut
from work.match import HELD_CODE, match_held
from work.models import LETS_ON, GearSetRecord, Outcome, ProcedureRevision, StepReading, StepRecord, WayChoice, Work

_RESOLUTION = {"torque": 0.05, "length": 0.01}
_UNIT = {"torque": "Nm", "length": "mm", "volume": "l", "distance": "km", "force": "N"}
_READ = (Outcome.PASSED, Outcome.OUT)
_NUT_OF = {"crush_sleeve": "new_sleeve", "spacer": "spacer", "outer_shims": "outer_shims"}
BACK_TO_MARK = "back_to_mark"
NUTS_DUE_KM = (50.0, 100.0)
CLOSE = 1e-9


@dataclass(frozen=True)
class TakenValue:
    """One value of a step: what it answers, as it was typed, and as a number in the inside unit."""

    ask: Ask
    entered: str
    value: float


@dataclass(frozen=True)
class Taken:
    """What a step took; `out` says why it cannot be passed with that."""

    entered: str = ""
    value: float | None = None
    values: list[TakenValue] = field(default_factory=list)
    out: Said = NOTHING


@dataclass(frozen=True)
class Judged:
    """A reading's verdict with why, and the as-found one that it stands beside."""

    verdict: VerdictWord
    text: Said
    beside: float | None = None


@lru_cache(maxsize=64)
def _library(procedure_id: int, content_hash: str) -> list[LibraryStep]:
    """The steps of a procedure revision; it never changes, so it is read once."""
    return library.read(ProcedureRevision.objects.get(pk=procedure_id, content_hash=content_hash).content)


def library_of(procedure: ProcedureRevision) -> list[LibraryStep]:
    """Every step of a procedure revision."""
    return _library(procedure.pk, procedure.content_hash)


class RunSheet:
    """Reads a piece of work's records once, in four queries at the most."""

    def __init__(self, work: Work) -> None:
        self.work = work

    @cached_property
    def latest(self) -> dict[str, StepRecord]:
        """The latest record of each step."""
        return {record.step_code: record for record in self.work.step_records.all()}

    @cached_property
    def choices(self) -> dict[str, WayChoice]:
        """The latest choice of each question."""
        return {one.question: one for one in self.work.way_choices.all()}

    @cached_property
    def ways(self) -> dict[str, str]:
        """The way that each question was answered with; one whose step was taken back is open again."""
        undone = {code for code, record in self.latest.items() if record.outcome == Outcome.TAKEN_BACK}
        return {question: one.way for question, one in self.choices.items() if question not in undone}

    @cached_property
    def steps(self) -> list[Step]:
        """The steps of this work in order, by the procedure and the sheet that it is pinned to, and the ways that were chosen."""
        procedure, sheet = self.work.procedure, self.work.sheet
        speed_ring = sheet.has_speed_ring if self.work.sheet_revision_id else self.ways.get("sensor") == "yes"
        facts = {"has_spreader": sheet.has_spreader, "has_speed_ring": speed_ring, "has_sheet": bool(self.work.sheet_revision_id)}
        return steps_for(library_of(procedure), facts, self.ways)

    @cached_property
    def gear_set(self) -> GearSetRecord | None:
        """The identification that counts."""
        return max(self.work.gear_sets.all(), key=lambda record: record.pk, default=None)

    @cached_property
    def passed(self) -> set[str]:
        """Codes of the steps that are passed; the gear set's follows from its record."""
        codes = {code for code, record in self.latest.items() if record.outcome in LETS_ON}
        return codes | {"gear_set"} if self.gear_set else codes

    @property
    def begun(self) -> bool:
        """Whether any work was recorded."""
        return bool(self.latest) or self.gear_set is not None

    @property
    def next(self) -> Step | None:
        """The first step not passed."""
        return next_step(self.steps, self.passed)

    @property
    def open_now(self) -> Step | None:
        """The step in hand: the first that is neither passed nor a clock that is running and holds nothing up."""
        for step in self.steps:
            if step.code in self.passed:
                continue
            if not step.hold and self.to_go(step):
                continue
            return step
        return self.next

    @cached_property
    def found(self) -> dict[str, StepReading]:
        """The latest reading of each name; what was read at a step that was taken back or left out since does not count."""
        rows = [one for record in self.latest.values() if record.outcome in _READ for one in record.readings.all()]
        return {one.name: one for one in sorted(rows, key=lambda row: row.pk)}

    def step(self, code: str) -> Step:
        """The step of that code.

        Raises
        ------
        Refusal
            When this work's run sheet has none.
        """
        found = next((step for step in self.steps if step.code == code), None)
        if found is None:
            raise Refusal(say("This run sheet has no such step."), code="not_found", field="step")
        return found

    def advised(self, step: Step) -> str:
        """The way to begin with: how the sheet says this axle is built, else what the library recommends; empty where neither says."""
        sheet = self.work.sheet
        built = {"shafts": sheet.shafts, "nut": _NUT_OF.get(sheet.preload_method, "") if self.work.sheet_revision_id else ""}
        offered = [one.code for one in step.ways if not self.shut(step.code, one.code)]
        first = next((one.code for one in step.ways if one.recommended and one.code in offered), "")
        if built.get(step.code) in offered and first != BACK_TO_MARK:
            return built[step.code]
        return first

    def shut(self, question: str, way: str) -> Said:
        """Why a way is not open to this work; empty when it is. Marks mean nothing with a flange of another length."""
        if (question, way) != ("nut", BACK_TO_MARK) or self.ways.get("flange_land") != "new_flange":
            return NOTHING
        old, new = (self.found.get(name) for name in ("as_found.flange_length", "flange_length"))
        if old is None or new is None or not moves_the_marks(old.value, new.value):
            return NOTHING
        by = new.value - old.value
        return (
            say("The new flange is {by:mm2} longer, so the marks mean nothing. Choose a way that measures the preload.", by=by)
            if by > 0.0
            else say("The new flange is {by:mm2} shorter, so the marks mean nothing. Choose a way that measures the preload.", by=-by)
        )

    def hold_before(self, code: str) -> Step | None:
        """The hold point that keeps this step shut, if any."""
        return blocking_hold(self.steps, self.passed, code)

    def reach(self, code: str) -> Step:
        """The step of that code, when nothing before it keeps it shut.

        Raises
        ------
        Refusal
            Naming the hold point.
        """
        step, held = self.step(code), self.hold_before(code)
        if held is not None:
            raise Refusal(say("Hold point: “{title}” comes first.", title=held.title), code="held", field="step")
        return step

    def running(self, step: Step) -> StepRecord | None:
        """The clock or wait of a step that was begun and is not over with."""
        record = self.latest.get(step.code)
        return record if record is not None and record.outcome == Outcome.BEGUN else None

    def to_go(self, step: Step, now: datetime | None = None) -> float | None:
        """Minutes until a running clock is over, 0 when it is; None when none runs."""
        record = self.running(step)
        if record is None or record.until is None:
            return None
        return max((record.until - (now or timezone.now())).total_seconds() / 60.0, 0.0)

    def take(self, code: str, typed: Mapping[str, str], length_unit: str, torque_unit: str) -> Taken:
        """Check what a step asks for; `typed` by the names of its asks, or under an empty name where it asks for one thing.

        Raises
        ------
        Refusal, InvalidInput
            With what keeps the step from being passed.
        """
        step = self.reach(code)
        if shut := held_shut(self.work, step) or (self.shut("nut", BACK_TO_MARK) if code == "nut_to_mark" else NOTHING):
            raise Refusal(shut, code="held", field="step")
        if step.act in ("read", "count"):
            return self._take_values(step, typed, length_unit, torque_unit)
        if step.act == "bolts":
            return self._take_bolts(step, typed.get("", ""))
        if step.act == "choose" and step.code not in self.ways:
            raise Refusal(say("Choose one of the ways first."), code="held", field="way")
        if step.act in ("clock", "wait"):
            self._check_clock(step)
        if step.measure == "gear_set" and self.gear_set is None:
            raise Refusal(say("Identify the gear set first: count teeth or turns."), code="held", field="step")
        if missing := self.missing(step):
            raise Refusal(missing, code="held", field="step")
        if code == HELD_CODE and (apart := match_held(self.work.job)):
            raise Refusal(apart, code="held", field="step")
        return Taken()

    def _check_clock(self, step: Step) -> None:
        if self.running(step) is None:
            text = say("Start the clock first.") if step.act == "clock" else say("Park the work first: say what it waits for.")
            raise Refusal(text, code="held", field="step")
        left = self.to_go(step)
        if left:
            raise Refusal(
                say("The clock runs another {minutes:.0f} minutes. Give a reason to cut it short.", minutes=max(left, 1.0)),
                code="running",
                field="step",
            )

    def missing(self, step: Step) -> Said | None:
        """What an area still lacks for a step of its own: a sentence, empty when nothing is; None for any other step."""
        check = check_of(step.measure) if step.measure else None
        return None if check is None else check(self.work)

    def _take_values(self, step: Step, typed: Mapping[str, str], length_unit: str, torque_unit: str) -> Taken:
        alone = len(step.asks) == 1
        known = {ask.name for ask in step.asks} | {""}
        for name in typed:
            if name not in known:
                raise Refusal(say("This step does not read “{name}”.", name=name), field=f"values.{name}"[:100])
        values: list[TakenValue] = []
        for place, ask in enumerate(step.asks):
            text = typed.get(ask.name, typed.get("", "") if place == 0 else "")
            if not text.strip() and ask.may_skip:
                continue
            where = "typed" if alone else f"values.{ask.name}"
            values.append(self._value(ask, text, where, length_unit, torque_unit))
        for at, one in enumerate(values):
            known_here = {other.ask.name: other.value for other in values[:at]}
            found = self.judged(one.ask, one.value, known_here)
            if found.verdict == "out" and not one.ask.as_found:
                return self._taken(values, out=found.text)
        return self._taken(values)

    @staticmethod
    def _taken(values: list[TakenValue], out: Said = NOTHING) -> Taken:
        said = ", ".join(one.entered for one in values)[:200]
        return Taken(entered=said, value=values[0].value if values else None, values=values, out=out)

    @staticmethod
    def _value(ask: Ask, text: str, where: str, length_unit: str, torque_unit: str) -> TakenValue:
        if ask.dimension == "number":
            return _plain_value(ask, text, where)
        unit = ask.unit or {"torque": torque_unit, "length": length_unit}.get(ask.dimension, _UNIT[ask.dimension].lower())
        read: Typed = parse(text, dimension=ask.dimension, unit=unit, field=where)
        if read.value < 0.0 or (read.value == 0.0 and (ask.least or 0.0) > 0.0):
            raise Refusal(say("{what} must be more than 0.", what=ask.what), field=where)
        return TakenValue(ask, f"{read.text} {unit}" if read.bare else read.text, read.value)

    def judged(self, ask: Ask, value: float, here: Mapping[str, float] | None = None) -> Judged:
        """A value held against the sheet, the rule's own window, and what was found; `here` is what the same step reads before it."""
        before = (here or {}).get(ask.beside, self.found[ask.beside].value if ask.beside in self.found else None) if ask.beside else None
        sheet = self.work.sheet.limit(ask.limit) if ask.limit else None
        resolution = _RESOLUTION.get(ask.dimension, 0.0)
        unit = _UNIT.get(ask.dimension, ask.unit)
        held: list[Limit] = []

        def hold(bound: float | None, side: str, of: float, what: Said) -> None:
            if bound is not None:
                held.append(Limit(value=of, bound=bound, side=side, field="typed", what=what, unit=unit))  # type: ignore[arg-type]

        if sheet is not None:
            hold(sheet.least, "min", value, ask.what)
            hold(sheet.greatest, "max", value, ask.what)
        elif not ask.beside:
            hold(ask.least, "min", value, ask.what)
            hold(ask.greatest, "max", value, ask.what)
        if before is not None:
            changed = _changed(ask, value, before)
            if changed:
                return Judged("out", changed, before)
            if ask.at_least_as_found:
                hold(before, "min", value, ask.what)
            if not held and ask.greatest is not None:
                return Judged("in", NOTHING, before)
        if not held:
            return Judged("unknown", NOTHING, before)
        verdict, reasons = judge(held, resolution)
        return Judged(verdict, _why(reasons, verdict), before)

    def _take_bolts(self, step: Step, typed: str) -> Taken:
        wanted = self.bolts(step)
        ticked = int(typed) if typed.strip().isdecimal() and len(typed) < 5 else 0
        if ticked < 1 or (wanted is not None and ticked != wanted):
            text = (
                say("{ticked} of {wanted} bolts are ticked. Tick all {wanted}, one by one.", ticked=ticked, wanted=wanted)
                if wanted
                else say("No bolts are ticked. Tick every bolt, one by one.")
            )
            raise Refusal(text, code="held", field="typed")
        return Taken(entered=f"{ticked} ticked", value=float(ticked))

    def bolts(self, step: Step) -> int | None:
        """How many bolts the sheet says a step has, both sides together."""
        fastener = self.work.sheet.fastener(step.limit) if step.limit else None
        return fastener.count * fastener.sides if fastener else None


def _plain_value(ask: Ask, text: str, where: str) -> TakenValue:
    """A plain figure; its unit may stand behind it."""
    bare = text.strip().removesuffix(ask.unit).strip() if ask.unit else text.strip()
    number = bare.replace(",", ".").replace("\u2212", "-")
    if not number or len(number) > 12 or not number.lstrip("-").replace(".", "", 1).isdecimal() or not number.isascii():
        raise Refusal(say("{what}: write a plain number.", what=ask.what), code="bad_input", field=where)
    return TakenValue(ask, f"{bare} {ask.unit}".strip(), float(number))


def _changed(ask: Ask, value: float, before: float) -> Said:
    """Why a reading is too far from what it stands beside; empty when it is not, or nothing says how far it may be."""
    change = value - before
    low = ask.least is not None and change < ask.least - CLOSE
    if not low and not (ask.greatest is not None and change > ask.greatest + CLOSE):
        return NOTHING
    if ask.dimension == "number":
        return say("{what}: {value:g} counted, {before:g} should be there.", what=ask.what, value=value, before=before)
    return say(
        "{what} has changed by {change:+mm2} since it was found; {most:mm2} is allowed.",
        what=ask.what,
        change=change,
        most=ask.least if low else ask.greatest,
    )


def _why(reasons: list[Reason], verdict: VerdictWord) -> Said:
    return reasons[0].text if verdict in ("out", "edge") else together(one.text for one in reasons[:1])


def difference(ask: Ask, value: float, before: float) -> Said:
    """What a reading has changed by since it was found."""
    if ask.dimension == "torque":
        return say("As found {before:Nm2}: {change:+Nm2}", before=before, change=value - before)
    if ask.dimension == "length":
        return say("As found {before:mm2}: {change:+mm2}", before=before, change=value - before)
    return say("Before {before}: {change}", before=figure(before, "g", ask.unit), change=figure(value - before, "+g", ask.unit))


def before_said(ask: Ask, before: float) -> Said:
    """What was found, to stand beside what is to be read."""
    if ask.dimension == "torque":
        return say("As found {before:Nm2}", before=before)
    if ask.dimension == "length":
        return say("As found {before:mm2}", before=before)
    return say("Before {before}", before=figure(before, "g", ask.unit))
