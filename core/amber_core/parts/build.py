"""How an assembly is built: the facts that say which parts it has."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from amber_core.errors import InvalidInput
from amber_core.words import Said, say

Unit = Literal["beam", "third", "sides", "small", "tc", "prop"]
Carrier = Literal["inb", "outb", "adj", "cov", "wash"]
Preload = Literal["crush", "spacer", "oshim", "none"]
Depth = Literal["head", "cup", "cart", "housing"]
Ends = Literal["clip", "ret", "float", "half"]
Differential = Literal["open", "pack", "helical", "drop", "air", "solid"]
Brakes = Literal["disc", "drum"]
Shaft = Literal["one", "two", "dc"]
Front = Literal["flg", "slip"]
Rollers = Literal["loose", "caged"]

FINAL_DRIVES = ("beam", "third", "sides", "small")
"""Units with a ring gear and pinion."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Build:
    """The facts of one assembly. What a unit has not got is passed over: a propshaft alone has no brakes.

    Parameters
    ----------
    unit : str
        Carrier in the axle housing (beam), third member (third), final drive with side covers (sides), with shim washers (small),
        transfer-case output (tc), propshaft alone (prop).
    carrier : str
        Side shims under the cone (inb) or outboard of the cup (outb), adjusters (adj), cover shims (cov), shim washers (wash).
    preload, depth : str
        What sets pinion preload (crush sleeve, solid spacer, shims under the outer bearing, nothing) and where the depth shim lies
        (under the head, behind the cup, under the cartridge, none: by housing).
    ends : str
        What holds the axle shafts: clip, bolted retainer (ret), full-float hub (float), or half shafts (half).
    differential, brakes : str
        What kind they are; drop is a locker in place of the spider gears.
    shaft, front : str
        One propshaft, two with a centre bearing, or one with a double Cardan joint (dc); its front end has a flange (flg) or a slip yoke.
    rollers : str
        Of the output gear of a transfer case.
    sensors, inner_flange, drive_flange, shaft_brake : bool
        Wheel-speed sensors; half shafts bolted on inside; drive flanges that come off; a transmission brake drum.
    """

    unit: Unit
    carrier: Carrier = "outb"
    preload: Preload = "crush"
    depth: Depth = "head"
    ends: Ends = "clip"
    differential: Differential = "open"
    brakes: Brakes = "disc"
    shaft: Shaft = "one"
    front: Front = "flg"
    rollers: Rollers = "loose"
    sensors: bool = False
    inner_flange: bool = False
    drive_flange: bool = False
    shaft_brake: bool = False

    def __post_init__(self) -> None:
        for field, sentence in _wrong(self):
            raise InvalidInput(field, sentence)

    @property
    def facts(self) -> frozenset[str]:
        """What a part's condition can ask for."""
        found: set[str] = {self.unit}
        if self.unit in FINAL_DRIVES:
            found |= {"fd", self.carrier, self.preload, self.depth, self.ends, self.differential, self.brakes, self.shaft, self.front}
            found |= {"abs"} if self.sensors else set()
            if self.ends == "half":
                found |= ({"ifl"} if self.inner_flange else set()) | ({"dfl"} if self.drive_flange else set())
        elif self.unit == "tc":
            found |= {self.shaft, self.front, self.rollers} | ({"tbrake"} if self.shaft_brake else set())
        else:
            found |= {self.shaft, self.front}
        return frozenset(found)


def _wrong(build: Build) -> list[tuple[str, Said]]:
    """What cannot be built so, with the field to change."""
    if build.unit == "prop":
        return []
    if build.unit == "tc":
        return [] if build.front == "flg" else [("front", say("A transfer-case output has a flange: a slip yoke has none to take off."))]
    wrong: list[tuple[str, Said]] = []
    if build.unit in ("sides", "small") and build.ends != "half":
        wrong.append(("ends", say("A final drive unit has half shafts.")))
    if build.ends == "clip" and build.unit != "beam":
        wrong.append(("ends", say("Axle clips are put in through the cover of an axle housing: this unit has none.")))
    if (build.carrier == "cov") != (build.unit == "sides"):
        wrong.append(("carrier", say("Cover shims belong to a final drive with side covers, and it has no others.")))
    if build.unit == "sides" and build.depth == "cart":
        wrong.append(("depth", say("A final drive with side covers has no pinion cartridge.")))
    if build.unit == "small":
        small = (build.carrier, build.preload, build.depth) == ("wash", "none", "housing")
        if not small:
            wrong.append(("carrier", say("A small final drive is set with shim washers alone.")))
        if build.differential not in ("open", "solid"):
            wrong.append(("differential", say("A small final drive has an open differential or none.")))
    elif build.carrier == "wash":
        wrong.append(("carrier", say("Shim washers at the carrier belong to a small final drive.")))
    return wrong


WORDS: dict[str, tuple[Said, dict[str, Said]]] = {
    "unit": (
        say("Unit"),
        {
            "beam": say("carrier in the axle housing, with a cover"),
            "third": say("third member"),
            "sides": say("final drive with side covers"),
            "small": say("small final drive with shim washers"),
            "tc": say("transfer-case output"),
            "prop": say("propshaft alone"),
        },
    ),
    "carrier": (
        say("Carrier set by"),
        {
            "inb": say("side shims under the cone"),
            "outb": say("side shims outboard of the cup"),
            "adj": say("adjusters"),
            "cov": say("side-cover shims"),
            "wash": say("shim washers"),
        },
    ),
    "preload": (
        say("Pinion preload by"),
        {
            "crush": say("crush sleeve"),
            "spacer": say("solid spacer"),
            "oshim": say("shims under the outer bearing"),
            "none": say("nothing"),
        },
    ),
    "depth": (
        say("Depth shim"),
        {
            "head": say("under the pinion head"),
            "cup": say("behind the inner cup"),
            "cart": say("under the pinion cartridge"),
            "housing": say("none"),
        },
    ),
    "ends": (
        say("Axle shafts held by"),
        {
            "clip": say("axle clip"),
            "ret": say("bolted retainer"),
            "float": say("full-float hub"),
            "half": say("half shafts"),
        },
    ),
    "differential": (
        say("Differential"),
        {
            "open": say("open"),
            "pack": say("clutch packs"),
            "helical": say("helical gears"),
            "drop": say("locker in place of the spider gears"),
            "air": say("air locker"),
            "solid": say("none: solid"),
        },
    ),
    "brakes": (say("Brakes"), {"disc": say("disc"), "drum": say("drum")}),
    "shaft": (
        say("Propshaft"),
        {"one": say("one"), "two": say("two, with a centre bearing"), "dc": say("one, with a double Cardan joint")},
    ),
    "front": (say("Front end of the propshaft"), {"flg": say("flange"), "slip": say("slip yoke")}),
    "rollers": (say("Rollers of the output gear"), {"loose": say("loose"), "caged": say("in a cage")}),
    "sensors": (say("Wheel-speed sensors"), {}),
    "inner_flange": (say("Half shafts bolted to a flange inside"), {}),
    "drive_flange": (say("Drive flanges come off"), {}),
    "shaft_brake": (say("Transmission handbrake on the output"), {}),
}
"""Each fact in words, and each of its choices."""

CHOICES: dict[str, tuple[str, ...]] = {
    "unit": get_args(Unit),
    "carrier": get_args(Carrier),
    "preload": get_args(Preload),
    "depth": get_args(Depth),
    "ends": get_args(Ends),
    "differential": get_args(Differential),
    "brakes": get_args(Brakes),
    "shaft": get_args(Shaft),
    "front": get_args(Front),
    "rollers": get_args(Rollers),
}
YES_OR_NO = ("sensors", "inner_flange", "drive_flange", "shaft_brake")


def asked_of(unit: str, ends: str = "half") -> list[str]:
    """Which facts a unit can be told by."""
    if unit == "prop":
        return ["unit", "shaft", "front"]
    if unit == "tc":
        return ["unit", "shaft", "rollers", "shaft_brake"]
    more = ["inner_flange", "drive_flange"] if ends == "half" else []
    return ["unit", "carrier", "preload", "depth", "ends", "differential", "brakes", "shaft", "front", "sensors", *more]
