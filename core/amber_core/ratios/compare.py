"""Gearings side by side, gear by gear: engine speed over road speed, wheel force, grades held, and what each does better and worse."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import isfinite, pi

import numpy as np

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.gearset.flank import Field
from amber_core.ratios.limits import circumference_ok, gears_ok, ratio_ok, rpm_ok, speed_ok
from amber_core.ratios.vehicle import Engine, Load
from amber_core.words import NOTHING, Said, say

MOST_GEARINGS = 6
_SPEED_STEP_KMH = 1.0
_POINTS = 25
_STEEPEST_PCT = 100.0
START_OVER_IDLE = 1.3
"""Engine speed at which a clutch takes up, over idle, [-]; typical."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Gearing:
    """A tyre, a gearbox and an axle together: rolling circumference [m], gears, axle, transfer case and hub ratios [-]."""

    name: str
    circumference_m: float
    gears: list[float]
    axle_ratio: float
    transfer: float = 1.0
    hub: float = 1.0

    def __post_init__(self) -> None:
        circumference_ok("circumference_m", self.circumference_m)
        gears_ok("gears", self.gears)
        for name in ("axle_ratio", "transfer", "hub"):
            ratio_ok(name, getattr(self, name))

    @property
    def totals(self) -> Field:
        """Total ratio in every gear, [-]."""
        return np.array(self.gears) * self.axle_ratio * self.transfer * self.hub

    def rpm(self, speed_kmh: Field) -> Field:
        """Engine speed at road speeds, gear by gear, [rpm]; shape (gears, speeds)."""
        return np.multiply.outer(self.totals, speed_kmh / 3.6 / self.circumference_m * 60.0)

    def force_n(self, engine: Engine, load: Load, speed_kmh: Field) -> Field:
        """Wheel force at full throttle, gear by gear, [N]; nan where the engine cannot run."""
        return engine.torque_at(self.rpm(speed_kmh)) * self.newton_per_nm(load)[:, None]

    def newton_per_nm(self, load: Load) -> Field:
        """Wheel force per engine torque i eta 2 pi / C, gear by gear, [N/Nm]."""
        return self.totals * load.efficiency * 2.0 * pi / self.circumference_m


@dataclass(frozen=True, slots=True, kw_only=True)
class CompareQuestion:
    """Gearings to compare, the first is what there is now; engine, load, cruise [km/h] with its band of engine speed [rpm], grades [%]."""

    gearings: list[Gearing]
    engine: Engine
    load: Load
    cruise_kmh: float
    cruise_rpm_min: float | None = None
    cruise_rpm_max: float | None = None
    grades_pct: list[float] = field(default_factory=lambda: [5.0, 10.0, 20.0])

    def __post_init__(self) -> None:
        if not 1 <= len(self.gearings) <= MOST_GEARINGS:
            raise InvalidInput("gearings", say("Compare one to {most_gearings} gearings.", most_gearings=MOST_GEARINGS))
        speed_ok("cruise_kmh", self.cruise_kmh)
        checks.above_zero("cruise_kmh", self.cruise_kmh, say("The cruising speed"))
        rpm_ok("cruise_rpm_min", self.cruise_rpm_min)
        rpm_ok("cruise_rpm_max", self.cruise_rpm_max)
        checks.window_in_order(self.cruise_rpm_min, self.cruise_rpm_max, "cruise_rpm_min", say("engine speed at cruise"))
        if len(self.grades_pct) > 8:
            raise InvalidInput("grades_pct", say("Give at most eight grades."))
        for index, one in enumerate(self.grades_pct):
            checks.within(f"grades_pct[{index}]", one, 0.0, 100.0, say("Grade must be 0 to 100 %."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ForcePoint:
    """Wheel force [N] at a road speed [km/h]."""

    speed_kmh: float
    force_n: float


@dataclass(frozen=True, slots=True, kw_only=True)
class InGear:
    """One gear: total ratio, road speeds at idle and at the greatest engine speed [km/h], engine speed at cruise [rpm], and its force.

    `cruise_grade_pct` is the grade held at cruise [%], None where the engine cannot run there; `rpm_after` the engine speed after the
    upshift from here at the greatest speed, None in top.
    """

    ratio: float
    idle_kmh: float
    redline_kmh: float
    cruise_rpm: float
    cruise_grade_pct: float | None
    rpm_after: float | None
    force: list[ForcePoint]


@dataclass(frozen=True, slots=True, kw_only=True)
class GearingShown:
    """A gearing gear by gear; top speed [km/h] and its gear (from 1), grade that it starts on in first [%], speed at idle in first [km/h].

    `better` and `worse` are sentences against the first gearing; empty for the first.
    """

    name: str
    gears: list[InGear]
    top_kmh: float | None
    top_gear: int | None
    start_grade_pct: float | None
    creep_kmh: float
    cruise_band: Said
    better: list[Said]
    worse: list[Said]


@dataclass(frozen=True, slots=True, kw_only=True)
class GradeLine:
    """What a grade [%] asks of the wheels at each of the answer's speeds, [N]."""

    grade_pct: float
    force_n: list[float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Gearings, and what the road asks: speeds [km/h], level ground and grades [N]."""

    gearings: list[GearingShown]
    speed_kmh: list[float]
    level_n: list[float]
    grades: list[GradeLine]


def compare_gearings(given: CompareQuestion) -> Compared:
    """Put gearings side by side.

    Parameters
    ----------
    given : CompareQuestion
        Gearings, engine, load, cruise.

    Returns
    -------
    Compared
        Speeds [km/h], engine speeds [rpm], forces [N], grades [%].

    Raises
    ------
    InvalidInput
        From the question, with the field.

    Notes
    -----
    Wheel force F = T i eta 2 pi / C; resistance m g (sin q + f cos q) + rho / 2 CdA v^2. Top speed is the greatest at which the force in
    some gear covers level ground's resistance. Starting: torque at 1.3 times idle, no acceleration.

    Examples
    --------
    >>> from amber_core.ratios.vehicle import TorquePoint
    >>> engine = Engine(idle_rpm=800, redline_rpm=4500, torque=[TorquePoint(rpm=1500, torque_nm=300), TorquePoint(rpm=4500, torque_nm=240)])
    >>> gearing = Gearing(name="now", circumference_m=2.3, gears=[3.8, 2.2, 1.4, 1.0], axle_ratio=4.1)
    >>> question = CompareQuestion(gearings=[gearing], engine=engine, load=Load(mass_kg=2400), cruise_kmh=90)
    >>> round(compare_gearings(question).gearings[0].gears[-1].cruise_rpm)
    2674
    """
    greatest = max(float(one.circumference_m * given.engine.redline_rpm * 0.06 / one.totals[-1]) for one in given.gearings)
    speeds = np.arange(0.0, min(greatest, 400.0) + _SPEED_STEP_KMH, _SPEED_STEP_KMH)
    level = given.load.resistance_n(speeds)
    facts = [_facts(one, given, speeds, level) for one in given.gearings]
    shown = [_shown(one, fact, given) for one, fact in zip(given.gearings, facts, strict=True)]
    told = [shown[0], *(_against(fact, facts[0], one, given) for fact, one in zip(facts[1:], shown[1:], strict=True))]
    some = speeds[:: max(1, len(speeds) // 60)]
    return Compared(
        gearings=told,
        speed_kmh=[float(one) for one in some],
        level_n=[float(one) for one in given.load.resistance_n(some)],
        grades=[
            GradeLine(grade_pct=grade, force_n=[float(one) for one in given.load.resistance_n(some, grade)]) for grade in given.grades_pct
        ],
    )


@dataclass(frozen=True)
class _Facts:
    top_kmh: float | None
    top_gear: int | None
    start_pct: float | None
    creep_kmh: float
    cruise_rpm: Field
    cruise_pct: Field
    lowest_after: float | None


def _facts(one: Gearing, given: CompareQuestion, speeds: Field, level: Field) -> _Facts:
    engine, load = given.engine, given.load
    force = one.force_n(engine, load, speeds)
    with np.errstate(invalid="ignore"):
        holds = force >= level[None, :]
    top, gear = None, None
    if holds.any():
        at = int(np.flatnonzero(holds.any(axis=0))[-1])
        top, gear = float(speeds[at]), int(np.flatnonzero(holds[:, at])[-1]) + 1
    cruise = np.array([given.cruise_kmh])
    pulled = one.force_n(engine, load, cruise)[:, 0]
    start = float(engine.torque_at(np.array([START_OVER_IDLE * engine.idle_rpm]))[0])
    push = start * float(one.newton_per_nm(load)[0])
    after = [engine.redline_rpm * higher / lower for lower, higher in zip(one.gears, one.gears[1:], strict=False)]
    return _Facts(
        top_kmh=top,
        top_gear=gear,
        start_pct=_finite(float(load.grade_pct(np.array([push]), np.zeros(1))[0])),
        creep_kmh=engine.idle_rpm * 0.06 * one.circumference_m / float(one.totals[0]),
        cruise_rpm=one.rpm(cruise)[:, 0],
        cruise_pct=load.grade_pct(pulled, np.full(len(pulled), given.cruise_kmh)),
        lowest_after=min(after, default=None),
    )


def _finite(value: float) -> float | None:
    """None for nan; what is steeper than any road is told as the steepest."""
    return min(value, _STEEPEST_PCT) if isfinite(value) else (None if np.isnan(value) else _STEEPEST_PCT)


def _shown(one: Gearing, fact: _Facts, given: CompareQuestion) -> GearingShown:
    engine = given.engine
    per_nm = one.newton_per_nm(given.load)
    gears = []
    for index, total in enumerate(one.totals):
        low, high = (rpm * 0.06 * one.circumference_m / float(total) for rpm in (engine.idle_rpm, engine.redline_rpm))
        speeds = np.linspace(low, high, _POINTS)
        rpm = np.linspace(engine.idle_rpm, engine.redline_rpm, _POINTS)
        force = engine.torque_at(rpm) * per_nm[index]
        gears.append(
            InGear(
                ratio=float(total),
                idle_kmh=low,
                redline_kmh=high,
                cruise_rpm=float(fact.cruise_rpm[index]),
                cruise_grade_pct=_finite(float(fact.cruise_pct[index])),
                rpm_after=engine.redline_rpm * one.gears[index + 1] / one.gears[index] if index + 1 < len(one.gears) else None,
                force=[ForcePoint(speed_kmh=float(v), force_n=float(f)) for v, f in zip(speeds, force, strict=True) if isfinite(f)],
            )
        )
    return GearingShown(
        name=one.name,
        gears=gears,
        top_kmh=fact.top_kmh,
        top_gear=fact.top_gear,
        start_grade_pct=fact.start_pct,
        creep_kmh=fact.creep_kmh,
        cruise_band=_band(float(fact.cruise_rpm[-1]), given),
        better=[],
        worse=[],
    )


def _band(rpm: float, given: CompareQuestion) -> Said:
    """How the engine speed at cruise in top gear lies to its band."""
    if given.cruise_rpm_min is not None and rpm < given.cruise_rpm_min:
        return say("{value:.0f} rpm under the wanted range in top gear", value=given.cruise_rpm_min - rpm)
    if given.cruise_rpm_max is not None and rpm > given.cruise_rpm_max:
        return say("{value:.0f} rpm over the wanted range in top gear", value=rpm - given.cruise_rpm_max)
    if given.cruise_rpm_min is None and given.cruise_rpm_max is None:
        return NOTHING
    return say("in the wanted range in top gear")


def _quieter(rpm: float, rpm_now: float, given: CompareQuestion) -> float:
    """How much better an engine speed at cruise is than that of now, [rpm]: nearer to its band, or lower when both are inside."""

    def outside(one: float) -> float:
        return max((given.cruise_rpm_min or one) - one, one - (given.cruise_rpm_max or one), 0.0)

    off, off_now = outside(rpm), outside(rpm_now)
    return rpm_now - rpm if off == off_now == 0.0 else off_now - off


def _against(fact: _Facts, now: _Facts, shown: GearingShown, given: CompareQuestion) -> GearingShown:
    """The same with sentences against what there is now."""
    better: list[Said] = []
    worse: list[Said] = []

    def told(gain: float, least: float, sentence: Said) -> None:
        if abs(gain) >= least:
            (better if gain > 0.0 else worse).append(sentence)

    held, held_now = (_finite(float(np.nanmax(one.cruise_pct))) if not np.isnan(one.cruise_pct).all() else None for one in (fact, now))
    if held is not None and held_now is not None:
        told(held - held_now, 0.2, say("holds a {held:.1f} % grade at cruise instead of {held_now:.1f} %", held=held, held_now=held_now))
    if fact.start_pct is not None and now.start_pct is not None:
        told(
            fact.start_pct - now.start_pct,
            1.0,
            say("starts on a {start_pct:.0f} % grade instead of {start_pct2:.0f} %", start_pct=fact.start_pct, start_pct2=now.start_pct),
        )
    rpm, rpm_now = float(fact.cruise_rpm[-1]), float(now.cruise_rpm[-1])
    told(
        _quieter(rpm, rpm_now, given),
        25.0,
        say("turns {rpm:.0f} rpm at cruise in top gear instead of {rpm_now:.0f}", rpm=rpm, rpm_now=rpm_now),
    )
    if fact.top_kmh is not None and now.top_kmh is not None:
        told(
            fact.top_kmh - now.top_kmh,
            1.5,
            say("reaches {top_kmh:kmh0} instead of {top_kmh2:kmh0}", top_kmh=fact.top_kmh, top_kmh2=now.top_kmh),
        )
    told(
        now.creep_kmh - fact.creep_kmh,
        0.2,
        say("crawls at {creep_kmh:kmh1} at idle in first instead of {creep_kmh2:kmh1}", creep_kmh=fact.creep_kmh, creep_kmh2=now.creep_kmh),
    )
    if fact.lowest_after is not None and now.lowest_after is not None:
        sentence = say(
            "drops to {lowest_after:.0f} rpm at the widest upshift instead of {lowest_after2:.0f}",
            lowest_after=fact.lowest_after,
            lowest_after2=now.lowest_after,
        )
        told(fact.lowest_after - now.lowest_after, 50.0, sentence)
    return replace(shown, better=better, worse=worse)
