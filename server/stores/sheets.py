"""A spec sheet as a piece of work is judged by it: one immutable revision of a family's facts, limits and ratios."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass, fields, replace
from functools import lru_cache
from typing import Any, Literal

from django.db import transaction

from amber_core.words import say
from records.writing import Writing, hash_of
from shared.refusals import Refusal
from stores.models import (
    COUNTED,
    EACH_SIDE,
    UNITS,
    AxleFamily,
    CarrierMethod,
    FastenerPlace,
    PreloadMethod,
    Quantity,
    SheetPart,
    SheetRevision,
    ShimPlace,
    ToothForm,
)


@dataclass(frozen=True)
class SheetLimit:
    """One line of a sheet: the least and greatest allowed in the quantity's unit, and where that comes from."""

    quantity: str
    least: float | None
    greatest: float | None
    source_note: str

    @property
    def label(self) -> str:
        """The quantity in words."""
        return str(Quantity(self.quantity).label)

    @property
    def unit(self) -> str:
        """Of its figures."""
        return UNITS[Quantity(self.quantity)]


@dataclass(frozen=True)
class SheetFastener:
    """Bolts or nuts of one place: how many, how they stand, torque [N m] and the angle after it [deg], and where that comes from."""

    place: str
    count: int
    layout: Literal["circle", "row"] = "circle"
    torque_nm: float | None = None
    angle_deg: float | None = None
    thread: str = ""
    oiled: bool = False
    one_time_use: bool = False
    left_hand: bool = False
    locked_by: str = ""
    source_note: str = ""

    @property
    def label(self) -> str:
        """The place in words."""
        return str(FastenerPlace(self.place).label)

    @property
    def sides(self) -> int:
        """How many times an axle has this place."""
        return 2 if self.place in EACH_SIDE else 1


@dataclass(frozen=True)
class SheetFluid:
    """One kind of oil that may go in: the whole fill [l], its level below the plug [mm], and modifier as part of the fill [ml]."""

    oil: str
    litres: float
    level_below_plug_mm: float = 0.0
    modifier_ml: float | None = None
    modifier: str = ""
    source_note: str = ""


@dataclass(frozen=True)
class SheetRatio:
    """A pair of tooth counts the family is made with."""

    pinion_teeth: int
    ring_teeth: int
    needs_carrier: bool
    needs_thick_ring: bool


@dataclass(frozen=True)
class Sheet:
    """How an axle, a transfer case or a propshaft is built, its limits, fasteners and oils, and an axle's ratios; lengths in mm."""

    code: str
    name: str
    maker: str
    build: str
    carrier_method: Literal["side_shims", "cover_shims", "adjusters"]
    shim_place: Literal["under_head", "behind_cup", "under_cartridge_flange"]
    preload_method: Literal["crush_sleeve", "spacer", "outer_shims"]
    wheel_end: str
    has_spreader: bool
    has_speed_ring: bool
    ring_outer_diameter_mm: float
    offset_mm: float
    tooth_form: Literal["tapered", "uniform"]
    notch_mm: float | None
    torque_window_seal: Literal["included", "excluded"]
    bearing_offset_mm: float | None
    backlash_places: int
    is_sample: bool
    limits: tuple[SheetLimit, ...]
    ratios: tuple[SheetRatio, ...]
    shafts: str = ""
    """How the axle shafts are held; empty where the sheet does not say."""
    part: Literal["axle", "transfer_case", "propshaft"] = "axle"
    fasteners: tuple[SheetFastener, ...] = ()
    fluids: tuple[SheetFluid, ...] = ()

    def limit(self, quantity: str) -> SheetLimit | None:
        """The line of that quantity."""
        return next((one for one in self.limits if one.quantity == quantity), None)

    def fastener(self, place: str) -> SheetFastener | None:
        """The bolts or nuts of that place; an older revision says no more than how many there are."""
        found = next((one for one in self.fasteners if one.place == place), None)
        return found or (as_fastener(counted) if place in COUNTED and (counted := self.limit(place)) is not None else None)

    @property
    def part_label(self) -> str:
        return str(SheetPart(self.part).label)

    @property
    def carrier_label(self) -> str:
        return str(CarrierMethod(self.carrier_method).label)

    @property
    def shim_place_label(self) -> str:
        return str(ShimPlace(self.shim_place).label)

    @property
    def preload_label(self) -> str:
        return str(PreloadMethod(self.preload_method).label)

    @property
    def tooth_form_label(self) -> str:
        return str(ToothForm(self.tooth_form).label)


NO_SHEET = Sheet(
    code="",
    name=say("No spec sheet"),
    maker="",
    build="",
    carrier_method="side_shims",
    shim_place="under_head",
    preload_method="crush_sleeve",
    wheel_end="",
    has_spreader=False,
    has_speed_ring=False,
    ring_outer_diameter_mm=200.0,
    offset_mm=0.0,
    tooth_form="tapered",
    notch_mm=None,
    torque_window_seal="excluded",
    bearing_offset_mm=None,
    backlash_places=8,
    is_sample=False,
    limits=(),
    ratios=(),
)
"""For work without a family: it limits nothing, so nothing is judged by it."""

LISTS = ("limits", "ratios", "fasteners", "fluids")
_FACTS = tuple(name for name in Sheet.__dataclass_fields__ if name not in LISTS)
_LINES: dict[str, tuple[type, Callable[[Any], Any]]] = {
    "limits": (SheetLimit, lambda one: one.quantity),
    "ratios": (SheetRatio, lambda one: (one.pinion_teeth, one.ring_teeth)),
    "fasteners": (SheetFastener, lambda one: one.place),
    "fluids": (SheetFluid, lambda one: one.oil),
}


def as_fastener(counted: SheetLimit) -> SheetFastener | None:
    """What a limit that only counts bolts says of them."""
    count = counted.greatest if counted.greatest is not None else counted.least
    return SheetFastener(counted.quantity, int(count), source_note=counted.source_note) if count and count >= 1 else None


def without_counts(sheet: Sheet) -> Sheet:
    """A sheet whose counts of bolts stand with its fasteners, as the Stores keep them."""
    known = {one.place for one in sheet.fasteners}
    counted = [one for one in sheet.limits if one.quantity in COUNTED and one.quantity not in known]
    more = [found for one in counted if (found := as_fastener(one)) is not None]
    fasteners = tuple(sorted([*sheet.fasteners, *more], key=_LINES["fasteners"][1]))
    return replace(sheet, limits=tuple(one for one in sheet.limits if one.quantity not in COUNTED), fasteners=fasteners)


def sheet_of(family: AxleFamily) -> Sheet:
    """The sheet as the Stores have it now."""
    lines = {
        name: [{field.name: getattr(row, field.name) for field in fields(kind)} for row in getattr(family, name).all()]
        for name, (kind, _) in _LINES.items()
    }
    return sheet_in({**{name: getattr(family, name) for name in _FACTS}, **lines})


def content_of(sheet: Sheet) -> dict[str, Any]:
    """A sheet in plain JSON types."""
    plain = asdict(sheet)
    for name, silent in _UNSAID.items():
        if plain[name] == silent:
            del plain[name]  # a sheet that does not say is the sheet that it was before sheets could
    return {**plain, **{name: list(plain[name]) for name in LISTS if name in plain}}


@lru_cache(maxsize=256)
def _read(revision_id: int, content_hash: str, kept: _Kept) -> Sheet:
    return sheet_in(kept.revision.content)


_UNSAID: dict[str, Any] = {"shafts": "", "part": "axle", "fasteners": (), "fluids": ()}
_SINCE: dict[str, Any] = {"backlash_places": 8, "bearing_offset_mm": None, **_UNSAID}
"""Facts that older revisions do not have, as they were taken then."""


class _Kept:
    """A revision that the cache does not look into: the hash of its content stands beside it."""

    def __init__(self, revision: SheetRevision) -> None:
        self.revision = revision

    def __hash__(self) -> int:
        return 0

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Kept)


def sheet_in(plain: dict[str, Any]) -> Sheet:
    """A sheet out of plain JSON types; its lines stand in one order, so that the same sheet is found again."""
    facts: dict[str, Any] = {name: plain.get(name, _SINCE.get(name)) for name in _FACTS}
    lists: dict[str, Any] = {
        name: tuple(sorted((kind(**one) for one in plain.get(name, ())), key=key)) for name, (kind, key) in _LINES.items()
    }
    return Sheet(**facts, **lists)


def sheet_at(revision: SheetRevision) -> Sheet:
    """The sheet of a revision; it never changes, so it is read once."""
    return _read(revision.pk, revision.content_hash, _Kept(revision))


@transaction.atomic
def current_revision(family: AxleFamily, writing: Writing | None = None, reason: str = "") -> SheetRevision:
    """The revision that says what the Stores say now; a new one when they have changed since the last."""
    locked = AxleFamily.objects.select_for_update(of=("self",)).prefetch_related(*LISTS).get(pk=family.pk)
    content = content_of(sheet_of(locked))
    content_hash = hash_of(content)
    last = newest_revision(locked.pk)
    if last is not None and last.content_hash == content_hash:
        return last
    who = {"by": None, "by_name": "Stores"} if writing is None else writing.also()
    return _append(locked, content, content_hash, reason=reason[:200], **who)


@transaction.atomic
def file_revision(family: AxleFamily, sheet: Sheet, by_name: str) -> SheetRevision:
    """The revision that holds a sheet as a file brought it: the shop's own when one says the same, else one that is marked so."""
    locked = AxleFamily.objects.select_for_update(of=("self",)).get(pk=family.pk)
    content = content_of(sheet)
    content_hash = hash_of(content)
    same = SheetRevision.objects.filter(family=locked, content_hash=content_hash).order_by("from_file", "-number").first()
    return same or _append(locked, content, content_hash, from_file=True, reason=say("Brought by an imported job"), by_name=by_name)


def _append(family: AxleFamily, content: dict[str, Any], content_hash: str, **fields: Any) -> SheetRevision:
    last = SheetRevision.objects.filter(family=family).order_by("number").last()
    number = last.number + 1 if last else 1
    return SheetRevision.objects.create(family=family, number=number, content=content, content_hash=content_hash, **fields)


def newest_revision(family_id: int) -> SheetRevision | None:
    """The newest revision of a family in this shop's Stores."""
    return SheetRevision.objects.filter(family_id=family_id, from_file=False).order_by("number").last()


def revision_of(family: AxleFamily, number: int) -> SheetRevision:
    """A revision by its number.

    Raises
    ------
    Refusal
        When there is none.
    """
    found = SheetRevision.objects.filter(family=family, number=number).first()
    if found is None:
        raise Refusal(say("The Stores do not have this revision of the sheet."), code="not_found", field="revision")
    return found
