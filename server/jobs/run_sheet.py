"""The run sheet of a job: the steps of its axle, what was passed, and what a step asks before it lets go."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from amber_core.procedures.ring_and_pinion import ring_and_pinion_steps
from amber_core.procedures.steps import Step, blocking_hold, next_step
from amber_core.quantities import Dimension, Typed, parse
from amber_core.verdicts import Limit, judge
from jobs.match import HELD_CODE, match_held
from jobs.models import GearSetRecord, Job, Outcome, StepRecord, Verdict
from shared.refusals import Refusal
from stores.models import UNITS, Quantity, SpecLimit

_DIMENSION: dict[str, Dimension] = {"torque": "torque", "litres": "volume", "odometer": "distance", "spread": "length"}
_BARE_UNIT = {"litres": "l", "odometer": "km", "spread": "mm"}
_WHAT = {"torque": "The rotating torque", "litres": "The oil poured", "odometer": "The odometer", "spread": "The opening"}
_RESOLUTION = {"Nm": 0.05, "mm": 0.01, "l": 0.0}
NUTS_DUE_KM = (50.0, 100.0)


@dataclass(frozen=True)
class Taken:
    """What a step took: as it was typed and as a number in the inside unit."""

    entered: str
    value: float | None


class RunSheet:
    """Reads a job's records once, in three queries at the most."""

    def __init__(self, job: Job) -> None:
        self.job = job

    @cached_property
    def steps(self) -> list[Step]:
        """The steps of this axle in work order."""
        family = self.job.family
        return ring_and_pinion_steps(has_spreader=family.has_spreader, has_speed_ring=family.has_speed_ring)

    @cached_property
    def latest(self) -> dict[str, StepRecord]:
        """The latest record of each step."""
        return {record.step_code: record for record in self.job.step_records.all()}

    @cached_property
    def gear_set(self) -> GearSetRecord | None:
        """The identification that counts."""
        return max(self.job.gear_sets.all(), key=lambda record: record.pk, default=None)

    @cached_property
    def limits(self) -> dict[str, SpecLimit]:
        """The family's spec sheet by quantity."""
        return {limit.quantity: limit for limit in self.job.family.limits.all()}

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
            raise Refusal("This run sheet has no such step.", code="not_found", field="step")
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
            raise Refusal(f"Hold: “{held.title}” comes first.", code="held", field="step")
        if step.check in _DIMENSION:
            return self._take_reading(step, typed, torque_unit)
        if step.check == "bolts":
            return self._take_bolts(step, typed)
        if step.check == "gear_set" and self.gear_set is None:
            raise Refusal("Identify the gear set first: count teeth, or turns.", code="held", field="step")
        if (missing := self.bench_missing(step)) is not None and missing:
            raise Refusal(missing, code="held", field="step")
        if code == HELD_CODE and (apart := match_held(self.job)):
            raise Refusal(apart, code="held", field="step")
        return Taken(entered="", value=None)

    def bench_missing(self, step: Step) -> str | None:
        """What the set-up bench still lacks for a step of its own: a sentence, empty when it is in; None for any other step."""
        if step.check == "bench_backlash":
            return self._verdict_missing(self.job.backlash_verdict, "backlash", "out of its window", "measured round the ring")
        if step.check == "bench_pattern":
            return self._verdict_missing(self.job.pattern_verdict, "pattern", "out of its place", "read on both sides")
        if step.check == "bench_final":
            return f"{self.job.final_missing} Go to the set-up bench." if self.job.final_missing else ""
        return None

    def _verdict_missing(self, verdict: str, what: str, out: str, read: str) -> str:
        if verdict in (Verdict.IN, Verdict.EDGE):
            return ""
        words = f"is {out}" if verdict == Verdict.OUT else f"has not been {read} yet"
        return f"The {what} of the last trial {words}: go to the set-up bench."

    def _take_reading(self, step: Step, typed: str, torque_unit: str) -> Taken:
        unit = _BARE_UNIT.get(step.check, torque_unit)
        reading = parse(typed, dimension=_DIMENSION[step.check], unit=unit)
        if reading.value < 0.0 or (reading.value == 0.0 and step.check == "litres"):
            raise Refusal(f"{_WHAT[step.check]} must be more than nothing.", field="typed")
        self._hold_against_sheet(step, reading)
        return Taken(entered=f"{reading.text} {unit}" if reading.bare else reading.text, value=reading.value)

    def _hold_against_sheet(self, step: Step, reading: Typed) -> None:
        sheet = self.limits.get(step.limit)
        if sheet is None:
            return
        unit = UNITS[Quantity(sheet.quantity)]
        what = _WHAT[step.check]
        held = []
        if sheet.least is not None:
            held.append(Limit(value=reading.value, bound=sheet.least, side="min", field="typed", what=what, unit=unit))
        if sheet.greatest is not None:
            held.append(Limit(value=reading.value, bound=sheet.greatest, side="max", field="typed", what=what, unit=unit))
        verdict, reasons = judge(held, _RESOLUTION[unit])
        if verdict == "out":
            raise Refusal(f"{reasons[0].text} The hold stays shut.", code="out_of_window", field="typed")

    def _take_bolts(self, step: Step, typed: str) -> Taken:
        sheet = self.limits.get(step.limit)
        wanted = int(sheet.greatest) if sheet and sheet.greatest else None
        ticked = int(typed) if typed.strip().isdecimal() and len(typed) < 5 else 0
        if ticked < 1 or (wanted is not None and ticked != wanted):
            count = f"all {wanted}" if wanted else "every one"
            raise Refusal(f"{ticked} bolts are ticked: tick {count}, one by one.", code="held", field="typed")
        return Taken(entered=f"{ticked} ticked", value=float(ticked))
