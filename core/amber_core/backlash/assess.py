"""Backlash round the ring: is it in, how much does it vary, and does the variation come once per turn."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians
from typing import Literal

from amber_core import checks
from amber_core.circle import (
    LARGEST_GAP_DEG,
    CircleReading,
    OncePerTurn,
    distinct_positions,
    once_per_turn,
    seen_all_round,
    widest_gap_deg,
)
from amber_core.errors import InvalidInput
from amber_core.verdicts import Limit, Reason, VerdictWord, judge

MOST_READINGS = 64
FEWEST_TO_JUDGE = 3
FEWEST_FOR_RUNOUT = 4
SMALLEST_RUNOUT_MM = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class BacklashRound:
    """Readings of backlash at several teeth, and what they are held against.

    Parameters
    ----------
    readings : list of CircleReading
        1 to 64; value_mm 0 or more.
    min_mm, max_mm, max_variation_mm : float, optional
        The window and the greatest spread allowed, [mm].
    resolution_mm : float
        What the dial can tell apart, [mm].
    measured : {"square", "arc"}
        A plunger square to the tooth at its outer end, or an arc along the ring.
    stylus_radius_mm, outer_radius_mm : float, optional
        Ring axis to the stylus and to the outer end of the tooth, [mm].
    stylus_skew_deg : float
        Between the plunger and the normal of the flank, [deg].
    plunger_per_arc : float, optional
        Reading of a square plunger over the arc at the outer diameter, [-]; needed for arcs.
    backlash_per_ring_move : float, optional
        Change of backlash over the ring's axial move, [mm/mm].
    """

    readings: list[CircleReading]
    min_mm: float | None = None
    max_mm: float | None = None
    max_variation_mm: float | None = None
    resolution_mm: float = 0.01
    measured: Literal["square", "arc"] = "square"
    stylus_radius_mm: float | None = None
    outer_radius_mm: float | None = None
    stylus_skew_deg: float = 0.0
    plunger_per_arc: float | None = None
    backlash_per_ring_move: float | None = None

    def __post_init__(self) -> None:
        self._check_readings()
        for field in ("min_mm", "max_mm", "max_variation_mm"):
            checks.within(field, getattr(self, field), 0.0, 10.0, "A backlash limit lies between 0 and 10 mm.")
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", "backlash")
        checks.resolution_ok(self.resolution_mm)
        for field, what in (
            ("stylus_radius_mm", "The radius of the stylus"),
            ("outer_radius_mm", "The outer radius of the ring"),
            ("plunger_per_arc", "The plunger's share of the arc"),
            ("backlash_per_ring_move", "The backlash gained per ring move"),
        ):
            checks.above_zero(field, getattr(self, field), what)
        self._check_stylus()

    def _check_readings(self) -> None:
        if not self.readings:
            raise InvalidInput("readings", "There is no reading yet: measure at least one tooth.")
        if len(self.readings) > MOST_READINGS:
            raise InvalidInput("readings", f"{len(self.readings)} readings are more than a ring needs: give at most {MOST_READINGS}.")
        for index, reading in enumerate(self.readings):
            if reading.value_mm < 0.0:
                raise InvalidInput(f"readings[{index}].value_mm", "Backlash cannot be negative: set the dial to zero and read again.")

    def _check_stylus(self) -> None:
        if self.stylus_radius_mm is not None and self.outer_radius_mm is None:
            raise InvalidInput("outer_radius_mm", "Give the ring's outer radius too, or the stylus radius says nothing.")
        checks.within("stylus_skew_deg", self.stylus_skew_deg, -60.0, 60.0, "A plunger this far from square slips: set the stylus again.")
        if self.measured == "arc":
            if self.stylus_skew_deg != 0.0:
                raise InvalidInput("stylus_skew_deg", "An arc cannot be corrected for a skewed plunger: set the stylus again.")
            if self.plunger_per_arc is None:
                raise InvalidInput("plunger_per_arc", "An arc needs the gear set's own factor to become a plunger reading.")

    @property
    def correction(self) -> float:
        """From what the dial shows to a square plunger at the outer end of the tooth, [-]."""
        factor = cos(radians(self.stylus_skew_deg))
        if self.stylus_radius_mm is not None and self.outer_radius_mm is not None:
            factor *= self.outer_radius_mm / self.stylus_radius_mm
        if self.measured == "arc" and self.plunger_per_arc is not None:
            factor *= self.plunger_per_arc
        return factor


@dataclass(frozen=True, slots=True, kw_only=True)
class BacklashVerdict:
    """What the readings say; all lengths are corrected ones in [mm].

    `runout_tir_mm` is the axial runout that would make the once-per-turn part; an eccentric ring or pinion shows alike.
    """

    corrected: list[float]
    least_mm: float
    greatest_mm: float
    mean_mm: float
    variation_mm: float
    once_per_turn: OncePerTurn | None
    runout_tir_mm: float | None
    positions_enough: bool
    verdict: VerdictWord
    reasons: list[Reason]


def assess_backlash(given: BacklashRound) -> BacklashVerdict:
    """Judge backlash measured round the ring.

    Parameters
    ----------
    given : BacklashRound
        Readings b_i [mm] at angles [deg], limits [mm].

    Returns
    -------
    BacklashVerdict
        Statistics of corrected values [mm] and the verdict.

    Raises
    ------
    InvalidInput
        From BacklashRound, with the field.

    Notes
    -----
    corrected = reading x cos(skew) x outer radius / stylus radius, and x plunger_per_arc for arcs. A broken limit is `out`
    whatever the count; too few positions are `unknown`, since readings in one place prove nothing; then `edge`, `in`.
    The equivalent axial runout is 2 a / (backlash per ring move): dial geometry.

    Examples
    --------
    >>> readings = [CircleReading(angle_deg=90.0 * k, value_mm=0.20) for k in range(4)]
    >>> assess_backlash(BacklashRound(readings=readings, min_mm=0.15, max_mm=0.25)).verdict
    'in'
    """
    angles = [reading.angle_deg for reading in given.readings]
    corrected = [reading.value_mm * given.correction for reading in given.readings]
    positions = distinct_positions(angles)
    enough = seen_all_round(positions, FEWEST_FOR_RUNOUT)
    round_part = once_per_turn(angles, corrected) if enough else None
    runout = None
    if round_part is not None and given.backlash_per_ring_move is not None:
        runout = 2.0 * round_part.amplitude_mm / given.backlash_per_ring_move
    verdict, reasons = _judge(given, corrected, positions)
    reasons = [*reasons, *_runout_in_words(round_part, runout, max(corrected) - min(corrected))]
    return BacklashVerdict(
        corrected=corrected,
        least_mm=min(corrected),
        greatest_mm=max(corrected),
        mean_mm=sum(corrected) / len(corrected),
        variation_mm=max(corrected) - min(corrected),
        once_per_turn=round_part,
        runout_tir_mm=runout,
        positions_enough=enough,
        verdict=verdict,
        reasons=reasons,
    )


def _limits(given: BacklashRound, corrected: list[float], positions: list[float]) -> list[Limit]:
    found: list[Limit] = []
    if given.min_mm is not None:
        found.append(Limit(value=min(corrected), bound=given.min_mm, side="min", field="min_mm", what="The tightest reading", unit="mm"))
    if given.max_mm is not None:
        found.append(Limit(value=max(corrected), bound=given.max_mm, side="max", field="max_mm", what="The loosest reading", unit="mm"))
    if given.max_variation_mm is not None:
        spread = Limit(
            value=max(corrected) - min(corrected),
            bound=given.max_variation_mm,
            side="max",
            field="max_variation_mm",
            what="The spread round the ring",
            unit="mm",
        )
        if spread.broken or len(positions) >= FEWEST_TO_JUDGE:
            found.append(spread)
    return found


def _runout_in_words(part: OncePerTurn | None, runout: float | None, spread: float) -> list[Reason]:
    """What a once-per-turn part means, when it is large enough to mean anything."""
    if part is None or 2.0 * part.amplitude_mm <= max(SMALLEST_RUNOUT_MM, spread / 2.0):
        return []
    as_axial = "" if runout is None else f", as {runout:.2f} mm of axial runout would make"
    text = (
        f"{2.0 * part.amplitude_mm:.2f} mm of the spread comes round once per turn, loosest near {part.high_at_deg:.0f} degrees{as_axial}. "
        "Look for dirt under the ring, a bent flange, uneven bolts: no side shim takes it out."
    )
    return [Reason(code="once_per_turn", text=text, field="readings")]


def _judge(given: BacklashRound, corrected: list[float], positions: list[float]) -> tuple[VerdictWord, list[Reason]]:
    verdict, reasons = judge(_limits(given, corrected, positions), given.resolution_mm * given.correction)
    if verdict == "out":
        return verdict, reasons
    if len(positions) < FEWEST_TO_JUDGE:
        text = f"Measured at {len(positions)} of the ring's positions: readings in one place prove nothing. Measure at least 4, better 8."
        return "unknown", [Reason(code="too_few_positions", text=text, field="readings"), *reasons]
    if not seen_all_round(positions, FEWEST_TO_JUDGE):
        text = (
            f"A side of the ring {widest_gap_deg(positions):.0f} degrees wide was not measured; "
            f"leave no more than {LARGEST_GAP_DEG:.0f} between neighbours."
        )
        return "unknown", [Reason(code="gap_too_wide", text=text, field="readings"), *reasons]
    return verdict, reasons
