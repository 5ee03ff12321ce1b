"""What is seen on a part, what decides, which ways there are, and what one finding means for others."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from amber_core.parts.assembly import Assembly
from amber_core.parts.catalogue import BY_CODE
from amber_core.words import NOTHING, Said, say

Decision = Literal["good", "clean", "repair", "replace"]

DECISIONS: dict[Decision, Said] = {
    "good": say("Good"),
    "clean": say("Clean up"),
    "repair": say("Repair"),
    "replace": say("Replace"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class PartClass:
    """Parts that are looked at alike.

    Parameters
    ----------
    findings : tuple of str
        What is seen on them, by code.
    decides : str
        What is looked at or measured to decide.
    tools : tuple of str
        Public computations that judge the measurement.
    ways : tuple of str
        What can be done beside replacing it.
    """

    findings: tuple[str, ...]
    decides: Said
    tools: tuple[str, ...] = ()
    ways: tuple[Said, ...] = ()


CLASSES: dict[str, PartClass] = {
    "T": PartClass(
        findings=("chip", "pitting", "scoring", "ridge", "crack", "blueing"),
        decides=say("Contact pattern and backlash, as found."),
        tools=("backlash.assess",),
        ways=(say("back as found"), say("dress the edge"), say("replace as a gear set")),
    ),
    "G": PartClass(
        findings=("chip", "scoring", "wear", "spline", "crack"),
        decides=say("Side-gear play; of a locker, its gap."),
        tools=("lash.side_gear", "locker.gap"),
        ways=(say("replace the whole set"),),
    ),
    "B": PartClass(
        findings=("spalling", "brinelling", "blueing", "rust", "spun", "crack", "broken"),
        decides=say("Turned by hand under load; the new one's height against the old; its fit on the seat."),
        tools=("bearing.compare", "fit.press"),
        ways=(say("cone and cup together"), say("both sides")),
    ),
    "S": PartClass(
        findings=("broken", "bent", "missing", "wear"),
        decides=say("Each shim by micrometer."),
        tools=("shims.pick",),
        ways=(say("clean and refit"), say("same total from other shims")),
    ),
    "L": PartClass(
        findings=("groove", "pitted", "spline", "bent"),
        decides=say("Seal surface by fingernail and micrometer; runout on the dial."),
        tools=("fit.land", "runout.assess"),
        ways=(say("polish"), say("set the seal over"), say("repair sleeve"), say("new flange of the same length")),
    ),
    "E": PartClass(findings=("leak", "wrong", "crack"), decides=say("By eye.")),
    "X": PartClass(
        findings=("spline", "bent", "crack", "groove", "missing"),
        decides=say("Runout, engagement in the side gear, slip at both ends of the travel."),
        tools=("runout.assess", "shaft.engagement", "halfshaft.home", "driveline.slip"),
        ways=(say("repair sleeve"), say("licensed maker")),
    ),
    "F": PartClass(
        findings=("thread", "crack", "missing"),
        decides=say("Does it gain torque? Does the castle nut reach its slot?"),
        tools=("torque.turning", "nut.castle"),
        ways=(say("chase the thread"), say("thread insert")),
    ),
    "H": PartClass(
        findings=("crack", "round", "bent", "thread"),
        decides=say("Bores measured, faces and tube straightness checked."),
        tools=("fit.clearance", "gasket.template", "tube.register"),
        ways=(say("clean"), say("dress"), say("competent shop")),
    ),
    "R": PartClass(
        findings=("bent", "crack", "oily", "scoring", "leak", "wear", "stuck"),
        decides=say("Runout, and lining against its limit."),
        tools=("runout.assess",),
        ways=(say("clean"), say("both sides")),
    ),
    "P": PartClass(
        findings=("blueing", "scoring", "wear", "bent", "wrong"),
        decides=say("Order and stack of the clutch pack."),
        tools=("clutchpack.order", "clutchpack.shims"),
        ways=(say("soak and refit"), say("shims"), say("both packs")),
    ),
    "W": PartClass(
        findings=("wear", "scoring", "broken", "wrong", "missing"), decides=say("By micrometer."), ways=(say("replace the whole set"),)
    ),
    "A": PartClass(
        findings=("scoring", "wear", "round", "blueing"),
        decides=say("Pin and bores measured."),
        tools=("fit.clearance",),
        ways=(say("new pin"), say("new carrier")),
    ),
    "N": PartClass(
        findings=("brinelling", "rust", "broken", "missing"),
        decides=say("Counted against what fits."),
        tools=("bearing.full_complement",),
        ways=(say("replace the whole set"),),
    ),
    "J": PartClass(findings=("brinelling", "rust", "stuck", "wear"), decides=say("By feel, on both axes."), ways=(say("grease"),)),
    "M": PartClass(
        findings=("broken", "bent", "wear", "missing"),
        decides=say("Free length; seated and tugged."),
        ways=(say("replace the whole set"),),
    ),
    "Q": PartClass(findings=("crack", "rust", "missing"), decides=say("Teeth counted; gap to the sensor."), ways=(say("clean"),)),
    "V": PartClass(
        findings=("clog", "leak", "missing"), decides=say("Blown through; air held."), tools=("air.hold",), ways=(say("clean"),)
    ),
    "O": PartClass(
        findings=("water", "metal", "blueing"),
        decides=say("Paste, flakes or pieces on the magnet; colour and smell."),
        ways=(say("flush"), say("strip and look")),
    ),
    "D": PartClass(findings=(), decides=say("Never used again.")),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """Something that is seen: its word, which parts it makes one look at, and what to do then."""

    word: Said
    look_at: tuple[str, ...]
    then: Said
    pieces: bool = False


def _finding(word: Said, look_at: str, then: Said, pieces: bool = False) -> Finding:
    return Finding(word=word, look_at=tuple(look_at.split()), then=then, pieces=pieces)


FINDINGS: dict[str, Finding] = {
    "chip": _finding(
        say("broken tooth"), "ring pinion icone ocone scone spider magnet", say("Find every piece before closing."), pieces=True
    ),
    "pitting": _finding(say("pitting"), "ring pinion oil", say("Check whether its mate is pitted too.")),
    "scoring": _finding(say("scoring"), "oil pin spwash", say("Was the oil low, or the wrong one?")),
    "ridge": _finding(say("wear ridge"), "ring pinion dshim", say("A worn-in gear set goes back to its as-found depth and backlash.")),
    "crack": _finding(say("crack"), "carr cap", say("Was it overloaded?")),
    "spalling": _finding(say("spalling"), "magnet scone icone ocone", say("Metal has gone everywhere: flush, and look at all bearings.")),
    "brinelling": _finding(
        say("brinelling"), "scone icone cross hcup", say("A brinelled cup gives false readings: replace it before you measure.")
    ),
    "blueing": _finding(say("blueing"), "oil breather pseal scone", say("It ran hot: check the rotating torque and the oil.")),
    "rust": _finding(say("rust dust"), "breather eseal pseal jcap", say("Has water got in? Check breather and seals.")),
    "spun": _finding(say("turned on its seat"), "carr cap pinion hub tshaft", say("Measure the seat: a new bearing would turn again.")),
    "groove": _finding(
        say("groove a fingernail catches"), "pseal tseal breather", say("Check the play first: a loose bearing wears it again.")
    ),
    "pitted": _finding(say("pitted seal surface"), "pseal tseal hsseal", say("Compare the ways and their prices.")),
    "spline": _finding(say("worn or twisted splines"), "flange pinion sgear axle hshaft slip", say("Look at the mating splines.")),
    "bent": _finding(say("bent or warped"), "carr ring axle plate", say("Measure the runout.")),
    "round": _finding(say("out of round"), "pin carr scup", say("Measure its mate.")),
    "wear": _finding(say("worn thin or loose"), "spwash sgwash pin fplate", say("Look at its mate, and at the other side.")),
    "broken": _finding(
        say("broken up"),
        "sshim ishim cvshim tshim needle magnet",
        say("Is the stack still what it was? It is no starting point. Find every piece."),
        pieces=True,
    ),
    "missing": _finding(say("missing or miscounted"), "magnet oil needle troll", say("Search for it before closing."), pieces=True),
    "thread": _finding(say("stretched or stripped thread"), "ringbolt capbolt pinbolt", say("Replace the whole set of bolts.")),
    "leak": _finding(say("leak"), "breather flange dflange oil", say("Check the seal surface and the oil level.")),
    "oily": _finding(say("oily linings"), "eseal hseal ebrg", say("Linings are replaced on both sides.")),
    "clog": _finding(say("blocked"), "pseal eseal hsseal oil", say("A blocked breather is a likely cause of the leak.")),
    "water": _finding(say("water"), "breather icone scone hocone", say("Look at all bearings.")),
    "metal": _finding(say("metal in the oil"), "ring pinion scone icone fplate", say("Pieces are hunted before closing."), pieces=True),
    "stuck": _finding(say("stuck or notchy"), "jcap shoes cbrg", say("Does the brake drag?")),
    "wrong": _finding(say("wrong way round or wrong order"), "sling fplate splate lwash tcone", say("The sheet decides how it goes.")),
}
"""The closed list of what is seen."""


def look_at(found: Iterable[str], assembly: Assembly, own: str) -> list[str]:
    """The keys of other parts that findings on the part `own` make one look at, in the order of the table.

    What is found in an axle says nothing of the propshaft's joints, nor the other way about.
    """
    codes = {code for one in found if one in FINDINGS for code in FINDINGS[one].look_at}
    of_shaft = _of_shaft(own)
    keys = [place.key for code in codes for place in assembly.places_of(code)]
    return sorted((key for key in keys if key != own and _of_shaft(key) == of_shaft), key=assembly.rank.__getitem__)


def _of_shaft(key: str) -> bool:
    part = BY_CODE.get(key.partition(".")[0])
    return part is not None and part.group in ("C", "C2", "C3", "D")


def advised(kind: str, found: Iterable[str]) -> tuple[Decision, Said]:
    """What is usually decided for a part of a class on which this was found, and why.

    Parameters
    ----------
    kind : str
        Of `CLASSES`.
    found : iterable of str
        Codes of FINDINGS; none is good.
    """
    seen = set(found)
    if kind == "D":
        return "replace", say("It is used once.")
    if not seen:
        return "good", NOTHING
    if kind == "L" and seen <= {"groove", "pitted"}:
        return "repair", say("A repair sleeve usually costs less than a new flange and keeps its length.")
    if kind in ("V", "Q") and seen <= {"clog", "rust"}:
        return "clean", say("Cleaned, it works again.")
    if kind == "O":
        return "replace", say("The oil goes; where it came from has to be found.")
    if kind == "T" and seen == {"ridge"}:
        return "good", say("A worn-in gear set can go back as found; new depth would make it howl.")
    if kind == "F" and seen == {"missing"}:
        return "replace", say("Without it the rest carries more.")
    if kind == "H" and seen == {"thread"}:
        return "repair", say("A thread insert holds as well.")
    if kind == "T":
        return "replace", say("Ring gear and pinion are replaced as a gear set.")
    if kind == "B":
        return "replace", say("Cone and cup are replaced together.")
    if kind in ("G", "N", "W", "M"):
        return "replace", say("The whole set is replaced.")
    if kind == "R" and "oily" in seen:
        return "replace", say("Oily linings are replaced on both sides.")
    return "replace", NOTHING


def kind_of(key: str) -> str:
    """The class of a part by its key; that of housings for one that somebody typed."""
    part = BY_CODE.get(key.partition(".")[0])
    return part.kind if part else "H"
