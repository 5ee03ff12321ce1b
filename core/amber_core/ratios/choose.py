"""Which gearbox and axle ratio fit a stated use: every pair ranked, every rank explained by its terms."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import isfinite, pi
from typing import Literal

import numpy as np

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.gearset.flank import Field
from amber_core.ratios.compare import START_OVER_IDLE
from amber_core.ratios.limits import circumference_ok, gears_ok, ratio_ok, rpm_ok, speed_ok
from amber_core.ratios.vehicle import Engine, Load
from amber_core.words import Said, listed, say

MOST_COMBINATIONS = 20_000
MOST_SHOWN = 200
Name = Literal["cruise", "hold", "start", "crawl", "upshift", "top_speed", "pinion", "parts"]
TERMS: tuple[Name, ...] = ("cruise", "hold", "start", "crawl", "upshift", "top_speed", "pinion", "parts")
_OUTSIDE_BAND = 0.30  # of the band's limit, at which the cruise term has fallen to nothing
_TOOTH_FORM, _FACE_SHARE, _GRIP = 0.35, 0.15, 0.8  # Lewis factor, face over ring diameter, friction that can load the axle: typical
_TYPICAL_STRESS_MPA = 1100.0
_CARRIER_SCORE, _THICK_RING_SCORE = 0.5, 0.8
_TOP_STEP_KMH = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GearboxOption:
    """A gearbox, with the transfer case that goes with it, high and low [-]."""

    name: str
    gears: list[float]
    transfer_high: float = 1.0
    transfer_low: float | None = None

    def __post_init__(self) -> None:
        gears_ok("gears", self.gears)
        ratio_ok("transfer_high", self.transfer_high)
        ratio_ok("transfer_low", self.transfer_low)


@dataclass(frozen=True, slots=True, kw_only=True)
class AxleOption:
    """A ring and pinion of a family [teeth], its ring's outer diameter [mm], and what it needs besides."""

    pinion_teeth: int
    ring_teeth: int
    ring_outer_diameter_mm: float = 200.0
    hub_ratio: float = 1.0
    needs_carrier: bool = False
    needs_thick_ring: bool = False

    def __post_init__(self) -> None:
        checks.within("pinion_teeth", self.pinion_teeth, 4, 40, say("Pinion teeth must be 4 to 40."))
        checks.within("ring_teeth", self.ring_teeth, 10, 120, say("Ring gear teeth must be 10 to 120."))
        checks.within(
            "ring_outer_diameter_mm", self.ring_outer_diameter_mm, 50.0, 1000.0, say("Ring gear diameter must be 50 to 1 000 mm.")
        )
        ratio_ok("hub_ratio", self.hub_ratio)
        if self.ring_teeth <= self.pinion_teeth:
            raise InvalidInput("ring_teeth", say("The ring gear must have more teeth than the pinion."))

    @property
    def ratio(self) -> float:
        """Ring over pinion teeth, [-]."""
        return self.ring_teeth / self.pinion_teeth


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """What the vehicle is for; what is None is not asked of it.

    Parameters
    ----------
    cruise_kmh, cruise_rpm_min, cruise_rpm_max : float
        Cruising speed [km/h] and the band of engine speed there in top gear [rpm].
    hold_grade_pct, hold_kmh : float, optional
        Grade to be held [%], at this speed (cruise when not given) [km/h].
    start_grade_pct : float, optional
        Grade to start on with all load, [%].
    crawl_kmh : float, optional
        Speed at idle in the lowest gear, at most, [km/h].
    upshift_rpm_min, shift_rpm : float, optional
        Engine speed that the widest upshift may drop to, when shifted at `shift_rpm` (redline when not given), [rpm].
    top_kmh : float, optional
        Speed to be reached on level ground, [km/h].
    pinion_stress_mpa : float
        Bending stress of a pinion tooth that is thought fit; typical, for comparing and no proof of strength, [MPa].
    """

    cruise_kmh: float
    cruise_rpm_min: float
    cruise_rpm_max: float
    hold_grade_pct: float | None = None
    hold_kmh: float | None = None
    start_grade_pct: float | None = None
    crawl_kmh: float | None = None
    upshift_rpm_min: float | None = None
    shift_rpm: float | None = None
    top_kmh: float | None = None
    pinion_stress_mpa: float = _TYPICAL_STRESS_MPA

    def __post_init__(self) -> None:
        for name in ("cruise_kmh", "hold_kmh", "crawl_kmh", "top_kmh"):
            speed_ok(name, getattr(self, name))
            checks.above_zero(name, getattr(self, name), say("Speed"))
        for name in ("cruise_rpm_min", "cruise_rpm_max", "upshift_rpm_min", "shift_rpm"):
            rpm_ok(name, getattr(self, name))
        checks.above_zero("cruise_rpm_min", self.cruise_rpm_min, say("Minimum engine speed at cruise"))
        checks.window_in_order(self.cruise_rpm_min, self.cruise_rpm_max, "cruise_rpm_min", say("engine speed at cruise"))
        for name in ("hold_grade_pct", "start_grade_pct"):
            checks.within(name, getattr(self, name), 0.0, 100.0, say("Grade must be 0 to 100 %."))
        checks.within("pinion_stress_mpa", self.pinion_stress_mpa, 50.0, 5000.0, say("Tooth's stress must be 50 to 5 000 MPa."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Weights:
    """How much each term counts, [-]; 0 leaves it out."""

    cruise: float = 3.0
    hold: float = 2.0
    start: float = 2.0
    crawl: float = 1.0
    upshift: float = 1.0
    top_speed: float = 1.0
    pinion: float = 1.0
    parts: float = 1.0

    def __post_init__(self) -> None:
        for name in TERMS:
            checks.within(name, getattr(self, name), 0.0, 100.0, say("Weight must be 0 to 100."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ChooseQuestion:
    """Gearboxes and axles to pair, rolling circumference [m], engine, load, use, weights; `most` of the ranking is told."""

    gearboxes: list[GearboxOption]
    axles: list[AxleOption]
    circumference_m: float
    engine: Engine
    load: Load
    use: Use
    weights: Weights = field(default_factory=Weights)
    most: int = 20

    def __post_init__(self) -> None:
        circumference_ok("circumference_m", self.circumference_m)
        if not self.gearboxes:
            raise InvalidInput("gearboxes", say("Give at least one gearbox."))
        if not self.axles:
            raise InvalidInput("axles", say("Give at least one ring and pinion."))
        if len(self.gearboxes) * len(self.axles) > MOST_COMBINATIONS:
            raise InvalidInput("axles", say("Choose at most {most_combinations} combinations.", most_combinations=MOST_COMBINATIONS))
        checks.within("most", self.most, 1, MOST_SHOWN, say("Ask for 1 to {most_shown} of the ranking.", most_shown=MOST_SHOWN))


@dataclass(frozen=True, slots=True, kw_only=True)
class Term:
    """One term: what it comes to and how far inside what was asked that is (negative: short of it), both in its unit; its score from 0 to 1
    and its weight, and the sentence for it."""

    name: Name
    value: float | None
    unit: str
    score: float
    weight: float
    text: Said
    margin: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A pair with its score [-] and terms; `dominated_by` is the place in the ranking of one that is as good in all and better in some."""

    gearbox: str
    gearbox_index: int
    axle_index: int
    pinion_teeth: int
    ring_teeth: int
    ratio: float
    score: float
    dominated_by: int | None
    terms: list[Term]


@dataclass(frozen=True, slots=True, kw_only=True)
class Chosen:
    """The ranking, best first, and how many pairs there were."""

    choices: list[Choice]
    combinations: int


@dataclass(frozen=True)
class _Scored:
    """One gearbox with every axle: values and scores of the terms, shape (axles, terms)."""

    values: Field
    scores: Field


def choose_ratio(given: ChooseQuestion) -> Chosen:
    """Rank gearboxes and axle ratios for a use.

    Parameters
    ----------
    given : ChooseQuestion
        Options, tyre, engine, load, use, weights.

    Returns
    -------
    Chosen
        Pairs by their weighted mean score, terms with values in their own units.

    Raises
    ------
    InvalidInput
        From the question, with the field.

    Notes
    -----
    Scores are of each pair alone, so that no other pair changes them: 1 where what is asked is met, value over what is asked (or the other
    way round) where it is not; cruise falls from 1 at the band's limits to 0 at 30 % beyond. Pinion: Lewis stress F / (b m Y) at the
    torque of first gear and low range, or at what the tyres can hold, whichever is less; b 0.15 of the ring's diameter, m the outer
    module, Y 0.35.
    Needing another carrier scores 0.5, a thicker ring 0.8.

    Examples
    --------
    >>> from amber_core.ratios.vehicle import TorquePoint
    >>> engine = Engine(idle_rpm=800, redline_rpm=4500, torque=[TorquePoint(rpm=1500, torque_nm=300), TorquePoint(rpm=4500, torque_nm=240)])
    >>> boxes = [GearboxOption(name="five", gears=[3.8, 2.2, 1.4, 1.0, 0.8])]
    >>> axles = [AxleOption(pinion_teeth=11, ring_teeth=41), AxleOption(pinion_teeth=9, ring_teeth=41)]
    >>> use = Use(cruise_kmh=90, cruise_rpm_min=2200, cruise_rpm_max=2500)
    >>> question = ChooseQuestion(
    ...     gearboxes=boxes, axles=axles, circumference_m=2.4, engine=engine, load=Load(mass_kg=2500), use=use)
    >>> choose_ratio(question).choices[0].pinion_teeth
    9
    """
    weights = np.array([_weight(given, name) for name in TERMS])
    scored = [_score(given, box) for box in given.gearboxes]
    scores, values = np.vstack([one.scores for one in scored]), np.vstack([one.values for one in scored])
    total = float(weights.sum())
    # rounded, so that pairs alike are alike in any company
    mean = np.round(scores @ weights / total, 12) if total > 0.0 else np.zeros(len(scores))
    ratios = np.tile([one.ratio for one in given.axles], len(given.gearboxes))
    order = np.lexsort((np.arange(len(mean)), ratios, -mean))
    dominated = _dominated(scores[order][:, weights > 0.0])
    axles = len(given.axles)
    return Chosen(
        choices=[
            _choice(given, int(row) // axles, int(row) % axles, values[row], scores[row], weights, float(mean[row]), dominated[place])
            for place, row in enumerate(order[: given.most])
        ],
        combinations=len(mean),
    )


def _weight(given: ChooseQuestion, name: Name) -> float:
    """The weight of a term; 0 when the use does not ask for it."""
    use = given.use
    asked = {
        "hold": use.hold_grade_pct,
        "start": use.start_grade_pct,
        "crawl": use.crawl_kmh,
        "upshift": use.upshift_rpm_min,
        "top_speed": use.top_kmh,
    }
    if name in asked and not asked[name]:
        return 0.0
    weight: float = getattr(given.weights, name)
    return weight


def _score(given: ChooseQuestion, box: GearboxOption) -> _Scored:
    use, engine, load, around = given.use, given.engine, given.load, given.circumference_m
    axle = np.array([one.ratio * one.hub_ratio for one in given.axles])
    totals = np.multiply.outer(axle * box.transfer_high, np.array(box.gears))  # (axles, gears)
    low = box.transfer_low or box.transfer_high
    lowest = axle * low * box.gears[0]
    per_nm = load.efficiency * 2.0 * pi / around

    cruise = totals[:, -1] * use.cruise_kmh / 0.06 / around
    hold_kmh = use.hold_kmh or use.cruise_kmh
    force = engine.torque_at(totals * hold_kmh / 0.06 / around) * totals * per_nm
    held = _best(load.grade_pct(force, np.full_like(force, hold_kmh)))
    start_nm = float(engine.torque_at(np.array([START_OVER_IDLE * engine.idle_rpm]))[0])
    start = load.grade_pct(start_nm * totals[:, 0] * per_nm, np.zeros(len(axle)))
    crawl = engine.idle_rpm * 0.06 * around / lowest
    shift = use.shift_rpm or engine.redline_rpm
    after = min((shift * high / lower for lower, high in zip(box.gears, box.gears[1:], strict=False)), default=shift)
    top = _top_kmh(given, totals, per_nm)
    stress = _pinion_stress_mpa(given, lowest)
    parts = np.array(
        [(_CARRIER_SCORE if o.needs_carrier else 1.0) * (_THICK_RING_SCORE if o.needs_thick_ring else 1.0) for o in given.axles]
    )

    under, over = cruise / use.cruise_rpm_min, use.cruise_rpm_max / cruise
    within = np.clip(1.0 - np.maximum(0.0, np.maximum(1.0 - under, 1.0 - over)) / _OUTSIDE_BAND, 0.0, 1.0)
    scores = np.column_stack(
        [
            within,
            _reached(held, use.hold_grade_pct),
            _reached(start, use.start_grade_pct),
            np.minimum(1.0, (use.crawl_kmh or np.inf) / crawl),
            _reached(np.full(len(axle), after), use.upshift_rpm_min),
            _reached(top, use.top_kmh),
            np.minimum(1.0, use.pinion_stress_mpa / stress),
            parts,
        ]
    )
    values = np.column_stack([cruise, held, start, crawl, np.full(len(axle), after), top, stress, parts])
    return _Scored(values=values, scores=scores)


def _best(grades: Field) -> Field:
    """The steepest over the gears; 0 where the engine can run in none."""
    best: Field = np.max(np.where(np.isnan(grades), -np.inf, grades), axis=1)
    return np.where(np.isneginf(best), 0.0, np.maximum(best, 0.0))


def _reached(value: Field, wanted: float | None) -> Field:
    if not wanted:
        return np.ones(len(value))
    return np.clip(value, 0.0, wanted) / wanted


def _top_kmh(given: ChooseQuestion, totals: Field, per_nm: float) -> Field:
    """Greatest speed on level ground, [km/h]; 0 where none is held."""
    greatest = float(given.engine.redline_rpm * 0.06 * given.circumference_m / totals[:, -1].min())
    speeds = np.arange(_TOP_STEP_KMH, min(greatest, 400.0) + _TOP_STEP_KMH, _TOP_STEP_KMH)
    level = given.load.resistance_n(speeds)
    upper = totals[:, -3:]  # no vehicle is fastest in a lower gear than its last three
    rpm = upper[:, :, None] * (speeds / 0.06 / given.circumference_m)
    with np.errstate(invalid="ignore"):
        holds = np.any(given.engine.torque_at(rpm) * upper[:, :, None] * per_nm >= level, axis=1)
    last: Field = np.where(holds.any(axis=1), speeds[holds.shape[1] - 1 - np.argmax(holds[:, ::-1], axis=1)], 0.0)
    return last


def _pinion_stress_mpa(given: ChooseQuestion, lowest: Field) -> Field:
    axles = given.axles
    teeth = np.array([one.pinion_teeth for one in axles], dtype=np.float64)
    ring = np.array([one.ring_teeth for one in axles], dtype=np.float64)
    across = np.array([one.ring_outer_diameter_mm for one in axles])
    hub = np.array([one.hub_ratio for one in axles])
    ratio = ring / teeth
    pulled = given.engine.peak.torque_nm * given.load.efficiency * lowest / ratio / hub
    gripped = _GRIP * given.load.weight_n * given.circumference_m / (2.0 * pi) / ratio / hub
    module = across / ring
    tangential = np.minimum(pulled, gripped) * 2000.0 / (module * teeth)
    stress: Field = tangential / (_FACE_SHARE * across * module * _TOOTH_FORM)
    return stress


def _dominated(scores: Field) -> list[int | None]:
    """For each row, ranked, the first row that is as good in all terms and better in some."""
    found: list[int | None] = []
    front: list[int] = []
    for row, one in enumerate(scores):
        by = None
        if front:
            rows = scores[front]
            beats = np.flatnonzero(np.all(rows >= one - 1e-12, axis=1) & np.any(rows > one + 1e-12, axis=1))
            by = front[int(beats[0])] if len(beats) else None
        found.append(by)
        if by is None:
            front.append(row)
    return found


_UNITS: dict[Name, str] = {
    "cruise": "rpm",
    "hold": "%",
    "start": "%",
    "crawl": "km/h",
    "upshift": "rpm",
    "top_speed": "km/h",
    "pinion": "MPa",
    "parts": "",
}


def _choice(
    given: ChooseQuestion, box: int, axle: int, values: Field, scores: Field, weights: Field, mean: float, dominated: int | None
) -> Choice:
    option = given.axles[axle]
    terms = [
        Term(
            name=name,
            value=float(values[column]) if isfinite(values[column]) else None,
            margin=_margin(given.use, name, float(values[column])),
            unit=_UNITS[name],
            score=float(scores[column]),
            weight=float(weights[column]),
            text=_text(given, name, float(values[column]), option),
        )
        for column, name in enumerate(TERMS)
        if weights[column] > 0.0
    ]
    return Choice(
        gearbox=given.gearboxes[box].name,
        gearbox_index=box,
        axle_index=axle,
        pinion_teeth=option.pinion_teeth,
        ring_teeth=option.ring_teeth,
        ratio=option.ratio,
        score=mean,
        dominated_by=dominated,
        terms=terms,
    )


def _margin(use: Use, name: Name, value: float) -> float | None:
    """How far inside what was asked, in the term's unit; None where nothing was asked or it is beyond any figure."""
    if not isfinite(value):
        return None
    if name == "cruise":
        return min(value - use.cruise_rpm_min, use.cruise_rpm_max - value)
    if name == "pinion":
        return use.pinion_stress_mpa - value
    if name == "crawl":
        return None if use.crawl_kmh is None else use.crawl_kmh - value
    wanted = {"hold": use.hold_grade_pct, "start": use.start_grade_pct, "upshift": use.upshift_rpm_min, "top_speed": use.top_kmh}.get(name)
    return None if wanted is None else value - wanted


def _text(given: ChooseQuestion, name: Name, value: float, option: AxleOption) -> Said:
    use = given.use
    if name == "cruise":
        return say(
            "{rpm:.0f} rpm at {speed:kmh0} in top gear; wanted {low:.0f} to {high:.0f} rpm.",
            rpm=value,
            speed=use.cruise_kmh,
            low=use.cruise_rpm_min,
            high=use.cruise_rpm_max,
        )
    if name == "hold":
        steep, speed = _steep(value), use.hold_kmh or use.cruise_kmh
        return say(
            "Holds {steep} at {speed:kmh0} in its best gear; wanted {wanted:g} %.", steep=steep, speed=speed, wanted=use.hold_grade_pct
        )
    if name == "start":
        return say("Starts on {steep} in first gear; wanted {wanted:g} %.", steep=_steep(value), wanted=use.start_grade_pct)
    if name == "crawl":
        return say("Crawls at {speed:kmh1} at idle; wanted {wanted:kmhg} at most.", speed=value, wanted=use.crawl_kmh)
    if name == "upshift":
        return say("The widest upshift drops to {rpm:.0f} rpm; wanted at least {wanted:.0f} rpm.", rpm=value, wanted=use.upshift_rpm_min)
    if name == "top_speed":
        return say("Reaches {speed:kmh0} on level ground; wanted {wanted:kmhg}.", speed=value, wanted=use.top_kmh)
    if name == "pinion":
        return say(
            "About {stress:.0f} MPa at the root of a pinion tooth; up to {allowed:.0f} MPa is taken as strong enough "
            "(typical figure, not the maker's).",
            stress=value,
            allowed=use.pinion_stress_mpa,
        )
    needs = [
        word for word, so in ((say("another carrier"), option.needs_carrier), (say("a thicker ring gear"), option.needs_thick_ring)) if so
    ]
    return say("Needs {parts}.", parts=listed(needs)) if needs else say("Fits as it is.")


def _steep(grade_pct: float) -> Said:
    return say("{grade:.1f} %", grade=grade_pct) if isfinite(grade_pct) else say("any grade")
