"""What each kind of work takes off, what it counts, and what can be taken off as well when it is asked for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from amber_core.parts.assembly import Assembly
from amber_core.parts.catalogue import PARTS, holds, needs_of


@dataclass(frozen=True, slots=True)
class WorkSet:
    """Of one kind of work, for the builds that `fits` names: groups in capitals, parts, ``=kind`` for what another kind takes off."""

    kind: str
    fits: str
    off: str = ""
    stay: str = ""
    counted: str = ""
    asked: str = ""


SETS = (
    WorkSet("ring_and_pinion", "beam/third", "A B C E E2 F G:clip H I I3", "", "ringbolt capbolt sshim ishim dshim magnet", "G2"),
    WorkSet(
        "pinion_seal",
        "fd",
        "wheelnut wheel calbolt caliper drum fill drain cwash oil C pnut pwash flange pseal",
        "",
        "rbolt pwash",
        "sling ocone crush",
    ),
    WorkSet("third_member", "third", "A B C E H I", "", "tmnut magnet"),
    WorkSet("final_drive", "sides/small", "=ring_and_pinion", "", "cvshim swash pwsh fdbolt scbolt", "G G2"),
    WorkSet("differential", "beam/third/sides", "=ring_and_pinion", "F", "ringbolt capbolt sshim ishim cvshim", "F"),
    WorkSet(
        "clutch_packs",
        "beam/third/sides pack",
        "A B E G G2 H I C:third C:sides carr:sides I3",
        "",
        "spwash fplate splate pkshim aclip",
        "E2",
    ),
    WorkSet("locker", "beam/third/sides open", "=clutch_packs", "", "spwash sgwash aclip", "E2"),
    WorkSet("wheel_bearings", "beam/third clip/ret/float", "A B E:clip G:clip H H2", "", "aclip ering magnet", "plate"),
    WorkSet("retention", "beam clip", "=wheel_bearings A2", "rel", "aclip magnet"),
    WorkSet("half_shafts", "fd half", "A B I", "", "dtaper hclip dfnut", "boot"),
    WorkSet("joint", "", "C D C2", "", "needle jclip cpack", "cbrg"),
    WorkSet("shaft_made", "", "C C2 slip", "", "rbolt cpack", "D cbrg"),
    WorkSet("transfer_output", "tc", "B C C2 K", "", "troll tshim thbolt"),
    WorkSet("flange_surface", "tc", "C C2 tdrum tnut twash tflange tseal", "", "twash"),
    WorkSet("flange_surface", "fd", "=pinion_seal", "", "rbolt pwash", "sling ocone crush"),
    WorkSet("oil_service", "fd/tc", "B", "", "magnet cwash", "cover"),
    WorkSet("strip_and_report", "fd", "=ring_and_pinion", "", "magnet", "G2"),
    WorkSet("vibration", "", "", "", "", "C"),
    WorkSet("gear_ratio", "fd", "", "", "", "cover"),
    WorkSet("speedometer", "tc", "", "", "", "tspd"),
)


def set_of(kind: str, assembly: Assembly) -> WorkSet:
    """What a kind of work takes off here; nothing by itself for a kind that says nothing of this build."""
    fitting = (one for one in SETS if one.kind == kind and holds(needs_of(one.fits), assembly.facts))
    return next(fitting, WorkSet(kind, ""))


def off_of(kind: str, assembly: Assembly, asked: Iterable[str] = ()) -> list[str]:
    """The keys that a kind of work takes off, in an order that they can come off in; with what is asked for, and what that brings.

    Parameters
    ----------
    asked : iterable of str
        Codes or groups of the kind's `asked`, or any part's.
    """
    return list(_off_of(kind, assembly, " ".join(asked)))


@lru_cache(maxsize=256)
def _off_of(kind: str, assembly: Assembly, asked: str) -> tuple[str, ...]:
    found = set_of(kind, assembly)
    base = assembly.closed(_keys(_spelt(found.off), assembly)) - _keys(found.stay, assembly)
    return tuple(assembly.order_off(base | assembly.closed(_keys(asked, assembly))))


def counted_of(kind: str, assembly: Assembly) -> set[str]:
    """The keys whose number is noted when they come off."""
    return _keys(set_of(kind, assembly).counted, assembly)


def _spelt(off: str) -> str:
    """With the sets of other kinds written out."""
    said = off.split()
    named = [one[1:] for one in said if one.startswith("=")]
    others = [next(one.off for one in SETS if one.kind == kind) for kind in named]
    return " ".join([*others, *(one for one in said if not one.startswith("="))])


def _keys(said: str, assembly: Assembly) -> set[str]:
    """Groups, parts and keys in words, each with a fact behind a colon where it needs one."""
    codes: set[str] = set()
    for one in said.split():
        name, _, fact = one.partition(":")
        if not fact or fact in assembly.facts:
            codes |= {part.code for part in PARTS if part.group == name} if name[0].isupper() else {name}
    return {key for key, place in assembly.places.items() if place.part.code in codes or key in codes}
