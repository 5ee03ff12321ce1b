"""What the first kilometres ask for, by what was fitted: checks, limits and things to do, by odometer and date."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import Said, say

Fitted = Literal[
    "gears_new",
    "gears_used",
    "clutches",
    "helical",
    "locker",
    "bearings",
    "pinion_seal",
    "cover_sealed",
    "shaft",
    "wheels_off",
    "brakes",
    "hubs",
    "air_locker",
]
ItemKind = Literal["do", "limit", "check"]
MOST_KM = 1_000_000.0

_ORDER = (
    "leak_now",
    "figure_eights",
    "ratchet",
    "bed_in",
    "heat_cycles",
    "leak_warm",
    "gentle",
    "no_tow",
    "leak_morning",
    "air_leak",
    "wheel_nuts",
    "shaft_bolts",
    "hub_play",
    "first_oil",
    "tow_in",
)
_NEXT_DAY = ("leak_morning", "air_leak")
_LEAKS = {"pinion_seal", "cover_sealed", "gears_new", "gears_used", "bearings"}


@dataclass(frozen=True, slots=True, kw_only=True)
class GivenRule:
    """A supplier's own figure for a rule: distances from now [km], hours from now, and words."""

    at_km: float | None = None
    from_km: float | None = None
    until_km: float | None = None
    after_hours: float | None = None
    text: str | None = None

    def __post_init__(self) -> None:
        for name in ("at_km", "from_km", "until_km"):
            checks.within(name, getattr(self, name), 0.0, MOST_KM, say("Distance must be 0 to 1 000 000 km from now."))
        checks.window_in_order(self.from_km, self.until_km, "from_km", say("distance"))
        checks.within("after_hours", self.after_hours, 0.0, 10_000.0, say("Hours must be 0 to 10 000."))
        if self.text is not None and not 1 <= len(self.text.strip()) <= 500:
            raise InvalidInput("text", say("Words of a rule must be 1 to 500 characters."))


@dataclass(frozen=True, slots=True, kw_only=True)
class RunInQuestion:
    """What was fitted, the odometer [km], the day (YYYY-MM-DD), whether the vehicle tows, and the supplier's rules; null leaves one out."""

    fitted: list[Fitted]
    odometer_km: float
    date: str
    tows: bool = False
    rules: dict[str, GivenRule | None] = field(default_factory=dict)

    def __post_init__(self) -> None:
        checks.within("odometer_km", self.odometer_km, 0.0, 5_000_000.0, say("Odometer must be 0 to 5 000 000 km."))
        day_of(self.date, "date")
        for code in self.rules:
            if code not in _ORDER:
                raise InvalidInput(f"rules.{code[:60]}", say("There is no such rule. Choose one of: {names}.", names=", ".join(_ORDER)))


@dataclass(frozen=True, slots=True, kw_only=True)
class RunInItem:
    """One thing to do, keep to or check; odometer readings [km], the day, hours after the work, and whose rule it is."""

    code: str
    text: Said
    kind: ItemKind
    at_km: float | None
    from_km: float | None
    until_km: float | None
    on_date: str | None
    after_hours: float | None
    status: Literal["rule", "given"]


@dataclass(frozen=True, slots=True, kw_only=True)
class RunInPlan:
    """The items in the order in which they come up."""

    items: list[RunInItem]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Rule:
    """Distances from now, [km]."""

    text: Said
    kind: ItemKind
    at: float | None = None
    since: float | None = None
    until: float | None = None
    hours: float | None = None


def day_of(text: str, path: str) -> date:
    """A day written as YYYY-MM-DD.

    Raises
    ------
    InvalidInput
        On `path`.
    """
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise InvalidInput(path, say("Write the date as year-month-day, such as 2026-05-04.")) from None


def plan_run_in(given: RunInQuestion) -> RunInPlan:
    """The run-in plan of a job. The supplier's rules come first.

    Parameters
    ----------
    given : RunInQuestion
        What was fitted, odometer [km], day.

    Returns
    -------
    RunInPlan
        Items by odometer [km], then hours.

    Raises
    ------
    InvalidInput
        From RunInQuestion, with the field.

    Notes
    -----
    Rules of thumb of the trade: heat cycles and 800 km without towing for new gears, figures of eight for clutches, wheel nuts again
    between 50 and 100 km, leaks looked for at once, warm and next morning.

    Examples
    --------
    >>> plan = plan_run_in(RunInQuestion(fitted=["shaft"], odometer_km=151000.0, date="2025-06-10"))
    >>> [(one.code, one.at_km) for one in plan.items]
    [('shaft_bolts', 151100.0)]
    """
    today = day_of(given.date, "date")
    items = []
    for code, rule in _rules(given).items():
        own = given.rules.get(code)
        if code in given.rules and own is None:
            continue
        items.append(_item(given, code, rule, own, today))
    items.sort(key=lambda one: (_where(one, given.odometer_km), one.after_hours or 0.0, _ORDER.index(one.code)))
    return RunInPlan(items=items)


def _where(one: RunInItem, odometer: float) -> float:
    return next(km for km in (one.at_km, one.from_km, odometer) if km is not None)


def _item(given: RunInQuestion, code: str, rule: _Rule, own: GivenRule | None, today: date) -> RunInItem:
    if own is not None:
        rule = replace(
            rule,
            text=rule.text if own.text is None else Said.of(own.text),
            at=rule.at if own.at_km is None else own.at_km,
            since=rule.since if own.from_km is None else own.from_km,
            until=rule.until if own.until_km is None else own.until_km,
            hours=rule.hours if own.after_hours is None else own.after_hours,
        )

    def odometer(distance: float | None) -> float | None:
        return None if distance is None else given.odometer_km + distance

    day = today if code == "leak_now" else today + timedelta(days=1) if code in _NEXT_DAY else None
    return RunInItem(
        code=code,
        text=rule.text,
        kind=rule.kind,
        at_km=odometer(rule.at),
        from_km=odometer(rule.since),
        until_km=odometer(rule.until),
        on_date=day.isoformat() if day else None,
        after_hours=rule.hours,
        status="rule" if own is None else "given",
    )


def _rules(given: RunInQuestion) -> dict[str, _Rule]:
    fitted = set(given.fitted)
    found: dict[str, _Rule] = {}
    if fitted & _LEAKS:
        found["leak_now"] = _Rule(text=say("Look for leaks before the vehicle leaves."), kind="check", hours=0.0)
        found["leak_warm"] = _Rule(text=say("Look for leaks after the first drive, while it is warm."), kind="check")
        found["leak_morning"] = _Rule(text=say("Look for leaks next morning, with the oil cold."), kind="check", hours=12.0)
    if "clutches" in fitted:
        found["figure_eights"] = _Rule(text=say("Drive ten slow figures of eight each way first, at walking pace."), kind="do")
    if "locker" in fitted:
        text = say("Check that the locker ratchets both ways, at walking pace on loose ground.")
        found["ratchet"] = _Rule(text=text, kind="check")
    if "brakes" in fitted:
        found["bed_in"] = _Rule(text=say("Brake gently: brakes that were apart have to bed in."), kind="do", since=0.0, until=100.0)
    if "gears_new" in fitted:
        text = say("Three drives of 20 minutes at easy load. Let the axle cool until it is hand-warm after each.")
        found["heat_cycles"] = _Rule(text=text, kind="do")
        found["no_tow"] = _Rule(text=say("No towing."), kind="limit", since=0.0, until=800.0)
    gentle = next((km for part, km in (("gears_new", 800.0), ("clutches", 160.0), ("bearings", 100.0)) if part in fitted), None)
    if gentle is not None:
        found["gentle"] = _Rule(text=say("Drive gently: no full throttle, no long climbs flat out."), kind="limit", since=0.0, until=gentle)
    if "air_locker" in fitted:
        found["air_leak"] = _Rule(text=say("Check that the air line still holds its pressure."), kind="check", hours=12.0)
    if "wheels_off" in fitted:
        found["wheel_nuts"] = _Rule(text=say("Torque the wheel nuts again, by hand."), kind="check", since=50.0, until=100.0)
    if "shaft" in fitted:
        found["shaft_bolts"] = _Rule(text=say("Check the torque of the propshaft bolts."), kind="check", at=100.0)
    if "hubs" in fitted:
        found["hub_play"] = _Rule(text=say("Check the play of the wheel bearings."), kind="check", at=100.0)
    if fitted & {"gears_new", "clutches"}:
        found["first_oil"] = _Rule(text=say("Change the axle oil for the first time."), kind="do", at=800.0)
    if "gears_new" in fitted and given.tows:
        found["tow_in"] = _Rule(text=say("Begin towing with three short pulls of 25 km, with pauses between."), kind="do", at=800.0)
    return found
