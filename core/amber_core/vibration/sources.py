"""What each source is called, how it is felt, and how it answers to cheap checks: experience, not physics, and shown as such."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Family = Literal["tyre", "ring", "prop", "joint", "front_prop", "mesh", "gearbox", "engine", "bearing"]
Load = Literal["drive", "float", "overrun"]
Where = Literal["steering_wheel", "seat", "floor", "pedals", "nowhere_special"]
Quality = Literal["pulse", "buzz", "tone"]

_WORDS: dict[str, tuple[Family, str]] = {
    "tyre_1x": ("tyre", "Tyre and wheel, once a turn: balance, run-out, a flat spot"),
    "tyre_2x": ("tyre", "Tyre and wheel, twice a turn: an oval tyre"),
    "tyre_3x": ("tyre", "Tyre and wheel, three times a turn"),
    "ring_1x": ("ring", "Ring gear and carrier, once a turn: run-out"),
    "prop_1x": ("prop", "Propshaft, once a turn: balance, run-out, a bent tube, a flange"),
    "prop_2x": ("joint", "Propshaft, twice a turn: joint angles, phasing, a stiff joint"),
    "front_prop_1x": ("front_prop", "Front propshaft, once a turn"),
    "front_prop_2x": ("front_prop", "Front propshaft, twice a turn: its joint angles and phasing"),
    "axle_mesh": ("mesh", "Ring and pinion, tooth by tooth: pattern, backlash, wear"),
    "gearbox_output_1x": ("gearbox", "Gearbox output and what turns with it"),
    "engine_half": ("engine", "Engine, every second turn: one cylinder weak"),
    "engine_1x": ("engine", "Engine, clutch or converter, once a turn"),
    "engine_firing": ("engine", "Engine firing: mounts, exhaust touching"),
}
_BEARING_PARTS = {"outer": "outer race", "inner": "inner race", "ball": "a ball or roller", "cage": "cage"}

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
    """A cheap check: what to do, how long it takes [min], what to heed, and the chance that it changes what is felt, by family."""

    code: str
    title: str
    how: str
    minutes: int
    caution: str
    changes: dict[Family, float]

    def chance(self, family: Family) -> float:
        """Chance that the vibration changes when this family makes it; little where nothing is said."""
        return self.changes.get(family, 0.05)


CHECKS: list[Check] = [
    Check(
        code="standing",
        title="Standing, bring the engine to the same speed",
        how="In neutral, parking brake on, bring the engine to the rpm at which it shakes on the road. Is it there too?",
        minutes=2,
        caution="Wheels chocked, nobody before or behind the vehicle.",
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
        title="Coast in neutral through that speed",
        how="A little above the speed, shift to neutral and let it coast through. Does it stay as it was?",
        minutes=3,
        caution="Engine running, clear level road, both hands free for the wheel: steering and brakes need the engine.",
        changes={"engine": 0.97, "mesh": 0.8, "joint": 0.5, "gearbox": 0.4, "bearing": 0.3},
    ),
    Check(
        code="gear",
        title="Same road speed in another gear",
        how="Drive at the same road speed one gear lower or higher. Does it change?",
        minutes=3,
        caution="Not over the engine's greatest speed.",
        changes={"engine": 0.97, "gearbox": 0.25},
    ),
    Check(
        code="load",
        title="Same speed on drive, floating and on overrun",
        how="Hold the speed, then press on, then lift off. Does it come and go with the pedal?",
        minutes=3,
        caution="Clear road behind.",
        changes={"mesh": 0.95, "joint": 0.8, "engine": 0.7, "gearbox": 0.5, "bearing": 0.4, "front_prop": 0.3},
    ),
    Check(
        code="bends",
        title="Same speed, gentle bends left and right",
        how="On a wide clear road sway gently from side to side. Does it change with the side that is loaded?",
        minutes=4,
        caution="Gently, and only where there is room.",
        changes={"bearing": 0.8, "tyre": 0.3},
    ),
    Check(
        code="listen",
        title="Thermometer and listening rod after a drive",
        how="After ten kilometres compare the warmth of pinion, wheel ends and centre bearing; listen at each while turned by hand.",
        minutes=15,
        caution="They can burn a hand: point the thermometer first. Nothing turned by the engine on stands.",
        changes={"bearing": 0.9},
    ),
    Check(
        code="front_shaft",
        title="Take the front propshaft out",
        how="Drive without it, in two-wheel drive. Is it gone?",
        minutes=30,
        caution="Chocks both ways first: with a shaft out Park and a transmission handbrake hold nothing.",
        changes={"front_prop": 0.97},
    ),
    Check(
        code="half_turn",
        title="Turn the propshaft half a turn on its flange",
        how="Mark it, undo one flange, turn it half a turn, bolt it up. Does the shake change?",
        minutes=30,
        caution="Chocks both ways first. Only where the flange's bolts allow it; new bolts where the maker asks.",
        changes={"prop": 0.8},
    ),
    Check(
        code="angles",
        title="Measure the joint angles",
        how="Ride height, level, loaded: read the slopes and let the Driveline desk judge them.",
        minutes=30,
        caution="Stands or a lift, never a jack alone.",
        changes={"joint": 0.85},
    ),
    Check(
        code="wheels",
        title="Drive on another set of wheels",
        how="Fit a set known to run true. Is it gone?",
        minutes=40,
        caution="Wheel nuts by hand to their torque, again after 50 to 100 km.",
        changes={"tyre": 0.95},
    ),
    Check(
        code="ring_runout",
        title="Dial on the ring gear's back",
        how="Cover off, dial on the back of the ring, turn it once round.",
        minutes=60,
        caution="Fingers out of the gears while somebody turns a wheel.",
        changes={"ring": 0.9},
    ),
]


def family_of(name: str) -> Family:
    """The family of a source by its name; what is not in the list is a bearing's line."""
    return _WORDS[name][0] if name in _WORDS else "bearing"


def words_of(name: str) -> str:
    """A source in a mechanic's words."""
    if name in _WORDS:
        return _WORDS[name][1]
    bearing, _, part = name.rpartition("_")
    return f"Bearing {bearing.replace('_', ' ')}: {_BEARING_PARTS.get(part, part)}" if bearing else name.replace("_", " ")
