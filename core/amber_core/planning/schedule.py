"""When a job is ready: steps over opening hours, with hands, waits and parts that arrive later."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from itertools import pairwise

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.road_test.run_in import day_of
from amber_core.verdicts import Reason
from amber_core.words import say

DAY, WEEK = 24 * 60, 7 * 24 * 60
MOST_STEPS, MOST_MINUTES, MOST_HANDS, MOST_CLOSED = 500, 100_000, 8, 400
FAR_MINUTES = 366 * DAY
"""Parts that arrive later than this are more likely a slip in the date."""


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningHours:
    """A weekday (0 Monday) and from when to when, "HH:MM"; a day may have several."""

    weekday: int
    from_: str
    to: str

    def __post_init__(self) -> None:
        checks.within("weekday", self.weekday, 0, 6, say("A weekday is 0 (Monday) to 6 (Sunday)."))
        if _minute_of("from", self.from_) >= _minute_of("to", self.to):
            raise InvalidInput("from", say("Opening time must be before closing time. Check which is which."))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedStep:
    """A step: minutes of work, the steps it comes after, minutes of waiting after it, and a time before which it cannot begin."""

    code: str
    minutes: int
    after: list[str] = field(default_factory=list)
    wait_minutes: int = 0
    not_before: str | None = None

    def __post_init__(self) -> None:
        if not self.code:
            raise InvalidInput("code", say("A step needs a code."))
        checks.within("minutes", self.minutes, 1, MOST_MINUTES, say("Minutes of a step must be 1 to 100 000."))
        checks.within("wait_minutes", self.wait_minutes, 0, 1_000_000, say("Minutes of waiting must be 0 to 1 000 000."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ScheduleQuestion:
    """Local start, opening hours of a week, how many people, the steps, and days on which the shop is closed (YYYY-MM-DD)."""

    start: str
    hours: list[OpeningHours]
    hands: int
    steps: list[PlannedStep]
    closed: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        _moment("start", self.start)
        if len(self.closed) > MOST_CLOSED:
            raise InvalidInput("closed", say("Give {most} closing days at most.", most=MOST_CLOSED))
        for index, day in enumerate(self.closed):
            day_of(day, f"closed[{index}]")
        if not 1 <= len(self.hours) <= 100:
            raise InvalidInput("hours", say("Give the opening hours of at least one day."))
        _week(self.hours)
        checks.within("hands", self.hands, 1, MOST_HANDS, say("Number of people must be 1 to {most}.", most=MOST_HANDS))
        if not 1 <= len(self.steps) <= MOST_STEPS:
            raise InvalidInput("steps", say("Give 1 to {most} steps.", most=MOST_STEPS))
        codes: set[str] = set()
        for index, one in enumerate(self.steps):
            if one.code in codes:
                raise InvalidInput(f"steps[{index}].code", say("Two steps are called “{code}”. Give each its own code.", code=one.code))
            codes.add(one.code)
            if one.not_before is not None:
                _moment(f"steps[{index}].not_before", one.not_before)
        for index, one in enumerate(self.steps):
            for place, code in enumerate(one.after):
                if code not in codes:
                    raise InvalidInput(f"steps[{index}].after[{place}]", say("There is no step called “{code}”.", code=code))
        _tails(self.steps)


@dataclass(frozen=True, slots=True, kw_only=True)
class ScheduledStep:
    """When a step begins, when its work ends, and when what it waits for is over; local, "YYYY-MM-DDTHH:MM"."""

    code: str
    begin: str
    end: str
    free_at: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Schedule:
    """The steps in the order given, when all is ready, what holds it up, and open minutes in which no hand works."""

    steps: list[ScheduledStep]
    ready_at: str
    critical: list[str]
    waiting_minutes: int
    problems: list[Reason]


def schedule_job(given: ScheduleQuestion) -> Schedule:
    """Lay a job's steps over the opening hours.

    Parameters
    ----------
    given : ScheduleQuestion
        Minutes, opening hours, people.

    Returns
    -------
    Schedule
        Local times and minutes.

    Raises
    ------
    InvalidInput
        From ScheduleQuestion, with the field; on ``steps`` when they go in a circle.

    Notes
    -----
    List scheduling: whoever is free takes, of the steps that may begin, the one with the longest tail of work and waits. A step begins in
    opening hours and goes on after closing time at the next opening, its hand kept. Waits run on the clock.

    Examples
    --------
    >>> hours = [OpeningHours(weekday=0, from_="08:00", to="16:30")]
    >>> steps = [PlannedStep(code="strip", minutes=60), PlannedStep(code="build", minutes=30, after=["strip"])]
    >>> schedule_job(ScheduleQuestion(start="2026-11-30T08:00", hours=hours, hands=1, steps=steps)).ready_at
    '2026-11-30T09:30'
    """
    return _Board(given).answer()


@dataclass(slots=True)
class _Laid:
    begin: int
    end: int
    free: int


class _Clock:
    """Opening hours without end, but for days that are closed. Times are minutes from the Monday before the start, 00:00."""

    def __init__(self, hours: list[OpeningHours], closed: set[int]) -> None:
        self._week, self._closed = _week(hours), closed
        self._opens = [opens for opens, _ in self._week]

    def opened(self, at: int) -> int:
        """The first minute from `at` on in which a step may begin."""
        for opens, closes in self._from(at):
            if at < closes:
                return max(at, opens)
        raise AssertionError  # pragma: no cover - the weeks go on

    def worked(self, begin: int, minutes: int) -> int:
        """When so many open minutes from `begin` on are over."""
        for opens, closes in self._from(begin):
            room = closes - max(opens, begin)
            if room >= minutes:
                return max(opens, begin) + minutes
            minutes -= max(room, 0)
        raise AssertionError  # pragma: no cover - the weeks go on

    def between(self, begin: int, end: int) -> int:
        """Open minutes from `begin` to `end`."""
        total = 0
        for opens, closes in self._from(begin):
            if opens >= end:
                break
            total += max(min(closes, end) - max(opens, begin), 0)
        return total

    def _from(self, at: int) -> Iterator[tuple[int, int]]:
        week, inside = divmod(at, WEEK)
        index = max(bisect_right(self._opens, inside) - 1, 0)
        while True:
            for opens, closes in self._week[index:]:
                if (week * WEEK + opens) // DAY not in self._closed:
                    yield week * WEEK + opens, week * WEEK + closes
            week, index = week + 1, 0


class _Board:
    def __init__(self, given: ScheduleQuestion) -> None:
        self._steps = given.steps
        self._by_code = {one.code: one for one in given.steps}
        start = _moment("start", given.start)
        self._zero = start.replace(hour=0, minute=0) - timedelta(days=start.weekday())
        self._start = self._minutes(start)
        self._clock = _Clock(given.hours, {(day_of(day, "closed") - self._zero.date()).days for day in given.closed})
        self._tail = _tails(given.steps)
        self._not_before = {
            one.code: self._minutes(_moment("not_before", one.not_before)) for one in given.steps if one.not_before is not None
        }
        self._laid: dict[str, _Laid] = {}
        self._lay(given.hands)

    def _minutes(self, moment: datetime) -> int:
        return round((moment - self._zero).total_seconds() / 60)

    def _told(self, minutes: int) -> str:
        return (self._zero + timedelta(minutes=minutes)).strftime("%Y-%m-%dT%H:%M")

    def _earliest(self, step: PlannedStep) -> int | None:
        """When it may begin by what it comes after; None while that is not laid."""
        if any(code not in self._laid for code in step.after):
            return None
        return max([self._start, self._not_before.get(step.code, self._start), *(self._laid[code].free for code in step.after)])

    def _lay(self, hands: int) -> None:
        free = [self._start] * hands
        left = list(self._steps)
        now = self._clock.opened(self._start)
        while left:
            known = {one.code: at for one in left if (at := self._earliest(one)) is not None}
            ready = [one for one in left if known.get(one.code, now + 1) <= now]
            hand = min(range(hands), key=free.__getitem__)
            if ready and free[hand] <= now:
                step = max(ready, key=lambda one: self._tail[one.code])
                end = self._clock.worked(now, step.minutes)
                self._laid[step.code] = _Laid(now, end, end + step.wait_minutes)
                free[hand] = end
                left.remove(step)
                continue
            later = [at for at in [*known.values(), *free] if at > now]
            now = self._clock.opened(min(later))

    def answer(self) -> Schedule:
        ready = max(one.free for one in self._laid.values())
        steps = [
            ScheduledStep(code=one.code, begin=self._told(laid.begin), end=self._told(laid.end), free_at=self._told(laid.free))
            for one, laid in ((one, self._laid[one.code]) for one in self._steps)
        ]
        return Schedule(
            steps=steps,
            ready_at=self._told(ready),
            critical=self._critical(),
            waiting_minutes=self._waiting(ready),
            problems=self._problems(),
        )

    def _waiting(self, ready: int) -> int:
        worked, until = 0, self._start
        for begin, end in sorted((one.begin, one.end) for one in self._laid.values()):
            if end > until:
                worked += self._clock.between(max(begin, until), end)
                until = end
        return self._clock.between(self._start, ready) - worked

    def _critical(self) -> list[str]:
        step = max(self._steps, key=lambda one: self._laid[one.code].free)
        chain = [step.code]
        while (before := self._held_by(step)) is not None:
            chain.append(before.code)
            step = before
        return chain[::-1]

    def _held_by(self, step: PlannedStep) -> PlannedStep | None:
        """The step that this one waited for: what it comes after, or the hand that was busy."""
        begin, earliest = self._laid[step.code].begin, self._earliest(step)
        assert earliest is not None
        if begin > self._clock.opened(earliest):
            before = [one for one in self._steps if one is not step and self._laid[one.code].end <= begin]
            return max(before, key=lambda one: self._laid[one.code].end, default=None)
        if not step.after:
            return None
        last = max((one for one in self._steps if one.code in step.after), key=lambda one: self._laid[one.code].free)
        fixed = max(self._start, self._not_before.get(step.code, self._start))
        return last if self._laid[last.code].free >= fixed else None

    def _problems(self) -> list[Reason]:
        return [
            Reason(
                code="far_away",
                text=say("“{code}” waits for something more than a year away. Check the date.", code=one.code),
                field=f"steps[{index}].not_before",
            )
            for index, one in enumerate(self._steps)
            if self._not_before.get(one.code, self._start) - self._start > FAR_MINUTES
        ]


def _tails(steps: list[PlannedStep]) -> dict[str, int]:
    """Own minutes, waits and the longest tail of what comes after, of each step; without recursion, as chains can be long."""
    follows: dict[str, list[str]] = {one.code: [] for one in steps}
    open_ends = {one.code: 0 for one in steps}
    for one in steps:
        for code in set(one.after):
            follows[code].append(one.code)
            open_ends[code] += 1
    by_code = {one.code: one for one in steps}
    found: dict[str, int] = {}
    last = [code for code, count in open_ends.items() if count == 0]
    while last:
        code = last.pop()
        own = by_code[code]
        found[code] = own.minutes + own.wait_minutes + max((found[one] for one in follows[code]), default=0)
        for before in set(own.after):
            open_ends[before] -= 1
            if open_ends[before] == 0:
                last.append(before)
    if len(found) < len(steps):
        names = ", ".join(one.code for one in steps if one.code not in found)[:200]
        raise InvalidInput("steps", say("These steps wait for each other in a circle: {names}.", names=names))
    return found


def _week(hours: list[OpeningHours]) -> list[tuple[int, int]]:
    """The open stretches of a week, [min from Monday 00:00].

    Raises
    ------
    InvalidInput
        When two of them overlap.
    """
    found = sorted((one.weekday * DAY + _minute_of("from", one.from_), one.weekday * DAY + _minute_of("to", one.to)) for one in hours)
    if any(later[0] < earlier[1] for earlier, later in pairwise(found)):
        raise InvalidInput("hours", say("Opening hours of one day must not overlap."))
    return found


def _minute_of(path: str, text: str) -> int:
    whole, _, rest = text.partition(":")
    if len(whole) == 2 and len(rest) == 2 and (whole + rest).isascii() and (whole + rest).isdigit():
        hour, minute = int(whole), int(rest)
        if minute < 60 and (hour < 24 or (hour == 24 and minute == 0)):
            return hour * 60 + minute
    raise InvalidInput(path, say("Write the time as hours and minutes, such as 08:00."))


def _moment(path: str, text: str) -> datetime:
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        found = None
    if found is None or found.tzinfo is not None or found.second or found.microsecond or not 1970 <= found.year <= 2200:
        raise InvalidInput(path, say("Write date and time as 2026-05-04T08:00, in local time."))
    return found
