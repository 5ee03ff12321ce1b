"""What the bench knows of a set-up: the set, how it is adjusted, the window, and all trials so far."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import fsum, sqrt
from typing import Literal

from amber_core import checks
from amber_core.contact.estimate import Prior
from amber_core.depth.start import ShimPlace
from amber_core.errors import InvalidInput
from amber_core.gearset.description import GearSetDescription
from amber_core.shims.stock import Shims
from amber_core.words import say

Edge = Literal["toe", "heel", "root", "tip"]
Flank = Literal["drive", "coast"]
HowRead = Literal["eye", "photo"]
FLANKS: tuple[Flank, ...] = ("drive", "coast")
MOST_TRIALS = 20
MOST_REPEATS = 12
READING_SD_MM = 0.006
FIRST_SD_MM = 0.16
"""How far from right a first assembly stands, pinion and ring: seldom more than a quarter of a millimetre."""
DEPTH_SD_MM = 0.03
"""How well a depth is measured, [mm]."""
_SWING_SD = 0.85
"""How far the backlash swings round the ring is told by the greatest of eight readings to so many of their standard deviations."""
USED_OVER_MM = 0.15
"""A worn pair of which nobody knows the backlash it was found with may have this much more than a new one, [mm]."""
FOUND_HALF = 0.12


@dataclass(frozen=True, slots=True, kw_only=True)
class Adjust:
    """Where the depth shim sits, what holds the carrier sideways, and the travel of a notch [mm] for adjusters."""

    shim_place: ShimPlace
    carrier: Literal["side_shims", "cover_shims", "adjusters"]
    notch_mm: float | None = None

    def __post_init__(self) -> None:
        if self.carrier == "adjusters" and self.notch_mm is None:
            raise InvalidInput("notch_mm", say("Enter how far the adjuster travels for one notch."))
        checks.within("notch_mm", self.notch_mm, 0.001, 5.0, say("Adjuster travel for one notch must be 0.001 to 5 mm."))

    def pinion_move_mm(self, grown_mm: float) -> float:
        """How far a depth shim thicker by so much [mm] moves the pinion, + away from the ring axis, [mm]."""
        return grown_mm if self.shim_place == "under_cartridge_flange" else -grown_mm

    def ring_move_mm(self, before: Sides, after: Sides) -> float:
        """How far the carrier moves from one setting to another, + away from the pinion, [mm]."""
        grown = (after.ring - before.ring) - (after.far - before.far)
        if self.carrier == "adjusters":
            return -grown * (self.notch_mm or 0.0) / 2.0
        return (1.0 if self.carrier == "cover_shims" else -1.0) * grown / 2.0


@dataclass(frozen=True, slots=True)
class Sides:
    """How the ring side and the far side of a carrier are set: stacks [mm], or adjusters [notches from the first trial, + = in]."""

    ring: float
    far: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PatchWindow:
    """Where the middle of an acceptable patch lies, u from toe, v from root, [-]."""

    u_min: float
    u_max: float
    v_min: float
    v_max: float

    def __post_init__(self) -> None:
        checks.window_in_order(self.u_min, self.u_max, "u_min", say("position of the patch"))
        checks.window_in_order(self.v_min, self.v_max, "v_min", say("position of the patch"))

    def holds(self, u: float, v: float) -> bool:
        """Whether a middle lies inside."""
        return self.u_min <= u <= self.u_max and self.v_min <= v <= self.v_max


@dataclass(frozen=True, slots=True, kw_only=True)
class PatternWindow:
    """The windows of both flanks."""

    drive: PatchWindow = field(default_factory=lambda: PatchWindow(u_min=0.25, u_max=0.58, v_min=0.30, v_max=0.70))
    coast: PatchWindow = field(default_factory=lambda: PatchWindow(u_min=0.22, u_max=0.70, v_min=0.28, v_max=0.72))


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupWindow:
    """Backlash as a plunger reads it and its variation [mm], and where the patterns may lie."""

    backlash_min_mm: float
    backlash_max_mm: float
    variation_max_mm: float | None = None
    pattern: PatternWindow = field(default_factory=PatternWindow)

    def __post_init__(self) -> None:
        for name in ("backlash_min_mm", "backlash_max_mm", "variation_max_mm"):
            checks.within(name, getattr(self, name), 0.0, 10.0, say("Backlash limit must be 0 to 10 mm."))
        checks.window_in_order(self.backlash_min_mm, self.backlash_max_mm, "backlash_min_mm", say("backlash"))

    @property
    def middle_mm(self) -> float:
        """Middle of the backlash window, [mm]."""
        return (self.backlash_min_mm + self.backlash_max_mm) / 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialBacklash:
    """Mean, least and greatest round the ring, plunger readings, with the mean's standard deviation, [mm]."""

    mean_mm: float
    least_mm: float | None = None
    greatest_mm: float | None = None
    sd_mm: float = 0.01

    def __post_init__(self) -> None:
        for name in ("mean_mm", "least_mm", "greatest_mm"):
            checks.within(name, getattr(self, name), 0.0, 10.0, say("Backlash must be 0 to 10 mm."))
        checks.spread_ok("sd_mm", self.sd_mm)
        checks.window_in_order(self.least_mm, self.greatest_mm, "least_mm", say("reading"))

    @property
    def one_sd_mm(self) -> float:
        """Scatter of one of the usual eight readings, [mm]; no dial that is in order scatters more than `READING_SD_MM`."""
        return min(sqrt(8.0) * self.sd_mm, READING_SD_MM)

    @property
    def swings(self) -> bool:
        """Whether it says how far the backlash swings round the ring."""
        return self.least_mm is not None or self.greatest_mm is not None

    @property
    def swing_sd_mm(self) -> float:
        """How well it tells that, [mm]."""
        return _SWING_SD * self.one_sd_mm


def of_all_rounds(rounds: list[TrialBacklash]) -> TrialBacklash | None:
    """All times round together, [mm]: the mean, each weighed by its own scatter, and the least and the greatest in the middle of those that
    were read; None when there is none."""
    if not rounds:
        return None
    weights = [one.sd_mm**-2 for one in rounds]
    least, greatest = (
        [one for one in ends if one is not None] for ends in zip(*((one.least_mm, one.greatest_mm) for one in rounds), strict=True)
    )
    return TrialBacklash(
        mean_mm=fsum(weight * one.mean_mm for weight, one in zip(weights, rounds, strict=True)) / fsum(weights),
        least_mm=fsum(least) / len(least) if least else None,
        greatest_mm=fsum(greatest) / len(greatest) if greatest else None,
        sd_mm=fsum(weights) ** -0.5,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialPatch:
    """Middle of a patch as it was read once [-], the edges where it runs off, who read it and how.

    `sd_u`, `sd_v`: how far a reading scatters [-]. Not given, it is what this reader's repeats say (`noise.py`).
    """

    u: float
    v: float
    sd_u: float | None = None
    sd_v: float | None = None
    runs_off: list[Edge] = field(default_factory=list)
    by: str = ""
    how: HowRead = "eye"

    def __post_init__(self) -> None:
        checks.within("u", self.u, -0.5, 1.5, say("The middle of a patch must be between toe (0) and heel (1)."))
        checks.within("v", self.v, -0.5, 1.5, say("The middle of a patch must be between root (0) and tip (1)."))
        for name in ("sd_u", "sd_v"):
            if getattr(self, name) is not None:
                checks.spread_ok(name, getattr(self, name))


@dataclass(frozen=True, slots=True, kw_only=True)
class Reader:
    """What somebody's earlier repeats say of the reading: from how many repeats, and how far they scattered, [-]."""

    repeats: int
    sd_u: float
    sd_v: float
    by: str = ""
    how: HowRead = "eye"

    def __post_init__(self) -> None:
        checks.within("repeats", self.repeats, 0, 100000, say("That is too many repeat readings."))
        checks.within("sd_u", self.sd_u, 0.0, 1.0, say("Scatter of a patch reading must be 0 to 1, as a share of the flank."))
        checks.within("sd_v", self.sd_v, 0.0, 1.0, say("Scatter of a patch reading must be 0 to 1, as a share of the flank."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Costs:
    """What each act costs, [min]: a move; more where a bearing has to be pressed; painting and reading once more; measuring the depth or
    more places round the ring; and a set called finished that is not."""

    move_minutes: float = 45.0
    press_minutes: float = 20.0
    read_minutes: float = 8.0
    measure_minutes: float = 15.0
    wrong_minutes: float = 600.0

    def __post_init__(self) -> None:
        for name in ("move_minutes", "press_minutes", "read_minutes", "measure_minutes", "wrong_minutes"):
            checks.within(name, getattr(self, name), 0.0, 1e12, say("Minutes must be 0 or more."))
        if self.move_minutes + self.read_minutes + self.wrong_minutes == 0.0:
            raise InvalidInput("move_minutes", say("At least one of the costs must be more than 0 minutes."))


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialDepth:
    """A measured depth less the right one, + too shallow, with its standard deviation, [mm]."""

    value: float
    sd: float

    def __post_init__(self) -> None:
        checks.within("value", self.value, -5.0, 5.0, say("Pinion depth error must be within ±5 mm. Give it in millimetres."))
        checks.spread_ok("sd", self.sd)


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupTrial:
    """What was in the housing [mm, or notches from the first trial, + = in] and what was seen; anything seen may be missing.

    `drive`, `coast`: a patch as it was read, or each of its readings when it was painted and read more than once. `backlash`: once round
    the ring, or each time round.
    `read_twice`: everything seen was read a second time and stands, so that a contradiction is looked for elsewhere.
    """

    depth_shim_mm: float
    ring_side_mm: float | None = None
    far_side_mm: float | None = None
    ring_side_notches: int | None = None
    far_side_notches: int | None = None
    backlash: TrialBacklash | list[TrialBacklash] | None = None
    drive: TrialPatch | list[TrialPatch] | None = None
    coast: TrialPatch | list[TrialPatch] | None = None
    depth_error_mm: TrialDepth | None = None
    read_twice: bool = False

    def __post_init__(self) -> None:
        for name in ("depth_shim_mm", "ring_side_mm", "far_side_mm"):
            checks.within(name, getattr(self, name), 0.0, 50.0, say("Stack must be 0 to 50 mm."))
        for name in ("ring_side_notches", "far_side_notches"):
            checks.within(name, getattr(self, name), -10000, 10000, say("That is more notches than any adjuster has."))
        for name in ("drive", "coast"):
            if len(self.seen(name)) > MOST_REPEATS:  # type: ignore[arg-type]
                raise InvalidInput(name, say("Give at most {most_repeats} readings of a patch.", most_repeats=MOST_REPEATS))
        if len(self.rounds) > MOST_REPEATS:
            raise InvalidInput("backlash", say("Give the backlash of at most {most_repeats} times round.", most_repeats=MOST_REPEATS))

    @property
    def rounds(self) -> list[TrialBacklash]:
        """The backlash of each time round the ring, oldest first."""
        return [] if self.backlash is None else self.backlash if isinstance(self.backlash, list) else [self.backlash]

    def seen(self, flank: Flank) -> list[TrialPatch]:
        """Every reading of a flank, oldest first."""
        found = self.drive if flank == "drive" else self.coast
        return [] if found is None else found if isinstance(found, list) else [found]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundPatch:
    """Middle of a patch before anything was taken apart, [-]."""

    u: float
    v: float

    def __post_init__(self) -> None:
        checks.within("u", self.u, 0.0, 1.0, say("The middle of a patch must be between toe (0) and heel (1)."))
        checks.within("v", self.v, 0.0, 1.0, say("The middle of a patch must be between root (0) and tip (1)."))


@dataclass(frozen=True, slots=True, kw_only=True)
class AsFound:
    """What a used set showed before anything was taken apart: backlash [mm], middles of its patches [-]."""

    backlash_mm: float | None = None
    drive: FoundPatch | None = None
    coast: FoundPatch | None = None

    def __post_init__(self) -> None:
        checks.within("backlash_mm", self.backlash_mm, 0.0, 10.0, say("Backlash must be 0 to 10 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupStock:
    """Depth and side shims that are free to use, those in the housing included; two pools. None: any thickness can be had."""

    depth: list[Shims] | None = None
    side: list[Shims] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupQuestion:
    """Everything: the set, how it is adjusted, the window, the trials oldest first, the drawers, scatter of a shim and of seating again
    [mm], prior.

    A used set goes back to as it was found; `window` stays that of a new one. `confidence`: the least odds at which anything is called
    finished [-]. `pressed`: a bearing is pressed off and on whenever the depth changes. `readers`: what is known of how well people read.
    """

    set: GearSetDescription
    adjust: Adjust
    window: SetupWindow
    trials: list[SetupTrial]
    stock: SetupStock | None = None
    shim_sd_mm: float = 0.005
    seating_sd_mm: float = 0.005
    prior: Prior = field(default_factory=lambda: Prior(pinion_sd_mm=FIRST_SD_MM, ring_sd_mm=FIRST_SD_MM))
    set_state: Literal["new", "used"] = "new"
    as_found: AsFound | None = None
    costs: Costs = field(default_factory=Costs)
    confidence: float = 0.9
    pressed: bool = False
    readers: list[Reader] = field(default_factory=list)

    def __post_init__(self) -> None:
        checks.within("confidence", self.confidence, 0.5, 0.999, say("Confidence must be 0.5 to 0.999."))
        if not self.trials:
            raise InvalidInput("trials", say("There is no trial yet. Enter what shims are in the axle housing."))
        if len(self.trials) > MOST_TRIALS:
            raise InvalidInput("trials", say("Give the last {most_trials} trials at most.", most_trials=MOST_TRIALS))
        checks.within(
            "shim_sd_mm", self.shim_sd_mm, 0.0, 0.1, say("Shim scatter is out of range: it is a few thousandths of a millimetre.")
        )
        checks.within(
            "seating_sd_mm", self.seating_sd_mm, 0.0, 0.1, say("Seating scatter is out of range: it is a few hundredths of a millimetre.")
        )
        names = ("ring_side_notches", "far_side_notches") if self.adjust.carrier == "adjusters" else ("ring_side_mm", "far_side_mm")
        for index, trial in enumerate(self.trials):
            for name in names:
                if getattr(trial, name) is None:
                    raise InvalidInput(f"trials[{index}].{name}", say("Enter how both sides of the carrier were set in this trial."))

    @property
    def goal(self) -> SetupWindow:
        """The window to land in."""
        return goal_window(self.window, self.as_found or AsFound()) if self.set_state == "used" else self.window

    def pinion_change_mm(self, before_shim_mm: float, after_shim_mm: float) -> float:
        """How far another depth shim moves the pinion, + away from the ring axis, [mm]."""
        return self.adjust.pinion_move_mm(after_shim_mm - before_shim_mm)

    def ring_change_mm(self, before: SetupTrial, after: SetupTrial) -> float:
        """How far the carrier moved between two trials, + away from the pinion, [mm]."""
        return self.adjust.ring_move_mm(self._sides(before), self._sides(after))

    def _sides(self, trial: SetupTrial) -> Sides:
        adjusters = self.adjust.carrier == "adjusters"
        ring = trial.ring_side_notches if adjusters else trial.ring_side_mm
        far = trial.far_side_notches if adjusters else trial.far_side_mm
        assert ring is not None and far is not None
        return Sides(ring, far)


def goal_window(window: SetupWindow, found: AsFound) -> SetupWindow:
    """The window of a used set: about what it was found with, never under the sheet's least backlash.

    Parameters
    ----------
    window : SetupWindow
        The sheet's, for a new set, [mm].
    found : AsFound
        Backlash [mm] and patches [-] before it came apart; what is not known leaves the sheet's window, wider by USED_OVER_MM at the top.
    """
    half = (window.backlash_max_mm - window.backlash_min_mm) / 2.0
    low, high = window.backlash_min_mm, window.backlash_max_mm + USED_OVER_MM
    if found.backlash_mm is not None:
        low = max(low, found.backlash_mm - half)
        high = low + 2.0 * half if low > found.backlash_mm - half else found.backlash_mm + half
    pattern = PatternWindow(drive=_about(found.drive) or window.pattern.drive, coast=_about(found.coast) or window.pattern.coast)
    return replace(window, backlash_min_mm=low, backlash_max_mm=high, pattern=pattern)


def _about(found: FoundPatch | None) -> PatchWindow | None:
    """A window about the place where a patch was found."""
    if found is None:
        return None
    u, v, half = found.u, found.v, FOUND_HALF
    return PatchWindow(u_min=u - half, u_max=u + half, v_min=v - half, v_max=v + half)
