"""The crush sleeve: how far the nut has still to turn, and the step after which it may not go."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

State = Literal["slack", "closing", "in", "past"]
_POINTS = 4
_BLIND_STEP_DEG = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SleeveStep:
    """Turn of the nut from first contact [deg], and the rotating torque read there [Nm]."""

    nut_turn_deg: float
    rotating_torque_nm: float

    def __post_init__(self) -> None:
        checks.within("nut_turn_deg", self.nut_turn_deg, 0.0, 7200.0, say("Nut turn must be 0 to 7 200 degrees from first contact."))
        checks.torque_ok("rotating_torque_nm", self.rotating_torque_nm)


@dataclass(frozen=True, slots=True, kw_only=True)
class SleeveRun:
    """The steps so far, ascending; window, seal drag and nut torques [Nm]; greatest step [deg], thread pitch and play [mm]."""

    steps: list[SleeveStep]
    min_nm: float
    max_nm: float
    max_step_deg: float = 5.0
    thread_pitch_mm: float = 1.5
    end_play_mm: float | None = None
    seal_drag_nm: float = 0.0
    nut_torque_nm: float | None = None
    nut_torque_min_nm: float | None = None

    def __post_init__(self) -> None:
        if not self.steps:
            raise InvalidInput("steps", say("No steps yet. Tighten the nut until it makes contact and read the torque."))
        if len(self.steps) > 1000:
            raise InvalidInput("steps", say("Too many steps. The most is 1 000."))
        for index in range(1, len(self.steps)):
            if self.steps[index].nut_turn_deg < self.steps[index - 1].nut_turn_deg:
                raise InvalidInput(
                    f"steps[{index}].nut_turn_deg", say("A crush sleeve only goes one way: each nut turn must be greater than the last.")
                )
        for name in ("min_nm", "max_nm", "seal_drag_nm"):
            checks.torque_ok(name, getattr(self, name))
        checks.above_zero("max_nm", self.max_nm, say("Maximum rotating torque"))
        checks.window_in_order(self.min_nm, self.max_nm, "min_nm", say("rotating torque"))
        checks.above_zero("max_step_deg", self.max_step_deg, say("Largest step"))
        checks.above_zero("thread_pitch_mm", self.thread_pitch_mm, say("Thread pitch"))
        checks.within("end_play_mm", self.end_play_mm, 0.0, 20.0, say("End play must be 0 to 20 mm."))
        for name in ("nut_torque_nm", "nut_torque_min_nm"):
            checks.within(name, getattr(self, name), 0.0, 5000.0, say("Nut's torque must be 0 to 5 000 Nm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SleeveNext:
    """Where the sleeve stands; turn to go to the middle of the window and the next step at most, [deg]."""

    state: State
    nut_turn_to_go_deg: float | None
    next_step_deg: float
    reasons: list[Reason]


def follow_sleeve(given: SleeveRun) -> SleeveNext:
    """How a crush sleeve goes on.

    Parameters
    ----------
    given : SleeveRun
        Steps [deg, Nm], window [Nm].

    Returns
    -------
    SleeveNext
        State, turn to go [deg], next step [deg].

    Raises
    ------
    InvalidInput
        From SleeveRun, with the field.

    Notes
    -----
    Drag is subtracted first. Baseline T0: median of the steps before the rise, 0 if none. T > max is past; T >= min in; T - T0 >
    max(0.1 Nm, 5 % of min) closing; else slack. Slope by least squares over the last rising points, at most 4. To go =
    (middle - T)/slope. The next step is at most half of what is to go and never farther than the window's upper end. Turn
    the pinion several turns before each reading.

    Examples
    --------
    >>> steps = [SleeveStep(nut_turn_deg=turn, rotating_torque_nm=torque) for turn, torque in ((0, 0.2), (10, 0.6), (20, 1.0))]
    >>> run = SleeveRun(steps=steps, min_nm=1.6, max_nm=2.6)
    >>> round(follow_sleeve(run).nut_turn_to_go_deg, 6)
    27.5
    """
    torques = [step.rotating_torque_nm - given.seal_drag_nm for step in given.steps]
    risen_by = max(0.1, 0.05 * given.min_nm)
    rising_from = _rise(torques, risen_by)
    baseline = median(torques[:rising_from]) if rising_from else 0.0
    last = torques[-1]
    state: State = "slack"
    if last > given.max_nm + SLACK:
        state = "past"
    elif last >= given.min_nm - SLACK:
        state = "in"
    elif last - baseline > risen_by:
        state = "closing"
    slope = _slope([step.nut_turn_deg for step in given.steps], torques, rising_from)
    to_go = _to_go(given, state, last, slope)
    return SleeveNext(
        state=state, nut_turn_to_go_deg=to_go, next_step_deg=_next_step(given, state, last, slope, to_go), reasons=_reasons(given, state)
    )


def _rise(torques: list[float], risen_by: float) -> int:
    """Index of the first step that stands above the median of those before it, or the count when none does."""
    for index in range(len(torques)):
        baseline = median(torques[:index]) if index else 0.0
        if torques[index] - baseline > risen_by:
            return index
    return len(torques)


def _slope(turns: list[float], torques: list[float], rising_from: int) -> float | None:
    first = max(rising_from, len(turns) - _POINTS)
    x, y = turns[first:], torques[first:]
    if len(x) < 2:
        return None
    mean_x, mean_y = sum(x) / len(x), sum(y) / len(y)
    spread = sum((one - mean_x) ** 2 for one in x)
    if spread <= 0.0:
        return None
    slope = sum((a - mean_x) * (b - mean_y) for a, b in zip(x, y, strict=True)) / spread
    return slope if slope > 0.0 else None


def _to_go(given: SleeveRun, state: State, last: float, slope: float | None) -> float | None:
    if state == "in":
        return 0.0
    if state != "closing" or slope is None:
        return None
    return ((given.min_nm + given.max_nm) / 2.0 - last) / slope


def _next_step(given: SleeveRun, state: State, last: float, slope: float | None, to_go: float | None) -> float:
    if state in ("in", "past"):
        return 0.0
    if state == "closing":
        if slope is None or to_go is None:
            return _BLIND_STEP_DEG
        return min(given.max_step_deg, to_go / 2.0, (given.max_nm - last) / slope)
    if given.end_play_mm is None:
        return _BLIND_STEP_DEG
    return min(given.max_step_deg, given.end_play_mm / 2.0 * 360.0 / given.thread_pitch_mm)


def _reasons(given: SleeveRun, state: State) -> list[Reason]:
    found = []
    if state == "past":
        text = say("Past the window: a crush sleeve cannot be backed off. Fit a new crush sleeve and start again.")
        found.append(Reason(code="replace_sleeve", text=text, field="steps"))
    torque, least = given.nut_torque_nm, given.nut_torque_min_nm
    if state == "in" and torque is not None and least is not None and torque < least - SLACK:
        text = say(
            "Preload came at {torque:Nm0} on the nut, under the minimum of {least:Nm0}: the crush sleeve is wrong or was crushed before.",
            torque=torque,
            least=least,
        )
        found.append(Reason(code="nut_too_loose", text=text, field="nut_torque_nm"))
    return found
