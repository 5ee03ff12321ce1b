"""The run sheet of a piece of work: the steps of its kind, what was passed, and what a step asks before it lets go."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

from amber_core.procedures import library
from amber_core.procedures.steps import LibraryStep, Step, blocking_hold, next_step, steps_for
from amber_core.quantities import Dimension, Typed, parse
from amber_core.verdicts import Limit, judge
from amber_core.words import Said, say
from shared.refusals import Refusal
from work.checks import check_of
from work.match import HELD_CODE, match_held
from work.models import GearSetRecord, Outcome, ProcedureRevision, StepRecord, Work

_DIMENSION: dict[str, Dimension] = {"torque": "torque", "litres": "volume", "odometer": "distance", "spread": "length"}
_BARE_UNIT = {"litres": "l", "odometer": "km", "spread": "mm"}
_WHAT = {
    "torque": say("Rotating torque"),
    "litres": say("Litres poured"),
    "odometer": say("Odometer"),
    "spread": say("Spreader opening"),
}
_RESOLUTION = {"Nm": 0.05, "mm": 0.01, "l": 0.0}
NUTS_DUE_KM = (50.0, 100.0)


@dataclass(frozen=True)
class Taken:
    """What a step took: as it was typed and as a number in the inside unit."""

    entered: str
    value: float | None


@lru_cache(maxsize=64)
def _library(procedure_id: int, content_hash: str) -> list[LibraryStep]:
    """The steps of a procedure revision; it never changes, so it is read once."""
    return library.read(ProcedureRevision.objects.get(pk=procedure_id, content_hash=content_hash).content)


class RunSheet:
    """Reads a piece of work's records once, in three queries at the most."""

    def __init__(self, work: Work) -> None:
        self.work = work

    @cached_property
    def steps(self) -> list[Step]:
        """The steps of this work in order, by the procedure and the sheet that it is pinned to."""
        procedure = self.work.procedure
        sheet = self.work.sheet
        facts = {"has_spreader": sheet.has_spreader, "has_speed_ring": sheet.has_speed_ring}
        return steps_for(_library(procedure.pk, procedure.content_hash), facts)

    @cached_property
    def latest(self) -> dict[str, StepRecord]:
        """The latest record of each step."""
        return {record.step_code: record for record in self.work.step_records.all()}

    @cached_property
    def gear_set(self) -> GearSetRecord | None:
        """The identification that counts."""
        return max(self.work.gear_sets.all(), key=lambda record: record.pk, default=None)

    @cached_property
    def passed(self) -> set[str]:
        """Codes of the steps that are passed; the gear set's follows from its record."""
        codes = {code for code, record in self.latest.items() if record.outcome == Outcome.PASSED}
        return codes | {"gear_set"} if self.gear_set else codes

    @property
    def begun(self) -> bool:
        """Whether any work was recorded."""
        return bool(self.latest) or self.gear_set is not None

    @property
    def next(self) -> Step | None:
        """The first step not passed."""
        return next_step(self.steps, self.passed)

    def step(self, code: str) -> Step:
        """The step of that code.

        Raises
        ------
        Refusal
            When this axle's run sheet has none.
        """
        found = next((step for step in self.steps if step.code == code), None)
        if found is None:
            raise Refusal(say("This run sheet has no such step."), code="not_found", field="step")
        return found

    def hold_before(self, code: str) -> Step | None:
        """The hold point that keeps this step shut, if any."""
        return blocking_hold(self.steps, self.passed, code)

    def take(self, code: str, typed: str, torque_unit: str) -> Taken:
        """Check what a step asks for.

        Raises
        ------
        Refusal, InvalidInput
            With what keeps the step from being passed.
        """
        step = self.step(code)
        held = self.hold_before(code)
        if held is not None:
            raise Refusal(say("Hold point: “{title}” comes first.", title=held.title), code="held", field="step")
        if step.check in _DIMENSION:
            return self._take_reading(step, typed, torque_unit)
        if step.check == "bolts":
            return self._take_bolts(step, typed)
        if step.check == "gear_set" and self.gear_set is None:
            raise Refusal(say("Identify the gear set first: count teeth or turns."), code="held", field="step")
        if missing := self.missing(step):
            raise Refusal(missing, code="held", field="step")
        if code == HELD_CODE and (apart := match_held(self.work.job)):
            raise Refusal(apart, code="held", field="step")
        return Taken(entered="", value=None)

    def missing(self, step: Step) -> Said | None:
        """What an area still lacks for a step of its own: a sentence, empty when nothing is; None for any other step."""
        check = check_of(step.check)
        return None if check is None else check(self.work)

    def _take_reading(self, step: Step, typed: str, torque_unit: str) -> Taken:
        unit = _BARE_UNIT.get(step.check, torque_unit)
        reading = parse(typed, dimension=_DIMENSION[step.check], unit=unit)
        if reading.value < 0.0 or (reading.value == 0.0 and step.check == "litres"):
            raise Refusal(say("{what} must be more than 0.", what=_WHAT[step.check]), field="typed")
        self._hold_against_sheet(step, reading)
        return Taken(entered=f"{reading.text} {unit}" if reading.bare else reading.text, value=reading.value)

    def _hold_against_sheet(self, step: Step, reading: Typed) -> None:
        sheet = self.work.sheet.limit(step.limit)
        if sheet is None:
            return
        unit = sheet.unit
        what = _WHAT[step.check]
        held = []
        if sheet.least is not None:
            held.append(Limit(value=reading.value, bound=sheet.least, side="min", field="typed", what=what, unit=unit))
        if sheet.greatest is not None:
            held.append(Limit(value=reading.value, bound=sheet.greatest, side="max", field="typed", what=what, unit=unit))
        verdict, reasons = judge(held, _RESOLUTION[unit])
        if verdict == "out":
            raise Refusal(say("{text} The hold point stays closed.", text=reasons[0].text), code="out_of_window", field="typed")

    def _take_bolts(self, step: Step, typed: str) -> Taken:
        sheet = self.work.sheet.limit(step.limit)
        wanted = int(sheet.greatest) if sheet and sheet.greatest else None
        ticked = int(typed) if typed.strip().isdecimal() and len(typed) < 5 else 0
        if ticked < 1 or (wanted is not None and ticked != wanted):
            text = (
                say("{ticked} of {wanted} bolts are ticked. Tick all {wanted}, one by one.", ticked=ticked, wanted=wanted)
                if wanted
                else say("No bolts are ticked. Tick every bolt, one by one.")
            )
            raise Refusal(text, code="held", field="typed")
        return Taken(entered=f"{ticked} ticked", value=float(ticked))
