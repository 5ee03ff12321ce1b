"""From the desk's inputs to its answers, by the core alone."""

from __future__ import annotations

from typing import Any

from amber_core.errors import InvalidInput
from amber_core.ratios.choose import ChooseQuestion, choose_ratio
from amber_core.ratios.compare import CompareQuestion, Gearing, compare_gearings
from amber_core.ratios.tyre_change import ChangedGearing, Speedometer, SpeedometerQuestion, TyreChange, speedometer, tyre_change
from amber_core.tyres.designation import Tyre, TyreText, parse_tyre
from amber_core.words import Said, say
from ratio_desk.schemas import PairingIn, RatioAnswer, RatioInputs, TyreIn

RANKED = 60
_SHOWN_KMH = 100.0
_NO_CHANGE_PCT, _SAME_FEEL_PCT = 0.05, 2.0
"""A change of gearing that nobody measures; one that a driver hardly feels, [%]."""


def work_out(given: RatioInputs) -> RatioAnswer:
    """Everything that the desk shows.

    Raises
    ------
    InvalidInput
        With the field of the inputs.
    """
    now, planned = _tyre(given.tyre_now, "tyre_now"), _tyre(given.tyre_planned, "tyre_planned")
    if not given.tyre_planned.text.strip() and given.tyre_planned.rollout_mm is None:
        planned = now  # the tyres stay
    old, new = now.circumference_m, planned.circumference_m
    for name, one in (("now", given.now), *((f"candidates[{index}]", one) for index, one in enumerate(given.candidates))):
        _check(name, one, given)
    if old is None or new is None:
        return RatioAnswer(tyre_now=now, tyre_planned=planned, change=None, feel=[], speedometers=[], compared=None, chosen=None)
    gearings = [_gearing(given, given.now, old, say("As it is"))]
    if new != old:
        gearings.append(_gearing(given, given.now, new, say("As it is, new tyres")))
    gearings += [_gearing(given, one, new, _name(given, one)) for one in given.candidates]
    use = given.use
    compared = compare_gearings(
        CompareQuestion(
            gearings=gearings,
            engine=given.engine,
            load=given.load,
            cruise_kmh=use.cruise_kmh,
            cruise_rpm_min=use.cruise_rpm_min,
            cruise_rpm_max=use.cruise_rpm_max,
            grades_pct=given.grades_pct,
        )
    )
    chosen = choose_ratio(
        ChooseQuestion(
            gearboxes=given.gearboxes,
            axles=given.axles,
            circumference_m=new,
            engine=given.engine,
            load=given.load,
            use=use,
            weights=given.weights,
            most=RANKED,
        )
    )
    change = tyre_change(TyreChange(ratio=given.axles[given.now.axle].ratio, circumference_old_m=old, circumference_new_m=new))
    return RatioAnswer(
        tyre_now=now,
        tyre_planned=planned,
        change=change,
        feel=_feel(given, change, old),
        speedometers=[_speedometer(given, one, old, new) for one in (given.now, *given.candidates)],
        compared=compared,
        chosen=chosen,
    )


def _feel(given: RatioInputs, change: ChangedGearing, old_m: float) -> list[Said]:
    """What the tyres do to the gearing, which ratio of the family undoes it, and what would where none does."""
    longer = change.longer_pct
    if abs(longer) < _NO_CHANGE_PCT:
        return []
    said = (
        say(
            "The new tyres gear it {percent:.1f} % longer, like an axle ratio of {ratio:.3f} on the old tyres.",
            percent=longer,
            ratio=change.equivalent_ratio,
        )
        if longer > 0
        else say(
            "The new tyres gear it {percent:.1f} % shorter, like an axle ratio of {ratio:.3f} on the old tyres.",
            percent=-longer,
            ratio=change.equivalent_ratio,
        )
    )
    wanted = change.restore_ratio
    nearest = min(given.axles, key=lambda one: abs(one.ratio - wanted))
    off = 100.0 * (wanted / nearest.ratio - 1.0)
    pair = f"{nearest.pinion_teeth}/{nearest.ring_teeth}"
    if abs(off) <= _SAME_FEEL_PCT:
        return [
            said,
            say("{pair} ({ratio:.3f}) restores the old gearing, which needs {wanted:.3f}.", pair=pair, ratio=nearest.ratio, wanted=wanted),
        ]
    none = (
        say(
            "No ratio of this family restores the old gearing, which needs {wanted:.3f}. The nearest, {pair} "
            "({ratio:.3f}), is still {percent:.0f} % too long.",
            wanted=wanted,
            pair=pair,
            ratio=nearest.ratio,
            percent=abs(off),
        )
        if off > 0
        else say(
            "No ratio of this family restores the old gearing, which needs {wanted:.3f}. The nearest, {pair} "
            "({ratio:.3f}), is {percent:.0f} % too short.",
            wanted=wanted,
            pair=pair,
            ratio=nearest.ratio,
            percent=abs(off),
        )
    )
    around = old_m * nearest.ratio / given.axles[given.now.axle].ratio
    would = say("{pair} would do it on tyres with a rolling circumference of {around:.2f} m.", around=around, pair=pair)
    return [said, none, would]


def _tyre(given: TyreIn, field: str) -> Tyre:
    try:
        return parse_tyre(TyreText(text=given.text, rollout_mm=given.rollout_mm, turns=given.turns))
    except InvalidInput as wrong:
        raise wrong.under(field) from None


def _check(name: str, one: PairingIn, given: RatioInputs) -> None:
    if one.gearbox >= len(given.gearboxes) or one.axle >= len(given.axles):
        raise InvalidInput(name, say("This pairing points to a gearbox or an axle that is not in the lists."))


def _gearing(given: RatioInputs, one: PairingIn, around: float, name: str) -> Gearing:
    box, axle = given.gearboxes[one.gearbox], given.axles[one.axle]
    return Gearing(
        name=name, circumference_m=around, gears=box.gears, axle_ratio=axle.ratio, transfer=box.transfer_high, hub=axle.hub_ratio
    )


def _name(given: RatioInputs, one: PairingIn) -> str:
    axle = given.axles[one.axle]
    box = "" if one.gearbox == given.now.gearbox else f", {given.gearboxes[one.gearbox].name}"
    return f"{axle.pinion_teeth}/{axle.ring_teeth}{box}"


def _speedometer(given: RatioInputs, one: PairingIn, old: float, new: float) -> Speedometer:
    asked: dict[str, Any] = given.speedometer.dict()
    ratios: dict[str, Any] = {"ratio_old": given.axles[given.now.axle].ratio, "ratio_new": given.axles[one.axle].ratio}
    question = SpeedometerQuestion(indicated_kmh=_SHOWN_KMH, circumference_old_m=old, circumference_new_m=new, **ratios, **asked)
    return speedometer(question)
