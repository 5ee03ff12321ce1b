"""What a kind of work means for whoever drives away: what was fitted, what changes for the driver, who has to be told, when to stop."""

from __future__ import annotations

from collections.abc import Mapping

from amber_core.road_test.run_in import Fitted
from amber_core.words import Said, say

_AXLE_OPEN: tuple[Fitted, ...] = ("bearings", "cover_sealed", "shaft", "wheels_off", "brakes")

_FITTED: dict[str, tuple[Fitted, ...]] = {
    "ring_and_pinion": ("gears_new", "pinion_seal", *_AXLE_OPEN),
    "pinion_seal": ("pinion_seal", "shaft", "wheels_off", "brakes"),
    "third_member": ("gears_new", "cover_sealed", "shaft", "wheels_off", "brakes"),
    "final_drive": ("gears_new", "bearings", "pinion_seal", "cover_sealed", "shaft", "wheels_off", "brakes"),
    "differential": _AXLE_OPEN,
    "clutch_packs": ("clutches", "cover_sealed", "wheels_off", "brakes"),
    "locker": ("locker", "cover_sealed", "wheels_off", "brakes"),
    "wheel_bearings": ("bearings", "hubs", "wheels_off", "brakes"),
    "retention": ("bearings", "cover_sealed", "hubs", "wheels_off", "brakes"),
    "half_shafts": ("wheels_off", "brakes"),
    "joint": ("shaft",),
    "shaft_made": ("shaft",),
    "transfer_output": ("bearings", "pinion_seal", "shaft"),
    "flange_surface": ("pinion_seal", "shaft"),
    "oil_service": ("cover_sealed",),
}
"""By kind of work; what no kind fits is not run in."""

_DRIVER: dict[str, Said] = {
    "ring_and_pinion": say("With another ratio the speedometer can show the wrong speed: it must never show less than the true speed."),
    "third_member": say("With another ratio the speedometer can show the wrong speed: it must never show less than the true speed."),
    "differential": say("A limited slip needs its own oil and tyres that are alike on both sides."),
    "clutch_packs": say("Use only the oil with friction modifier that is named here, and keep the tyres alike on both sides."),
    "locker": say(
        "The locker drives both wheels: it pushes straight on in a turn on ice or wet grass, can click or bang in tight turns, "
        "and needs tyres that are alike on both sides."
    ),
    "gear_ratio": say("Fuel, pulling away and towing change with the ratio."),
}

_TELL = say("This change can need approval, inspection or a notice to the insurer: follow local rules.")
_APPROVAL = ("ring_and_pinion", "third_member", "locker", "retention", "shaft_made", "gear_ratio")

STOP_IF = (
    say("a growl or howl that was not there before"),
    say("a smell of hot oil or burning"),
    say("oil under the vehicle"),
    say("a wheel hub too hot to touch"),
    say("a wobble, or a knock when pulling away"),
    say("a soft brake pedal"),
    say("a warning light"),
)
"""When the customer should stop and ring the workshop."""


WORKSHOPS_OWN = ("leak_morning", "air_leak", "wheel_nuts", "shaft_bolts", "hub_play", "first_oil")
"""Items of the run-in plan that the workshop does; the customer does the others."""


def fitted_by(kind: str, ways: Mapping[str, str]) -> list[Fitted]:
    """What a piece of work fitted, as `runin.plan` names it, by its kind and the ways that were chosen."""
    found = list(_FITTED.get(kind, ()))
    if ways.get("air_locker") == "yes":
        found.append("air_locker")
    if kind == "oil_service" and ways.get("drain_way") == "plug":
        found.remove("cover_sealed")
    return found


def driver_notes(kinds: list[str]) -> list[Said]:
    """What these kinds of work mean for the driver, and who must be told; each once."""
    found = [_DRIVER[kind] for kind in kinds if kind in _DRIVER]
    if any(kind in _APPROVAL for kind in kinds):
        found.append(_TELL)
    return list(dict.fromkeys(found))
