"""What each source is called, how it is felt, and how it answers to cheap checks: experience, not physics, and shown as such."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.words import NOTHING, Said, say

Family = Literal["tyre", "ring", "prop", "joint", "front_prop", "mesh", "gearbox", "engine", "bearing"]
Load = Literal["drive", "float", "overrun"]
Where = Literal["steering_wheel", "seat", "floor", "pedals", "nowhere_special"]
Quality = Literal["pulse", "buzz", "tone"]

_WORDS: dict[str, tuple[Family, Said, Said]] = {
    "tyre_1x": ("tyre", say("Tyre and wheel, once a turn"), say("balance, runout, a flat spot")),
    "tyre_2x": ("tyre", say("Tyre and wheel, twice a turn"), say("an oval tyre")),
    "tyre_3x": ("tyre", say("Tyre and wheel, three times a turn"), NOTHING),
    "ring_1x": ("ring", say("Ring gear and carrier, once a turn"), say("runout")),
    "prop_1x": ("prop", say("Propshaft, once a turn"), say("balance, runout, a bent tube, a flange")),
    "prop_2x": ("joint", say("Propshaft, twice a turn"), say("joint angles, phasing, a stiff universal joint")),
    "front_prop_1x": ("front_prop", say("Front propshaft, once a turn"), NOTHING),
    "front_prop_2x": ("front_prop", say("Front propshaft, twice a turn"), say("its joint angles and phasing")),
    "axle_mesh": ("mesh", say("Ring gear and pinion, tooth by tooth"), say("contact pattern, backlash, wear")),
    "gearbox_output_1x": ("gearbox", say("Gearbox output and what turns with it"), NOTHING),
    "engine_half": ("engine", say("Engine, every second turn"), say("one cylinder weak")),
    "engine_1x": ("engine", say("Engine, clutch or converter, once a turn"), NOTHING),
    "engine_firing": ("engine", say("Engine firing"), say("mounts, exhaust touching")),
}
"""Family, name, and what makes it."""

_BEARING_PARTS = {"outer": say("outer race"), "inner": say("inner race"), "ball": say("a ball or roller"), "cage": say("cage")}

PRIOR: dict[Family, float] = {
    "tyre": 3.0,
    "prop": 2.0,
    "joint": 2.0,
    "front_prop": 1.0,
    "mesh": 1.5,
    "engine": 1.0,
    "bearing": 1.0,
    "gearbox": 0.7,
    "ring": 0.5,
}
"""How often each is met, before anything is known of this one."""

LOADS: dict[Family, dict[Load, float]] = {
    "tyre": {"drive": 0.9, "float": 0.9, "overrun": 0.9},
    "ring": {"drive": 0.8, "float": 0.8, "overrun": 0.8},
    "prop": {"drive": 0.9, "float": 0.9, "overrun": 0.9},
    "joint": {"drive": 0.9, "float": 0.4, "overrun": 0.6},
    "front_prop": {"drive": 0.8, "float": 0.7, "overrun": 0.8},
    "mesh": {"drive": 0.6, "float": 0.3, "overrun": 0.6},
    "gearbox": {"drive": 0.8, "float": 0.6, "overrun": 0.6},
    "engine": {"drive": 0.9, "float": 0.6, "overrun": 0.4},
    "bearing": {"drive": 0.8, "float": 0.7, "overrun": 0.7},
}
"""Chance that a source of this family is felt under that load."""

PLACES: dict[Family, dict[Where, float]] = {
    "tyre": {"steering_wheel": 0.45, "seat": 0.3, "floor": 0.1, "pedals": 0.05, "nowhere_special": 0.1},
    "ring": {"steering_wheel": 0.05, "seat": 0.5, "floor": 0.25, "pedals": 0.05, "nowhere_special": 0.15},
    "prop": {"steering_wheel": 0.05, "seat": 0.35, "floor": 0.45, "pedals": 0.05, "nowhere_special": 0.1},
    "joint": {"steering_wheel": 0.05, "seat": 0.35, "floor": 0.45, "pedals": 0.05, "nowhere_special": 0.1},
    "front_prop": {"steering_wheel": 0.25, "seat": 0.15, "floor": 0.45, "pedals": 0.1, "nowhere_special": 0.05},
    "mesh": {"steering_wheel": 0.02, "seat": 0.28, "floor": 0.4, "pedals": 0.05, "nowhere_special": 0.25},
    "gearbox": {"steering_wheel": 0.05, "seat": 0.2, "floor": 0.45, "pedals": 0.2, "nowhere_special": 0.1},
    "engine": {"steering_wheel": 0.25, "seat": 0.15, "floor": 0.2, "pedals": 0.3, "nowhere_special": 0.1},
    "bearing": {"steering_wheel": 0.1, "seat": 0.25, "floor": 0.35, "pedals": 0.05, "nowhere_special": 0.25},
}
"""Where a source of this family is mostly felt."""

QUALITIES: dict[Quality, tuple[float, float]] = {"pulse": (1.0, 25.0), "buzz": (15.0, 110.0), "tone": (60.0, 2000.0)}
"""What a person calls a pulse (it can be counted), a buzz and a tone, [Hz]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """A cheap check: what to do, how long it takes [min], its caution, and the chance that it changes what is felt, by family."""

    code: str
    title: Said
    how: Said
    minutes: int
    caution: Said
    changes: dict[Family, float]

    def chance(self, family: Family) -> float:
        """Chance that the vibration changes when this family makes it; little where nothing is said."""
        return self.changes.get(family, 0.05)


CHECKS: list[Check] = [
    Check(
        code="standing",
        title=say("Standing, bring the engine to the same speed"),
        how=say("In neutral, parking brake on, bring the engine to the speed at which it shakes on the road. Is it there too?"),
        minutes=2,
        caution=say("The vehicle can move: chock the wheels and keep everybody clear in front and behind."),
        changes={
            "tyre": 1.0,
            "ring": 1.0,
            "prop": 1.0,
            "joint": 1.0,
            "front_prop": 1.0,
            "mesh": 1.0,
            "gearbox": 0.95,
            "bearing": 0.95,
            "engine": 0.2,
        },
    ),
    Check(
        code="neutral",
        title=say("Coast in neutral through that speed"),
        how=say("Go a little faster, shift to neutral and let it coast down through the speed. Does it stay the same?"),
        minutes=3,
        caution=say("Steering and brakes need the engine: keep it running. Clear, level road only."),
        changes={"engine": 0.97, "mesh": 0.8, "joint": 0.5, "gearbox": 0.4, "bearing": 0.3},
    ),
    Check(
        code="gear",
        title=say("Same road speed in another gear"),
        how=say("Drive at the same road speed one gear lower or higher. Does it change?"),
        minutes=3,
        caution=say("Never over the engine's maximum speed."),
        changes={"engine": 0.97, "gearbox": 0.25},
    ),
    Check(
        code="load",
        title=say("Same speed on drive, floating and on overrun"),
        how=say("Hold the speed, then press the pedal, then lift off. Does it come and go with the pedal?"),
        minutes=3,
        caution=say("Lifting off slows the vehicle: only with a clear road behind."),
        changes={"mesh": 0.95, "joint": 0.8, "engine": 0.7, "gearbox": 0.5, "bearing": 0.4, "front_prop": 0.3},
    ),
    Check(
        code="bends",
        title=say("Same speed, gentle bends left and right"),
        how=say("On a wide, clear road steer gently from side to side. Does it change with the side that is loaded?"),
        minutes=4,
        caution=say("The vehicle can roll over or leave the road: steer gently, and only where there is room."),
        changes={"bearing": 0.8, "tyre": 0.3},
    ),
    Check(
        code="listen",
        title=say("Thermometer and listening rod after a drive"),
        how=say(
            "After ten kilometres, compare the temperature of the pinion, wheel ends and centre bearing. Listen "
            "at each while it is turned by hand."
        ),
        minutes=15,
        caution=say("Hot parts burn: use the thermometer before your hand. Never run the driveline on axle stands with the engine."),
        changes={"bearing": 0.9},
    ),
    Check(
        code="front_shaft",
        title=say("Take the front propshaft out"),
        how=say("Drive without it, in two-wheel drive. Is it gone?"),
        minutes=30,
        caution=say(
            "The vehicle can roll: with a propshaft out, neither Park nor a transmission handbrake holds it. Chock both ways first."
        ),
        changes={"front_prop": 0.97},
    ),
    Check(
        code="half_turn",
        title=say("Turn the propshaft half a turn on its flange"),
        how=say("Mark it, undo one flange, turn it half a turn and bolt it up again. Does the vibration change?"),
        minutes=30,
        caution=say(
            "The vehicle can roll: chock both ways first. Only where the flange bolts allow it; new bolts where the maker asks for them."
        ),
        changes={"prop": 0.8},
    ),
    Check(
        code="angles",
        title=say("Measure the joint angles"),
        how=say("At ride height, level and loaded, read the slopes and judge them at the Driveline desk."),
        minutes=30,
        caution=say("The vehicle can fall: use a lift or axle stands, never a jack alone."),
        changes={"joint": 0.85},
    ),
    Check(
        code="wheels",
        title=say("Drive on another set of wheels"),
        how=say("Fit a set known to run true. Is it gone?"),
        minutes=40,
        caution=say("A wheel can come off: torque the wheel nuts by hand, and again after 50 to 100 km."),
        changes={"tyre": 0.95},
    ),
    Check(
        code="ring_runout",
        title=say("Dial indicator on the back of the ring gear"),
        how=say("Cover off, dial indicator on the back of the ring gear, turn it once round."),
        minutes=60,
        caution=say("Gears crush fingers: keep your hands out while somebody turns a wheel."),
        changes={"ring": 0.9},
    ),
]


def family_of(name: str) -> Family:
    """The family of a source by its name; what is not in the list is a bearing's line."""
    return _WORDS[name][0] if name in _WORDS else "bearing"


def short_words_of(name: str) -> Said:
    """A source by its name alone, in a mechanic's words."""
    if name in _WORDS:
        return _WORDS[name][1]
    bearing, _, part = name.rpartition("_")
    plain = Said.of((bearing or name).replace("_", " "))
    return say("Bearing {name}: {part}", name=plain, part=_BEARING_PARTS.get(part, part)) if bearing else plain


def words_of(name: str) -> Said:
    """A source in a mechanic's words, with what makes it."""
    short = short_words_of(name)
    causes = _WORDS[name][2] if name in _WORDS else ""
    return say("{source}: {causes}", source=short, causes=causes) if causes else short
