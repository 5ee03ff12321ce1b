"""The first depth shim: the old one, corrected for marks, bearings and slinger."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

ShimPlace = Literal["under_head", "behind_cup", "under_cartridge_flange"]
_MM_PER_UNIT = {"mm": 1.0, "hundredths_mm": 0.01, "thou": 0.0254}
_GREATEST_MARK_MM = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthStart:
    """The old shim and what changes with the new parts.

    Parameters
    ----------
    old_shim_mm : float
        The shim that was there, [mm].
    old_mark_mm, new_mark_mm : float
        Marks of the pinions, + wants to sit farther from the ring axis, [mm].
    old_mark, new_mark, mark_unit, mark_means : float, float, str, str, optional
        The marks as they stand on the pinions, their unit, and what + (or the number itself, as a distance) means there.
    old_bearing_height_mm, new_bearing_height_mm : float, optional
        Cone and cup together, loaded and turned, [mm]; both or neither.
    slinger_change_mm : float
        New slinger less the old one, [mm].
    shim_place : {"under_head", "behind_cup", "under_cartridge_flange"}
        Under a cartridge flange a thicker shim makes it shallower, and every correction has the other sign.
    """

    old_shim_mm: float
    shim_place: ShimPlace
    old_mark_mm: float = 0.0
    new_mark_mm: float = 0.0
    old_mark: float | None = None
    new_mark: float | None = None
    mark_unit: Literal["mm", "hundredths_mm", "thou"] | None = None
    mark_means: Literal["farther_is_plus", "closer_is_plus", "distance"] = "farther_is_plus"
    old_bearing_height_mm: float | None = None
    new_bearing_height_mm: float | None = None
    slinger_change_mm: float = 0.0

    def __post_init__(self) -> None:
        checks.within("old_shim_mm", self.old_shim_mm, 0.0, 20.0, say("Depth shim must be 0 to 20 mm. Give it in millimetres."))
        checks.within(
            "slinger_change_mm",
            self.slinger_change_mm,
            -5.0,
            5.0,
            say("Slinger difference is out of range: it is a few tenths of a millimetre at most."),
        )
        for name in ("old_bearing_height_mm", "new_bearing_height_mm"):
            checks.within(name, getattr(self, name), 1.0, 200.0, say("Bearing height must be 1 to 200 mm. Give it in millimetres."))
        self._check_pairs()
        if self.mark_means != "distance":
            for name, mark in zip(("old_mark_mm", "new_mark_mm"), self.marks_mm, strict=True):
                path = name if self.old_mark is None else name.removesuffix("_mm")
                checks.within(
                    path,
                    mark,
                    -_GREATEST_MARK_MM,
                    _GREATEST_MARK_MM,
                    say("A pinion mark is a few hundredths of a millimetre. Check the unit."),
                )

    def _check_pairs(self) -> None:
        if (self.old_mark is None) != (self.new_mark is None):
            raise InvalidInput(
                "old_mark" if self.old_mark is None else "new_mark", say("Enter the marks of both pinions, 0 where there is none.")
            )
        if self.old_mark is not None and self.mark_unit is None:
            raise InvalidInput("mark_unit", say("Choose the unit of the marks."))
        if (self.old_bearing_height_mm is None) != (self.new_bearing_height_mm is None):
            missing = "old_bearing_height_mm" if self.old_bearing_height_mm is None else "new_bearing_height_mm"
            raise InvalidInput(missing, say("Measure both bearings, the old and the new."))

    @property
    def marks_mm(self) -> tuple[float, float]:
        """Old and new mark, + farther from the ring axis, [mm]."""
        if self.old_mark is None or self.new_mark is None or self.mark_unit is None:
            return self.old_mark_mm, self.new_mark_mm
        factor = _MM_PER_UNIT[self.mark_unit] * (-1.0 if self.mark_means == "closer_is_plus" else 1.0)
        return factor * self.old_mark, factor * self.new_mark


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthTerm:
    """One part of the sum, [mm]."""

    name: str
    value_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthShim:
    """The shim to begin with and how it came about [mm]; `spacer_change_mm` for a solid spacer behind the cup."""

    shim_mm: float
    terms: list[DepthTerm]
    spacer_change_mm: float | None
    reasons: list[Reason]


def start_depth(given: DepthStart) -> DepthShim:
    """The depth shim for the first trial.

    Parameters
    ----------
    given : DepthStart
        Old shim, marks, heights [mm].

    Returns
    -------
    DepthShim
        Shim [mm] with its terms.

    Raises
    ------
    InvalidInput
        From DepthStart, with the field.

    Notes
    -----
    shim = old + (old mark - new mark) - (new height - old height) - slinger change; under a cartridge flange each correction has
    the other sign. Behind the cup a shim grown by x wants a solid spacer's stack grown by x.

    Examples
    --------
    >>> round(start_depth(DepthStart(old_shim_mm=0.90, new_mark_mm=0.05, shim_place="under_head")).shim_mm, 3)
    0.85
    """
    sign = -1.0 if given.shim_place == "under_cartridge_flange" else 1.0
    old_mark, new_mark = given.marks_mm
    terms = [DepthTerm(name="old_shim", value_mm=given.old_shim_mm), DepthTerm(name="marks", value_mm=sign * (old_mark - new_mark))]
    if given.old_bearing_height_mm is not None and given.new_bearing_height_mm is not None:
        taller = given.new_bearing_height_mm - given.old_bearing_height_mm
        terms.append(DepthTerm(name="bearing_height", value_mm=-sign * taller))
    terms.append(DepthTerm(name="slinger", value_mm=-sign * given.slinger_change_mm))
    shim = sum(term.value_mm for term in terms)
    return DepthShim(
        shim_mm=shim,
        terms=terms,
        spacer_change_mm=shim - given.old_shim_mm if given.shim_place == "behind_cup" else None,
        reasons=_reasons(given, shim),
    )


def _reasons(given: DepthStart, shim: float) -> list[Reason]:
    found = []
    if shim < -SLACK:
        text = say("The sum comes to {shim:mm2}, less than no shim. Check the sign and unit of the marks, and the bearings.", shim=shim)
        found.append(Reason(code="negative_stack", text=text, field="old_shim_mm"))
    if any(given.marks_mm):
        text = say(
            "Makers differ in what a mark means, and a wrong sign doubles the error. Check the maker's manual. A "
            "matching number is not a mark."
        )
        found.append(Reason(code="mark_sign", text=text, field="mark_means"))
    return found
