"""From what somebody feels to the parts that could make it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import ratio_ok, rpm_ok, speed_ok
from amber_core.vibration.orders import Drivetrain, OrdersQuestion, orders
from amber_core.vibration.rank import UNKNOWN, Observation, RankQuestion, rank, word_for
from amber_core.vibration.sources import CHECKS, LOADS, PLACES, PRIOR, QUALITIES, Check, Family, Load, Quality, Where, family_of, words_of
from amber_core.vibration.tell_apart import CheckAdvised, TwoSources, tell_apart
from amber_core.words import Said, listed, say

_OUTSIDE = 0.1
_NOT_FELT = 0.3
_FELT_AS: dict[Quality, Said] = {"pulse": say("a slow pulse"), "buzz": say("a buzz"), "tone": say("a tone")}
_LOAD_WORDS: dict[Load, Said] = {"drive": say("on drive"), "float": say("floating"), "overrun": say("on overrun")}


@dataclass(frozen=True, slots=True, kw_only=True)
class FeltTest:
    """A drive at a steady speed [km/h]: the gear's ratio [-] or the engine's speed [rpm], neither in neutral; a counted frequency and its
    doubt [Hz]."""

    speed_kmh: float
    gear_ratio: float | None = None
    engine_rpm: float | None = None
    f_hz: float | None = None
    sigma_hz: float = 1.5

    def __post_init__(self) -> None:
        speed_ok("speed_kmh", self.speed_kmh)
        checks.above_zero("speed_kmh", self.speed_kmh, say("Road speed"))
        if self.gear_ratio is not None:
            ratio_ok("gear_ratio", self.gear_ratio, 30.0)
        rpm_ok("engine_rpm", self.engine_rpm)
        checks.within("f_hz", self.f_hz, 0.1, 1e5, say("Frequency must be 0.1 to 100 000 Hz."))
        checks.within("sigma_hz", self.sigma_hz, 0.01, 100.0, say("Frequency uncertainty (±) must be 0.01 to 100 Hz."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """A check that was made, by its code, and whether the vibration changed or stayed."""

    code: str
    result: Literal["changed", "stayed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FeltQuestion:
    """The drivetrain, where and how it is felt, the drives, and the checks made so far."""

    drivetrain: Drivetrain
    tests: list[FeltTest]
    quality: Quality | None = None
    loads: list[Load] = field(default_factory=list)
    where: Where | None = None
    outcomes: list[Outcome] = field(default_factory=list)
    sigma_rel: float = 0.02

    def __post_init__(self) -> None:
        if not 1 <= len(self.tests) <= 20:
            raise InvalidInput("tests", say("Give 1 to 20 drives, the one at which it is worst first."))
        checks.within("sigma_rel", self.sigma_rel, 0.0, 0.2, say("Relative uncertainty must be 0 to 0.2."))
        known = {one.code for one in CHECKS}
        if len(self.outcomes) > len(CHECKS):
            raise InvalidInput("outcomes", say("Give each check once, with its last result."))
        for index, one in enumerate(self.outcomes):
            if one.code not in known:
                raise InvalidInput(f"outcomes[{index}].code", say("There is no check called “{code}”.", code=one.code))


@dataclass(frozen=True, slots=True, kw_only=True)
class Suspect:
    """A source: name and words, frequency at the first drive [Hz, null when it did not turn], probability, in a word, and why."""

    name: str
    words: Said
    hz: float | None
    probability: float
    word: str
    reasons: list[Said]


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckMade:
    """A check that was made, in words, and what it did."""

    code: str
    title: Said
    result: Literal["changed", "stayed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Felt:
    """Suspects, likeliest first; groups no frequency can separate; checks that were made, and those that tell the first two apart,
    cheapest first."""

    suspects: list[Suspect]
    unknown: float
    inseparable: list[list[str]]
    made: list[CheckMade]
    next_checks: list[CheckAdvised]
    reason: Said


def felt(given: FeltQuestion) -> Felt:
    """Which part makes what is felt, and the cheapest check that would tell the first two apart.

    Parameters
    ----------
    given : FeltQuestion
        Drivetrain, drives [km/h, Hz], how it is felt.

    Returns
    -------
    Felt
        Suspects by probability.

    Raises
    ------
    InvalidInput
        From FeltQuestion, with the field.

    Notes
    -----
    Frequencies as in `vibration.rank`; beside them every source is weighed by how often it is met, under which loads and where it is
    mostly felt, and how it answers to checks. Those weights are experience, no measurement.

    Examples
    --------
    >>> car = Drivetrain(circumference_m=2.43, axle_ratio=4.1)
    >>> felt(FeltQuestion(drivetrain=car, tests=[FeltTest(speed_kmh=95, f_hz=44.5)])).suspects[0].name
    'prop_1x'
    """
    worked = [_orders(given.drivetrain, one) for one in given.tests]
    names = list(dict.fromkeys(name for one in worked for name in one))
    weights = {name: _weight(given, name, worked[0].get(name)) for name in names}
    counted = [
        Observation(f_hz=test.f_hz, sigma_hz=test.sigma_hz, candidates=hz)
        for test, hz in zip(given.tests, worked, strict=True)
        if test.f_hz is not None
    ]
    if counted:
        high = max(500.0, 1.2 * max(one.f_hz for one in counted))
        probability = rank(RankQuestion(observations=counted, prior=weights, sigma_rel=given.sigma_rel, f_high_hz=high)).probability
    else:
        whole = sum(weights.values())
        probability = {name: 0.95 * weight / whole for name, weight in weights.items()} | {UNKNOWN: 0.05}
    ordered = sorted((name for name in probability if name != UNKNOWN), key=lambda name: -probability[name])
    suspects = [_suspect(given, name, worked[0].get(name), probability[name], bool(counted)) for name in ordered]
    advised, reason = _next(given, ordered, worked[0], bool(counted))
    question = _question(given.drivetrain, given.tests[0])
    return Felt(
        suspects=suspects,
        unknown=probability.get(UNKNOWN, 0.0),
        inseparable=orders(question).inseparable,
        made=[CheckMade(code=one.code, title=_check(one.code).title, result=one.result) for one in given.outcomes],
        next_checks=advised,
        reason=reason,
    )


def _check(code: str) -> Check:
    return next(one for one in CHECKS if one.code == code)


def _next(given: FeltQuestion, ordered: list[str], hz: dict[str, float], measured: bool) -> tuple[list[CheckAdvised], Said]:
    """For the first suspect and the next of another family: within a family the same part is looked at."""
    first = ordered[0]
    other = next((name for name in ordered[1:] if family_of(name) != family_of(first)), None)
    if other is None:
        return [], say("Only one kind of part is left. Check it.")
    made = [one.code for one in given.outcomes]
    asked = TwoSources(first=first, second=other, first_hz=hz.get(first), second_hz=hz.get(other), measured=measured, made=made)
    told = tell_apart(asked)
    return told.checks, told.reason


def _question(drivetrain: Drivetrain, test: FeltTest) -> OrdersQuestion:
    return drivetrain.at(test.speed_kmh, gear_ratio=test.gear_ratio, engine_rpm=test.engine_rpm)


def _orders(drivetrain: Drivetrain, test: FeltTest) -> dict[str, float]:
    return orders(_question(drivetrain, test)).frequencies_hz


def _weight(given: FeltQuestion, name: str, hz: float | None) -> float:
    family = family_of(name)
    found = PRIOR[family] / (2.0 if name in ("tyre_2x", "tyre_3x", "engine_half") else 1.0)
    for load, chance in LOADS[family].items():
        if given.loads:
            found *= chance if load in given.loads else max(1.0 - chance, 0.05)
    if given.where is not None:
        found *= PLACES[family][given.where]
    if given.quality is not None and hz is not None:
        low, high = QUALITIES[given.quality]
        found *= 1.0 if low <= hz <= high else _OUTSIDE
    for one in given.outcomes:
        chance = _check(one.code).chance(family)
        found *= chance if one.result == "changed" else 1.0 - min(chance, 0.98)
    return found


def _suspect(given: FeltQuestion, name: str, hz: float | None, probability: float, counted: bool) -> Suspect:
    return Suspect(
        name=name,
        words=words_of(name),
        hz=hz,
        probability=probability,
        word=word_for(probability),
        reasons=_reasons(given, family_of(name), hz, counted),
    )


def _reasons(given: FeltQuestion, family: Family, hz: float | None, counted: bool) -> list[Said]:
    found: list[Said] = []
    test = given.tests[0]
    if hz is not None and counted and test.f_hz is not None:
        away = abs(test.f_hz - hz)
        doubt = (test.sigma_hz**2 + (given.sigma_rel * hz) ** 2) ** 0.5
        if away <= 1.5 * doubt:
            found.append(
                say(
                    "It turns at {hz:.1f} Hz at {speed_kmh:kmh0}, and {felt_hz:.1f} Hz was felt, which fits.",
                    hz=hz,
                    speed_kmh=test.speed_kmh,
                    felt_hz=test.f_hz,
                )
            )
        elif away <= 3.0 * doubt:
            found.append(
                say(
                    "It turns at {hz:.1f} Hz at {speed_kmh:kmh0}, and {felt_hz:.1f} Hz was felt, which hardly fits.",
                    hz=hz,
                    speed_kmh=test.speed_kmh,
                    felt_hz=test.f_hz,
                )
            )
        else:
            found.append(
                say(
                    "It turns at {hz:.1f} Hz at {speed_kmh:kmh0}, and {felt_hz:.1f} Hz was felt, which does not fit.",
                    hz=hz,
                    speed_kmh=test.speed_kmh,
                    felt_hz=test.f_hz,
                )
            )
    elif hz is not None:
        found.append(say("It would be felt at {hz:.1f} Hz at {speed_kmh:kmh0}.", hz=hz, speed_kmh=test.speed_kmh))
    if given.quality is not None and hz is not None:
        low, high = QUALITIES[given.quality]
        felt_as = _FELT_AS[given.quality]
        found.append(
            say("That is usually felt as {felt_as}, which fits.", felt_as=felt_as)
            if low <= hz <= high
            else say("That is not usually felt as {felt_as}.", felt_as=felt_as)
        )
    if given.loads:
        usual = [_LOAD_WORDS[load] for load, chance in LOADS[family].items() if chance >= 0.6]
        found.append(
            say("Parts like this are mostly felt {loads}.", loads=listed(usual))
            if usual
            else say("Parts like this are felt under any load.")
        )
    for one in given.outcomes:
        check = _check(one.code)
        chance = check.chance(family)
        expected = chance >= 0.5
        if abs(chance - 0.5) > _NOT_FELT - 0.1:
            fits = expected == (one.result == "changed")
            found.append(_outcome(one, fits=fits))
    return found


def _outcome(one: Outcome, *, fits: bool) -> Said:
    check = _check(one.code).title
    if one.result == "changed":
        return (
            say("{check}: it changed, which fits.", check=check) if fits else say("{check}: it changed, which does not fit.", check=check)
        )
    return (
        say("{check}: it stayed the same, which fits.", check=check)
        if fits
        else say("{check}: it stayed the same, which does not fit.", check=check)
    )
