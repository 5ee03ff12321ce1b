"""A spec sheet as a piece of work is judged by it: one immutable revision of a family's facts, limits and ratios."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any, Literal

from django.db import transaction

from amber_core.words import say
from records.writing import Writing, hash_of
from shared.refusals import Refusal
from stores.models import (
    UNITS,
    AxleFamily,
    CarrierMethod,
    PreloadMethod,
    Quantity,
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
class SheetRatio:
    """A pair of tooth counts the family is made with."""

    pinion_teeth: int
    ring_teeth: int
    needs_carrier: bool
    needs_thick_ring: bool


@dataclass(frozen=True)
class Sheet:
    """How an axle is built, its limits and its ratios; lengths in mm."""

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

    def limit(self, quantity: str) -> SheetLimit | None:
        """The line of that quantity."""
        return next((one for one in self.limits if one.quantity == quantity), None)

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

_FACTS = tuple(name for name in Sheet.__dataclass_fields__ if name not in ("limits", "ratios"))


def sheet_of(family: AxleFamily) -> Sheet:
    """The sheet as the Stores have it now."""
    return Sheet(
        **{name: getattr(family, name) for name in _FACTS},
        limits=tuple(
            SheetLimit(one.quantity, one.least, one.greatest, one.source_note)
            for one in sorted(family.limits.all(), key=lambda one: one.quantity)
        ),
        ratios=tuple(
            SheetRatio(one.pinion_teeth, one.ring_teeth, one.needs_carrier, one.needs_thick_ring)
            for one in sorted(family.ratios.all(), key=lambda one: (one.pinion_teeth, one.ring_teeth))
        ),
    )


def content_of(sheet: Sheet) -> dict[str, Any]:
    """A sheet in plain JSON types."""
    plain = asdict(sheet)
    if not plain["shafts"]:
        del plain["shafts"]  # a sheet that does not say is the sheet that it was before sheets could
    return {**plain, "limits": list(plain["limits"]), "ratios": list(plain["ratios"])}


@lru_cache(maxsize=256)
def _read(revision_id: int, content_hash: str, kept: _Kept) -> Sheet:
    return sheet_in(kept.revision.content)


_SINCE: dict[str, Any] = {"backlash_places": 8, "bearing_offset_mm": None, "shafts": ""}
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
    """A sheet out of plain JSON types."""
    facts: dict[str, Any] = {name: plain.get(name, _SINCE.get(name)) for name in _FACTS}
    return Sheet(
        **facts,
        limits=tuple(SheetLimit(**one) for one in plain["limits"]),
        ratios=tuple(SheetRatio(**one) for one in plain["ratios"]),
    )


def sheet_at(revision: SheetRevision) -> Sheet:
    """The sheet of a revision; it never changes, so it is read once."""
    return _read(revision.pk, revision.content_hash, _Kept(revision))


@transaction.atomic
def current_revision(family: AxleFamily, writing: Writing | None = None, reason: str = "") -> SheetRevision:
    """The revision that says what the Stores say now; a new one when they have changed since the last."""
    locked = AxleFamily.objects.select_for_update(of=("self",)).prefetch_related("limits", "ratios").get(pk=family.pk)
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
