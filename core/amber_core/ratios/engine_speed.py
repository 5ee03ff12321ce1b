"""Engine speed at a road speed, the other way round, crawl, and upshifts."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import circumference_ok, gears_ok, ratio_ok, rpm_ok, speed_ok
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedQuestion:
    """Road speed [km/h] or engine speed [rpm], circumference [m], total ratio (gear x transfer x axle x hub), a converter's slip [-]."""

    circumference_m: float
    total_ratio: float
    speed_kmh: float | None = None
    engine_rpm: float | None = None
    slip: float = 0.0

    def __post_init__(self) -> None:
        circumference_ok("circumference_m", self.circumference_m)
        ratio_ok("total_ratio", self.total_ratio, 1000.0)
        speed_ok("speed_kmh", self.speed_kmh)
        rpm_ok("engine_rpm", self.engine_rpm)
        checks.within("slip", self.slip, 0.0, 0.9, say("Slip must be 0 to 0.9."))
        if (self.speed_kmh is None) == (self.engine_rpm is None):
            raise InvalidInput("speed_kmh", say("Give the road speed or the engine speed, one of them."))


@dataclass(frozen=True, slots=True, kw_only=True)
class EngineSpeed:
    """Engine [rpm] and road speed [km/h] that belong together."""

    engine_rpm: float
    speed_kmh: float


def engine_speed(given: SpeedQuestion) -> EngineSpeed:
    """Engine speed at a road speed, or the road speed at an engine speed.

    Parameters
    ----------
    given : SpeedQuestion
        v [km/h] or n [rpm], C [m], i [-], slip s [-].

    Returns
    -------
    EngineSpeed
        n [rpm], v [km/h].

    Raises
    ------
    InvalidInput
        From SpeedQuestion, with the field.

    Notes
    -----
    n = v / 3.6 / C * i * 60 / (1 - s).

    Examples
    --------
    >>> round(engine_speed(SpeedQuestion(speed_kmh=100, circumference_m=2.43, total_ratio=3.362)).engine_rpm, 1)
    2305.9
    """
    per_kmh = given.total_ratio * 60.0 / 3.6 / given.circumference_m / (1.0 - given.slip)
    if given.engine_rpm is not None:
        return EngineSpeed(engine_rpm=given.engine_rpm, speed_kmh=given.engine_rpm / per_kmh)
    assert given.speed_kmh is not None
    return EngineSpeed(engine_rpm=given.speed_kmh * per_kmh, speed_kmh=given.speed_kmh)


@dataclass(frozen=True, slots=True, kw_only=True)
class CrawlQuestion:
    """First gear, low range, axle and hub ratios [-], idle speed [rpm], rolling circumference [m]."""

    first_gear: float
    axle_ratio: float
    circumference_m: float
    transfer_low: float = 1.0
    hub_ratio: float = 1.0
    idle_rpm: float = 750.0

    def __post_init__(self) -> None:
        ratio_ok("first_gear", self.first_gear, 30.0)
        for name in ("axle_ratio", "transfer_low", "hub_ratio"):
            ratio_ok(name, getattr(self, name))
        circumference_ok("circumference_m", self.circumference_m)
        checks.within("idle_rpm", self.idle_rpm, 100.0, 3000.0, say("Idle speed must be 100 to 3 000 rpm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Crawl:
    """Crawl ratio [-], and how fast the vehicle creeps at idle [km/h]."""

    crawl_ratio: float
    speed_kmh: float


def crawl(given: CrawlQuestion) -> Crawl:
    """Lowest gearing, and its speed at idle.

    Parameters
    ----------
    given : CrawlQuestion
        Ratios [-], idle [rpm], C [m].

    Returns
    -------
    Crawl
        i [-], v [km/h].

    Raises
    ------
    InvalidInput
        From CrawlQuestion, with the field.

    Notes
    -----
    i = first x low range x axle x hub; v = 60 n C / i / 1000.

    Examples
    --------
    >>> round(crawl(CrawlQuestion(first_gear=4.31, transfer_low=2.72, axle_ratio=4.88, circumference_m=2.62)).crawl_ratio, 1)
    57.2
    """
    ratio = given.first_gear * given.transfer_low * given.axle_ratio * given.hub_ratio
    return Crawl(crawl_ratio=ratio, speed_kmh=given.idle_rpm * 60.0 * given.circumference_m / ratio / 1000.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class UpshiftQuestion:
    """Gears from first to top [-], ratio behind them (transfer x axle x hub) [-], circumference [m], engine speed at the shift [rpm]."""

    gears: list[float]
    final_ratio: float
    circumference_m: float
    shift_rpm: float

    def __post_init__(self) -> None:
        gears_ok("gears", self.gears)
        ratio_ok("final_ratio", self.final_ratio, 100.0)
        circumference_ok("circumference_m", self.circumference_m)
        rpm_ok("shift_rpm", self.shift_rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Upshifts:
    """Road speed in each gear at the shift [km/h], and the engine speed after each upshift [rpm]."""

    speed_kmh: list[float]
    rpm_after: list[float]


def upshift(given: UpshiftQuestion) -> Upshifts:
    """Speed in each gear at the shift, and where the next gear takes the engine up.

    Parameters
    ----------
    given : UpshiftQuestion
        Gears [-], final ratio [-], C [m], n [rpm].

    Returns
    -------
    Upshifts
        v [km/h] for every gear, n [rpm] after every shift but the last.

    Raises
    ------
    InvalidInput
        From UpshiftQuestion, with the field.

    Notes
    -----
    n after = n i_next / i_now.

    Examples
    --------
    >>> upshift(UpshiftQuestion(gears=[4.0, 2.0], final_ratio=4.0, circumference_m=2.0, shift_rpm=4000)).rpm_after
    [2000.0]
    """
    speeds = [given.shift_rpm * 60.0 * given.circumference_m / (gear * given.final_ratio) / 1000.0 for gear in given.gears]
    after = [given.shift_rpm * higher / lower for lower, higher in zip(given.gears, given.gears[1:], strict=False)]
    return Upshifts(speed_kmh=speeds, rpm_after=after)
