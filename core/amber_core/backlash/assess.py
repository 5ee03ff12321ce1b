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
from amber_core.words import say, together

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
            checks.within(field, getattr(self, field), 0.0, 10.0, say("Backlash limit must be 0 to 10 mm."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("backlash"))
        checks.resolution_ok(self.resolution_mm)
        for field, what in (
            ("stylus_radius_mm", say("Stylus radius")),
            ("outer_radius_mm", say("Ring gear outer radius")),
            ("plunger_per_arc", say("Plunger factor")),
            ("backlash_per_ring_move", say("Backlash per millimetre of ring gear move")),
        ):
            checks.above_zero(field, getattr(self, field), what)
        self._check_stylus()

    def _check_readings(self) -> None:
        if not self.readings:
            raise InvalidInput("readings", say("No readings yet. Measure at least one tooth."))
        if len(self.readings) > MOST_READINGS:
            raise InvalidInput(
                "readings",
                say(
                    "Too many readings: {count}. The most is {most_readings}.",
                    count=len(self.readings),
                    most_readings=MOST_READINGS,
                ),
            )
        for index, reading in enumerate(self.readings):
            if reading.value_mm < 0.0:
                raise InvalidInput(f"readings[{index}].value_mm", say("Backlash cannot be negative. Zero the dial and read again."))

    def _check_stylus(self) -> None:
        if self.stylus_radius_mm is not None and self.outer_radius_mm is None:
            raise InvalidInput("outer_radius_mm", say("Enter the outer radius of the ring gear as well as the stylus radius."))
        checks.within(
            "stylus_skew_deg",
            self.stylus_skew_deg,
            -60.0,
            60.0,
            say("The plunger is too far from square and will slip. Set the dial indicator again."),
        )
        if self.measured == "arc":
            if self.stylus_skew_deg != 0.0:
                raise InvalidInput("stylus_skew_deg", say("An arc cannot be corrected for a skewed plunger. Set the dial indicator again."))
            if self.plunger_per_arc is None:
                raise InvalidInput("plunger_per_arc", say("An arc reading needs the gear set's plunger factor."))

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
        found.append(Limit(value=min(corrected), bound=given.min_mm, side="min", field="min_mm", what=say("The least reading"), unit="mm"))
    if given.max_mm is not None:
        found.append(
            Limit(value=max(corrected), bound=given.max_mm, side="max", field="max_mm", what=say("The greatest reading"), unit="mm")
        )
    if given.max_variation_mm is not None:
        spread = Limit(
            value=max(corrected) - min(corrected),
            bound=given.max_variation_mm,
            side="max",
            field="max_variation_mm",
            what=say("The variation round the ring gear"),
            unit="mm",
        )
        if spread.broken or len(positions) >= FEWEST_TO_JUDGE:
            found.append(spread)
    return found


def _runout_in_words(part: OncePerTurn | None, runout: float | None, spread: float) -> list[Reason]:
    """What a once-per-turn part means, when it is large enough to mean anything."""
    if part is None or 2.0 * part.amplitude_mm <= max(SMALLEST_RUNOUT_MM, spread / 2.0):
        return []
    found = say(
        "{value:mm2} of the variation rises and falls once per turn, greatest near {high_at_deg:.0f} degrees.",
        value=2.0 * part.amplitude_mm,
        high_at_deg=part.high_at_deg,
    )
    axial = [] if runout is None else [say("An axial runout of {runout:mm2} would cause that.", runout=runout)]
    cure = say("Look for dirt under the ring gear, a bent flange or uneven bolts. No side shim cures it.")
    return [Reason(code="once_per_turn", text=together([found, *axial, cure]), field="readings")]


def _judge(given: BacklashRound, corrected: list[float], positions: list[float]) -> tuple[VerdictWord, list[Reason]]:
    verdict, reasons = judge(_limits(given, corrected, positions), given.resolution_mm * given.correction)
    if verdict == "out":
        return verdict, reasons
    if len(positions) < FEWEST_TO_JUDGE:
        text = say(
            "Measured at {count} places only. Measure at least 4, better 8, evenly round the ring gear.",
            count=len(positions),
        )
        return "unknown", [Reason(code="too_few_positions", text=text, field="readings"), *reasons]
    if not seen_all_round(positions, FEWEST_TO_JUDGE):
        text = say(
            "There is a gap of {widest_gap_deg:.0f} degrees with no reading. Leave no more than "
            "{largest_gap_deg:.0f} degrees between readings.",
            widest_gap_deg=widest_gap_deg(positions),
            largest_gap_deg=LARGEST_GAP_DEG,
        )
        return "unknown", [Reason(code="gap_too_wide", text=text, field="readings"), *reasons]
    return verdict, reasons
