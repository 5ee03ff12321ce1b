"""Every part that an assembly can have: when it has it, how many, what is marked, what must be off first, where it is drawn.

The rows of `PARTS` are read as follows.

group, code, name
    A fixed name, and the name on the screen.
condition
    Facts of the build (`build.Build.facts`): all terms parted by spaces must hold, one of those parted by / is enough, ! before one that
    must not. The group's own is added.
tags
    How many a side (none 1; ``o`` 0 or 1; ``*`` as the sheet says, or a stack); where: ``lr`` left, right, ``rf`` ring side, far side,
    ``fr`` front and rear, ``j`` each joint, ``r`` ring side alone, ``f`` far side alone; ``^`` which way round or up matters; mark:
    ``m`` match mark, ``d`` dots (one: left, ring side, front), ``l`` letter; ``b`` bag, ``s`` order in a stack; ``!`` one-time-use,
    ``?`` one-time-use if disturbed or if the sheet says so.
off before
    What must be off first; ``x:f`` where fact f holds, ``x!f`` where it does not.
class
    Of `findings.CLASSES`.
at
    Axis and number where it is drawn, ``+n`` steps off the axis; ``:f`` with fact f.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from amber_core.words import Said, say

Needs = tuple[tuple[str, ...], ...]
Mark = Literal["", "match", "dots", "letter"]
OneTime = Literal["", "always", "if_disturbed"]


@dataclass(frozen=True, slots=True)
class Group:
    """Parts that stand together on the screen."""

    code: str
    name: Said
    needs: Needs


@dataclass(frozen=True, slots=True, kw_only=True)
class Wait:
    """Another part that must be off first, where a fact holds or does not."""

    code: str
    fact: str = ""
    unless: bool = False

    def counts(self, facts: frozenset[str]) -> bool:
        """Whether it does for these facts."""
        return not self.fact or (self.fact in facts) != self.unless


@dataclass(frozen=True, slots=True, kw_only=True)
class At:
    """Where a part is drawn: an axis, how far along it, how many steps off it."""

    axis: str
    along: float
    off: int = 0
    fact: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One row of the table.

    Parameters
    ----------
    count : int, optional
        A side; None where the sheet or a look says.
    stands : str
        ``lr``, ``rf``, ``fr`` or ``j`` where there is one for each side or joint; ``r`` or ``f`` where it has one side; else empty.
    """

    group: str
    code: str
    name: Said
    needs: Needs
    count: int | None
    may_lack: bool
    stands: str
    faces: bool
    mark: Mark
    bagged: bool
    stacked: bool
    one_time: OneTime
    waits: tuple[Wait, ...]
    kind: str
    at: tuple[At, ...]

    def drawn_at(self, facts: frozenset[str]) -> At:
        """Where it is drawn in this build."""
        return next((one for one in self.at if one.fact and one.fact in facts), self.at[0])


def holds(needs: Needs, facts: frozenset[str]) -> bool:
    """Whether every term has one fact that is as it asks."""
    return all(any((term.removeprefix("!") in facts) != term.startswith("!") for term in terms) for terms in needs)


def needs_of(text: str) -> Needs:
    """A condition as it is written in the table."""
    return tuple(tuple(term.split("/")) for term in text.split())


_MARKS: dict[str, Mark] = {"m": "match", "d": "dots", "l": "letter"}
_AT = re.compile(r"([XDQYRZJTU])(-?\d+)(?:\+(\d+))?(?::(\w+))?")


def _wait(text: str) -> Wait:
    code, sign, fact = re.fullmatch(r"(\w+)([:!]?)(\w*)", text).groups()  # type: ignore[union-attr]
    return Wait(code=code, fact=fact, unless=sign == "!")


def _at(text: str) -> At:
    axis, along, off, fact = _AT.fullmatch(text).groups()  # type: ignore[union-attr]
    return At(axis=axis, along=float(along), off=int(off or 0), fact=fact or "")


def _part(group: str, code: str, name: Said, condition: str, tags: str, after: str, kind: str, at: str) -> Part:
    said = tags.split()
    number = next((int(one) for one in said if one.isdigit()), None)
    return Part(
        group=group,
        code=code,
        name=name,
        needs=needs_of(condition),
        count=None if "*" in said else (number or 1),
        may_lack="o" in said,
        stands=next((one for one in said if one in ("lr", "rf", "fr", "j", "r", "f")), ""),
        faces="^" in said,
        mark=next((_MARKS[one] for one in said if one in _MARKS), ""),
        bagged="b" in said,
        stacked="s" in said,
        one_time="always" if "!" in said else "if_disturbed" if "?" in said else "",
        waits=tuple(_wait(one) for one in after.split()),
        kind=kind,
        at=tuple(_at(one) for one in at.split()),
    )


GROUPS = (
    Group("A", say("wheels and brakes"), needs_of("fd")),
    Group("A2", say("behind the brakes"), needs_of("fd")),
    Group("B", say("oil"), needs_of("fd/tc")),
    Group("C", say("propshaft off"), needs_of("")),
    Group("C2", say("front propshaft"), needs_of("")),
    Group("C3", say("centre bearing"), needs_of("")),
    Group("D", say("universal joints"), needs_of("")),
    Group("E", say("cover, third member"), needs_of("fd")),
    Group("E2", say("carrier"), needs_of("fd")),
    Group("F", say("pinion"), needs_of("fd")),
    Group("G", say("cross pin"), needs_of("fd")),
    Group("G2", say("differential"), needs_of("fd")),
    Group("H", say("axle shafts"), needs_of("beam/third")),
    Group("H2", say("axle ends"), needs_of("beam/third")),
    Group("I", say("half shafts, drive flanges"), needs_of("half")),
    Group("I3", say("final drive unit"), needs_of("sides/small")),
    Group("K", say("transfer-case output"), needs_of("tc")),
)

PARTS: tuple[Part, ...] = (
    # wheels and brakes
    _part("A", "wheelnut", say("wheel nut"), "", "* lr b", "", "F", "X24"),
    _part("A", "wheel", say("wheel"), "", "lr l", "wheelnut", "R", "X23"),
    _part("A", "calbolt", say("caliper bolt"), "disc", "* lr b ?", "wheel", "F", "X20+2"),
    _part("A", "caliper", say("caliper with pads"), "disc", "lr", "calbolt", "R", "X20+1"),
    _part("A", "disc", say("brake disc"), "disc", "lr m", "caliper", "R", "X20"),
    _part("A", "drum", say("brake drum"), "drum", "lr m", "wheel", "R", "X20"),
    _part("A", "sensor", say("wheel-speed sensor"), "abs", "lr b", "", "Q", "X16+1"),
    # behind the brakes
    _part("A2", "shoes", say("brake shoes, springs, cable"), "drum", "* lr ^ b", "drum", "R", "X19+2"),
    _part("A2", "pipe", say("brake pipe"), "", "lr", "", "R", "X19+4"),
    _part("A2", "plate", say("backing plate"), "drum/ret", "lr m", "axle pipe shoes", "H", "X13 X18:half"),
    _part("A2", "rel", say("reluctor ring"), "abs", "lr", "axle hshaft", "Q", "X16"),
    _part("A2", "boot", say("boot with clamps"), "half", "2 lr ?", "hshaft", "E", "X14"),
    # oil
    _part("B", "fill", say("fill plug"), "", "b", "", "F", "U1"),
    _part("B", "drain", say("drain plug"), "", "o b", "fill", "F", "U2"),
    _part("B", "cwash", say("plug washer"), "", "!", "fill drain", "D", "U2"),
    _part("B", "oil", say("oil"), "", "*", "fill drain", "O", "U3"),
    _part("B", "magnet", say("magnet"), "", "* b", "oil", "O", "U4"),
    _part("B", "breather", say("breather"), "", "b", "", "V", "U5"),
    # propshaft off
    _part("C", "rbolt", say("rear propshaft bolt"), "", "* b ?", "", "F", "Z11"),
    _part("C", "fbolt", say("front propshaft bolt"), "flg !two", "* b ?", "", "F", "Z1"),
    _part("C", "shaft", say("propshaft"), "one/dc", "m", "rbolt fbolt", "X", "Z8"),
    _part("C", "rshaft", say("rear propshaft"), "two", "m", "rbolt", "X", "Z8"),
    # front propshaft
    _part("C2", "f2bolt", say("front propshaft bolt"), "two flg", "* b ?", "", "F", "Z1"),
    _part("C2", "cbolt", say("centre bearing bolt"), "two", "2 b", "rshaft", "F", "Z4+1"),
    _part("C2", "cpack", say("centre bearing packer"), "two", "* s", "cbolt", "S", "Z4+2"),
    _part("C2", "fshaft", say("front propshaft"), "two", "m", "f2bolt cbolt rshaft", "X", "Z3"),
    # centre bearing
    _part("C3", "cnut", say("centre bearing yoke nut"), "two", "!", "fshaft", "F", "Z6"),
    _part("C3", "cyoke", say("centre bearing yoke"), "two", "m", "cnut", "X", "Z5"),
    _part("C3", "cbrg", say("centre bearing"), "two", "^", "cyoke", "B", "Z4"),
    _part("C3", "slip", say("slip yoke"), "slip", "m", "shaft fshaft", "L", "Z1"),
    # universal joints
    _part("D", "jclip", say("joint circlip"), "", "4 j ?", "shaft rshaft fshaft", "M", "J4"),
    _part("D", "jcap", say("joint cap"), "", "4 j l", "jclip", "J", "J3"),
    _part("D", "needle", say("joint needle"), "", "* j b", "jcap", "N", "J2"),
    _part("D", "cross", say("joint cross"), "", "j ^", "jcap", "J", "J0"),
    _part("D", "hyoke", say("centre yoke"), "dc", "m", "cross", "X", "Z2"),
    _part("D", "cball", say("centring ball, seat, spring"), "dc", "^ b", "cross", "J", "Z2+1"),
    # cover, third member
    _part("E", "covbolt", say("cover bolt"), "beam/sides", "* b", "oil", "F", "R3"),
    _part("E", "cover", say("cover"), "beam/sides", "^", "covbolt", "H", "R2"),
    _part("E", "gask", say("gasket or sealant"), "", "!", "cover tm fdhalf", "D", "R1"),
    _part("E", "aline", say("air line"), "air", "b", "", "V", "U6"),
    _part("E", "tmnut", say("third-member nut"), "third", "* b", "oil", "F", "Y0+4"),
    _part("E", "tm", say("third member"), "third", "", "tmnut axle hshaft shaft rshaft aline", "H", "Y0+3"),
    # carrier
    _part("E2", "capbolt", say("bearing cap bolt"), "beam/third", "2 rf b", "cover tm", "F", "X7+2"),
    _part("E2", "adjlock", say("adjuster lock"), "adj", "rf b", "cover tm", "F", "X8+1"),
    _part("E2", "cap", say("bearing cap"), "beam/third", "rf ^ l", "capbolt adjlock", "H", "X7+1"),
    _part("E2", "adjr", say("adjuster"), "adj", "rf l", "cap", "F", "X8"),
    _part("E2", "sshim", say("side shim"), "outb", "* rf s", "cap", "S", "X8"),
    _part("E2", "carr", say("carrier"), "", "", "cap sshim adjr axle hshaft cover tm scover fdhalf aline", "H", "X0"),
    _part("E2", "scup", say("side bearing cup"), "!small", "rf d", "carr scover", "B", "X7"),
    _part("E2", "scone", say("side bearing cone"), "!small", "rf d", "carr", "B", "X6"),
    _part("E2", "ishim", say("inboard side shim"), "inb", "* rf s", "scone", "S", "X5"),
    _part("E2", "ringbolt", say("ring gear bolt"), "", "* !", "carr", "F", "X2"),
    _part("E2", "ring", say("ring gear"), "", "r m", "ringbolt", "T", "X1"),
    # pinion
    _part("F", "pnut", say("pinion nut"), "", "m !", "shaft rshaft", "F", "Y15"),
    _part("F", "pwash", say("pinion washer"), "", "o ^ b", "pnut", "W", "Y14"),
    _part("F", "flange", say("pinion flange"), "", "m", "pwash pnut", "L", "Y13"),
    _part("F", "pseal", say("pinion seal"), "", "^ !", "flange", "E", "Y12"),
    _part("F", "sling", say("slinger"), "!small", "o ^", "pseal", "W", "Y11"),
    _part("F", "ocone", say("outer pinion cone"), "!small", "", "sling pseal", "B", "Y10"),
    _part("F", "crush", say("crush sleeve"), "crush", "!", "ocone", "D", "Y8"),
    _part("F", "spacer", say("solid spacer"), "spacer", "", "ocone", "S", "Y8"),
    _part("F", "pshim", say("preload shim"), "spacer/oshim", "* s", "ocone", "S", "Y7"),
    _part("F", "cartbolt", say("cartridge bolt"), "cart", "* b", "shaft rshaft", "F", "Y6+1"),
    _part("F", "cart", say("pinion cartridge"), "cart", "m", "cartbolt", "H", "Y6"),
    _part("F", "pinion", say("pinion"), "", "m", "flange cart carr!cart lnut", "T", "Y1"),
    _part("F", "isling", say("inner slinger or baffle"), "!small", "o ^", "icone", "W", "Y2+1"),
    _part("F", "icone", say("inner pinion cone"), "!small", "", "pinion", "B", "Y3"),
    _part("F", "icup", say("inner pinion cup"), "!small", "", "pinion", "B", "Y4"),
    _part("F", "ocup", say("outer pinion cup"), "!small", "", "ocone pinion", "B", "Y9"),
    _part("F", "dshim", say("depth shim"), "head/cup/cart", "* s", "icone:head icup:cup cart", "S", "Y5 Y2:head"),
    _part("F", "lnut", say("bearing retainer nut"), "small", "", "pseal", "F", "Y11"),
    _part("F", "pbrg", say("pinion bearing"), "small", "^", "pinion", "B", "Y9"),
    _part("F", "pwsh", say("pinion shim washer"), "small", "* s", "pinion", "S", "Y2"),
    # cross pin
    _part("G", "pinbolt", say("cross-pin bolt"), "open/pack/drop/air", "!", "cover tm carr:sides carr:small", "F", "Q3"),
    _part("G", "pin", say("cross pin"), "open/pack/drop/air", "m", "pinbolt", "A", "Q0"),
    _part("G", "block", say("thrust block"), "open/helical", "o ^", "pin cover tm", "W", "D0"),
    # differential
    _part("G2", "pspring", say("preload spring"), "pack", "* b", "pin aclip", "M", "D0"),
    _part("G2", "casebolt", say("carrier half bolt"), "helical/air", "* b ?", "carr", "F", "D5"),
    _part("G2", "casehalf", say("carrier half"), "helical/air", "m", "casebolt", "H", "D4"),
    _part("G2", "spider", say("spider gear"), "open/pack/air", "* l", "pin pspring block casehalf", "G", "Q1"),
    _part("G2", "spwash", say("spider washer"), "open/pack/air", "l", "spider", "W", "Q2"),
    _part("G2", "hgear", say("helical gear"), "helical", "* l", "casehalf", "G", "D1+1"),
    _part("G2", "sgear", say("side gear"), "open/pack/helical/air", "rf l", "spider casehalf axle hshaft", "G", "D1"),
    _part("G2", "sgwash", say("side-gear washer"), "open/helical/air", "rf d", "sgear", "W", "D2"),
    _part("G2", "fplate", say("friction plate"), "pack", "* rf s", "sgear", "P", "D2"),
    _part("G2", "splate", say("steel plate"), "pack", "* rf s", "sgear", "P", "D2"),
    _part("G2", "pkshim", say("clutch pack shim"), "pack", "* rf s", "sgear", "S", "D3"),
    _part("G2", "lspring", say("locker spring, pin, spacer ring"), "drop", "* b", "pin", "M", "D0"),
    _part("G2", "driver", say("locker half"), "drop", "rf l", "lspring aclip axle hshaft", "G", "D1"),
    _part("G2", "lwash", say("locker washer"), "drop", "o rf d", "driver", "W", "D2"),
    _part("G2", "dog", say("air piston and dog ring"), "air", "f ^", "casehalf", "A", "D3"),
    _part("G2", "aseal", say("air seal and O-rings"), "air", "* !", "carr", "D", "X5+1"),
    # axle shafts
    _part("H", "aclip", say("axle clip"), "clip", "lr d", "cover pin block caliper drum", "M", "X4"),
    _part("H", "retnut", say("retainer nut"), "ret", "* lr b ?", "disc drum", "F", "X15+1"),
    _part("H", "dfbolt", say("axle flange bolt"), "float", "* lr b", "", "F", "X22+2"),
    _part("H", "taper", say("taper cone"), "float", "* lr b", "dfbolt", "A", "X22+1"),
    _part(
        "H",
        "axle",
        say("axle shaft"),
        "clip/ret/float",
        "lr l",
        "aclip retnut dfbolt taper disc!float drum!float sensor",
        "X",
        "X17 X22:float",
    ),
    _part("H", "agask", say("axle flange gasket"), "float", "lr !", "axle", "D", "X21"),
    _part("H", "eseal", say("axle seal"), "clip/ret", "lr ^ !", "axle", "E", "X10"),
    _part("H", "eshim", say("end-play shim"), "ret", "* lr s", "axle", "S", "X12+1"),
    # axle ends
    _part("H2", "ering", say("bearing ring"), "ret", "lr !", "axle", "D", "X11"),
    _part("H2", "ebrg", say("axle bearing"), "clip/ret", "lr ^", "ering eseal:clip axle", "B", "X12"),
    _part("H2", "rseal", say("retainer seal"), "ret", "lr ^ !", "ebrg", "E", "X14"),
    _part("H2", "retp", say("retainer"), "ret", "lr ^", "ebrg rseal", "H", "X15"),
    _part("H2", "hlock", say("hub nut lock"), "float", "lr !", "axle", "F", "X19+1"),
    _part("H2", "hnut", say("wheel-bearing nut"), "float", "* lr ^", "hlock", "F", "X19"),
    _part("H2", "hocone", say("outer hub cone"), "float", "lr d", "hnut", "B", "X18"),
    _part("H2", "hub", say("hub"), "float", "lr", "hocone wheel caliper drum sensor", "R", "X17"),
    _part("H2", "hseal", say("hub seal"), "float", "lr ^ !", "hub", "E", "X14"),
    _part("H2", "hicone", say("inner hub cone"), "float", "lr d", "hseal", "B", "X15"),
    _part("H2", "hcup", say("hub cup"), "float", "2 lr d", "hicone hocone", "B", "X15+1"),
    # half shafts, drive flanges
    _part("I", "hubnut", say("hub nut"), "", "lr !", "", "F", "X22"),
    _part("I", "bjnut", say("ball-joint nut"), "", "* lr b ?", "wheel", "F", "X20+3"),
    _part("I", "ibolt", say("inner flange bolt"), "ifl", "* lr b", "wheel", "F", "X13"),
    _part("I", "hshaft", say("half shaft"), "", "lr l", "hubnut bjnut ibolt caliper sensor", "X", "X15"),
    _part("I", "hclip", say("half-shaft circlip"), "!ifl", "lr !", "hshaft", "M", "X13"),
    _part("I", "hsseal", say("half-shaft seal"), "", "lr ^ !", "hshaft dflange", "E", "X10"),
    _part("I", "dfnut", say("drive flange nut"), "dfl", "* lr b", "hshaft", "F", "X12+1"),
    _part("I", "dtaper", say("taper cone"), "dfl", "* lr b", "dfnut", "A", "X12"),
    _part("I", "dflange", say("drive flange"), "dfl", "lr m", "dfnut dtaper", "L", "X11"),
    # final drive unit
    _part("I3", "ubolt", say("unit bolt and bush"), "", "* b", "oil shaft rshaft hshaft", "F", "X0+4"),
    _part("I3", "unit", say("final drive unit"), "", "", "ubolt aline", "H", "X0+3"),
    _part("I3", "scbolt", say("side-cover bolt"), "sides", "* rf b", "unit", "F", "X9+1"),
    _part("I3", "scover", say("side cover"), "sides", "rf l m", "scbolt dflange", "H", "X9"),
    _part("I3", "cvshim", say("side-cover shim"), "cov", "* rf s", "scover", "S", "X8"),
    _part("I3", "scring", say("side-cover O-ring"), "sides", "rf !", "scover", "D", "X8+1"),
    _part("I3", "fdbolt", say("case bolt"), "small", "* b", "unit", "F", "X8+1"),
    _part("I3", "fdhalf", say("case half"), "small", "", "fdbolt", "H", "X8"),
    _part("I3", "swash", say("shim washer"), "small", "* rf s", "fdhalf carr", "S", "X5"),
    _part("I3", "sbrg", say("side bearing"), "small", "rf", "carr", "B", "X6"),
    # transfer-case output
    _part("K", "tdrum", say("transmission brake drum"), "tbrake", "m", "shaft fshaft", "R", "T11"),
    _part("K", "tnut", say("output nut"), "", "m !", "shaft fshaft tdrum", "F", "T10"),
    _part("K", "twash", say("output washer and felt"), "", "^ ?", "tnut", "W", "T9"),
    _part("K", "tflange", say("output flange"), "", "m", "twash", "L", "T8"),
    _part("K", "tseal", say("output seal"), "", "^ !", "tflange", "E", "T7"),
    _part("K", "tspd", say("speedometer driven gear"), "", "b", "", "G", "T3+1"),
    _part("K", "thbolt", say("output housing bolt"), "", "* b", "oil", "F", "T6+1"),
    _part("K", "thouse", say("output housing"), "", "", "thbolt tspd tflange", "H", "T6"),
    _part("K", "tgask", say("output housing gasket"), "", "!", "thouse", "D", "T5"),
    _part("K", "tworm", say("speedometer drive gear"), "", "^", "thouse", "G", "T3"),
    _part("K", "tshim", say("output shim"), "", "* s", "thouse", "S", "T4"),
    _part("K", "tshaft", say("output shaft"), "", "", "thouse", "X", "T0"),
    _part("K", "tcone", say("output cone"), "", "fr d", "tworm tshaft", "B", "T1"),
    _part("K", "tcup", say("output cup"), "", "fr d", "thouse tshaft", "B", "T2"),
    _part("K", "troll", say("loose roller"), "loose", "* b", "tshaft", "N", "T-4"),
    _part("K", "tcage", say("caged roller set"), "caged", "^", "tshaft", "B", "T-4"),
    _part("K", "tgear", say("output gear"), "", "^", "tshaft", "T", "T-3"),
)

BY_CODE = {one.code: one for one in PARTS}
GROUP_NEEDS = {one.code: one.needs for one in GROUPS}


def parts_with(facts: frozenset[str]) -> Iterable[Part]:
    """The parts that a build has, in the order of the table."""
    return (one for one in PARTS if holds(GROUP_NEEDS[one.group], facts) and holds(one.needs, facts))
