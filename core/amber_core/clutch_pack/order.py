"""The order of a clutch pack: which plates rub, and which stand wrongly."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from amber_core.errors import InvalidInput
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import Said, say

MOST_PLATES = 200

Problem = Literal["friction_on_friction", "same_key", "bare_friction", "shim_inside", "no_faces"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """A plate: friction, steel, wave (a spring) or shim, and what its tabs or splines turn with."""

    kind: Literal["friction", "steel", "shim", "wave"]
    keyed: Literal["case", "gear", "none"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PackQuestion:
    """Plates from the side gear outwards, as they came apart, and whether two plates keyed alike may lie together."""

    plates: list[Plate]
    as_found: list[Plate] | None = None
    doubled_allowed: bool = False

    def __post_init__(self) -> None:
        for field, plates in (("plates", self.plates), ("as_found", self.as_found)):
            if plates is not None and not 1 <= len(plates) <= MOST_PLATES:
                raise InvalidInput(field, say("A clutch pack has 1 to {most} plates.", most=MOST_PLATES))


@dataclass(frozen=True, slots=True, kw_only=True)
class PackProblem:
    """What is wrong, at which plate from 0; None where it is about the whole pack."""

    index: int | None
    code: Problem
    text: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class PackOrder:
    """Rubbing faces, problems by plate, and whether the order is the one it came apart in."""

    faces: int
    problems: list[PackProblem]
    same_as_found: bool | None
    verdict: VerdictWord
    reasons: list[Reason]


_TEXT = {
    "friction_on_friction": say("Two friction plates lie on each other. A steel plate belongs between them."),
    "same_key": say("Turns with the plate before it, so the two cannot slip. Plates keyed to the case and to the gear alternate."),
    "bare_friction": say("A friction plate at the end would rub on the side gear, the case or a shim. A steel plate belongs there."),
    "shim_inside": say("This shim is in the middle of the pack. Shims belong at its end."),
    "no_faces": say("No two plates rub on each other, so this pack holds nothing."),
}
_ORDER: tuple[Problem, ...] = ("friction_on_friction", "same_key", "bare_friction", "shim_inside", "no_faces")


def check_order(given: PackQuestion) -> PackOrder:
    """Check the order of a clutch pack.

    Parameters
    ----------
    given : PackQuestion
        Plates from the side gear outwards.

    Returns
    -------
    PackOrder
        Faces [-], problems, `out` with any.

    Raises
    ------
    InvalidInput
        From PackQuestion, with the field.

    Notes
    -----
    Shims are left out before anything is compared. A face is two neighbours that are both keyed, differently, whatever their kinds. A
    wave plate beside a steel or another wave is a spring and may turn with it. A friction plate may end the pack where it turns with
    what it lies on: first and keyed to the gear, last and keyed to the case.

    Examples
    --------
    >>> pack = [Plate(kind="steel", keyed="case"), Plate(kind="friction", keyed="gear"), Plate(kind="steel", keyed="case")]
    >>> check_order(PackQuestion(plates=pack)).faces
    2
    """
    inner = [(index, plate) for index, plate in enumerate(given.plates) if plate.kind != "shim"]
    faces = 0
    found: list[tuple[int | None, Problem]] = []
    doubled: list[int] = []
    for (_, before), (index, after) in pairwise(inner):
        both = "none" not in (before.keyed, after.keyed)
        faces += both and before.keyed != after.keyed
        if before.kind == after.kind == "friction":
            found.append((index, "friction_on_friction"))
        elif both and before.keyed == after.keyed and not _spring(before, after):
            if given.doubled_allowed:
                doubled.append(index)
            else:
                found.append((index, "same_key"))
    found += _ends(inner) + _inside(given.plates, inner)
    if faces == 0:
        found.append((None, "no_faces"))
    found = sorted(set(found), key=lambda one: (one[0] is None, one[0] or 0, _ORDER.index(one[1])))
    same = None if given.as_found is None else [one for _, one in inner] == [one for one in given.as_found if one.kind != "shim"]
    text = say("Turns with the plate before it: the two act as one thick plate, as this pack is made.")
    return PackOrder(
        faces=faces,
        problems=[PackProblem(index=index, code=code, text=_TEXT[code]) for index, code in found],
        same_as_found=same,
        verdict="out" if found else "in",
        reasons=[Reason(code="doubled", text=text, field=f"plates[{index}]") for index in doubled],
    )


def _spring(before: Plate, after: Plate) -> bool:
    return {before.kind, after.kind} in ({"wave"}, {"wave", "steel"})


def _ends(inner: list[tuple[int, Plate]]) -> list[tuple[int | None, Problem]]:
    if not inner:
        return []
    ends = ((inner[0], "gear"), (inner[-1], "case"))
    return [(index, "bare_friction") for (index, plate), with_it in ends if plate.kind == "friction" and plate.keyed != with_it]


def _inside(plates: list[Plate], inner: list[tuple[int, Plate]]) -> list[tuple[int | None, Problem]]:
    if not inner:
        return []
    return [(index, "shim_inside") for index, plate in enumerate(plates) if plate.kind == "shim" and inner[0][0] < index < inner[-1][0]]
