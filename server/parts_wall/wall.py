"""The state of a wall, read out of its records: what is off, what was found, what has to be got, what is on again."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.http import Http404

from amber_core.parts.assembly import Assembly, assembly_of, part_of
from amber_core.parts.build import Build
from amber_core.parts.catalogue import Part as CataloguePart
from amber_core.parts.sets import counted_of, off_of
from amber_core.words import Said, say
from jobs.models import Job
from parts_wall.models import (
    Act,
    NeedState,
    PartNeed,
    PartPhoto,
    PartRecord,
    PhoneQueue,
    QuoteAnswer,
    QuoteLink,
    QuoteLinkEnd,
    WallBuild,
)
from shared.gathering import Gathering, Part, rows_of
from stores.models import SheetRevision
from stores.sheets import Sheet, SheetFastener
from vehicles.models import Assembly as VehicleAssembly
from vehicles.models import Place, Vehicle
from work.models import Work
from work.present import value_of

OWN = "own_"
"""Before the key of a part that somebody typed."""

_UNIT_OF = {"third_member": "third", "transfer_output": "tc", "speedometer": "tc"}
_CARRIER_OF = {"side_shims": "outb", "cover_shims": "cov", "adjusters": "adj"}
_DEPTH_OF = {"under_head": "head", "behind_cup": "cup", "under_cartridge_flange": "cart"}
_PRELOAD_OF = {"crush_sleeve": "crush", "spacer": "spacer", "outer_shims": "oshim"}
_ENDS_OF = {"clip": "clip", "retainer": "ret", "full_float": "float", "half_shafts": "half"}
_DIFFERENTIAL_OF = {"clutch_packs": "pack"}


def guessed_build(work: Work) -> Build:
    """How the assembly is likely to be built: what its sheet says, and what the kind of work needs."""
    place, sheet = Place(work.assembly.place), work.sheet
    if place == Place.TRANSFER or work.kind == "speedometer":
        return Build(unit="tc")
    if place not in (Place.FRONT_AXLE, Place.REAR_AXLE):
        return Build(unit="prop")
    if work.sheet_revision_id is None:
        return Build(unit=_UNIT_OF.get(work.kind, "beam"), ends="float" if work.kind == "third_member" else "clip")  # type: ignore[arg-type]
    return _from_sheet(work, sheet)


def _from_sheet(work: Work, sheet: Sheet) -> Build:
    ends: Any = _ENDS_OF.get(sheet.shafts, "half" if sheet.carrier_method == "cover_shims" else "clip")
    carrier: Any = _CARRIER_OF[sheet.carrier_method]
    depth: Any = _DEPTH_OF[sheet.shim_place]
    unit: Any = _UNIT_OF.get(work.kind, "sides" if carrier == "cov" else "beam")
    if unit == "sides":
        ends, depth = "half", "cup" if depth == "cart" else depth
    if unit == "third" and ends == "clip":
        ends = "float"
    if unit != "sides" and carrier == "cov":
        carrier = "outb"
    return Build(
        unit=unit,
        carrier=carrier,
        preload=_PRELOAD_OF[sheet.preload_method],  # type: ignore[arg-type]
        depth=depth,
        ends=ends,
        differential=_DIFFERENTIAL_OF.get(work.kind, "open"),  # type: ignore[arg-type]
        sensors=sheet.has_speed_ring,
    )


@dataclass
class PartState:
    """One part as it stands now."""

    key: str
    name: Said
    off: PartRecord | None = None
    back: PartRecord | None = None
    look: PartRecord | None = None
    pieces: PartRecord | None = None
    order: int | None = None
    photos: list[PartPhoto] = field(default_factory=list)

    @property
    def is_off(self) -> bool:
        """Whether it lies on the wall now."""
        return self.off is not None and self.back is None

    @property
    def missing(self) -> int:
        """Pieces that are not found and not given up."""
        return self.pieces.missing or 0 if self.pieces is not None and not self.pieces.given_up else 0


class Wall:
    """The wall of a piece of work; reads nothing that was not brought.

    Parts belong to the assembly: pieces of work of one job on the same assembly have one wall, each record staying with the work that it
    was made under. `works` are all of them; `before` is what was last said of the build on an earlier visit of the vehicle.
    """

    def __init__(self, work: Work, works: list[Work], before: WallBuild | None) -> None:
        self.work, self.works, self._before = work, works, before

    def rows(self, name: str) -> list[Any]:
        """What all of them have in a related list."""
        return [row for work in self.works for row in rows_of(work, name)]

    def after(self, record: PartRecord) -> Wall:
        """The wall with a record that was just stored on its work."""
        rows_of(self.work, "part_records").append(record)
        return Wall(self.work, self.works, self._before)

    @cached_property
    def told(self) -> WallBuild | None:
        """What somebody said of the build; None while it is guessed."""
        return max(self.rows("wall_builds"), key=lambda row: row.pk, default=None)

    @cached_property
    def taken_over(self) -> WallBuild | None:
        """What was said on an earlier visit, as long as nobody has said anything on this one; None for work on another kind of assembly."""
        if self.told is not None or self._before is None:
            return None
        return self._before if Build(**self._before.facts).unit == guessed_build(self.work).unit else None

    @cached_property
    def build(self) -> Build:
        """How the assembly is built."""
        if self.told is not None:
            return Build(**self.told.facts)
        guessed = guessed_build(self.work)
        if self.taken_over is None:
            return guessed
        before = Build(**self.taken_over.facts)
        return replace(before, differential=guessed.differential) if self.work.kind in _DIFFERENTIAL_OF else before

    @cached_property
    def assembly(self) -> Assembly:
        """The graph of its parts."""
        return assembly_of(self.build)

    @cached_property
    def planned(self) -> list[str]:
        """What comes off in this work, in an order that works."""
        return off_of(self.work.kind, self.assembly, self.told.asked if self.told else ())

    @cached_property
    def counted(self) -> set[str]:
        """What is counted when it comes off."""
        return counted_of(self.work.kind, self.assembly)

    @cached_property
    def records(self) -> list[PartRecord]:
        """What holds: in order, without what was undone."""
        rows: list[PartRecord] = sorted(self.rows("part_records"), key=lambda row: row.pk)
        undone = {row.undoes_id for row in rows if row.act == Act.UNDO}
        return [row for row in rows if row.act != Act.UNDO and row.pk not in undone]

    @cached_property
    def states(self) -> dict[str, PartState]:
        """Every part that something happened to, by its key."""
        found: dict[str, PartState] = {}
        for row in self.records:
            if row.key not in found:
                found[row.key] = PartState(key=row.key, name=self.name_of(row.key, row.name))
            elif row.act == Act.OFF:
                found[row.key].name = self.name_of(row.key, row.name)
            state = found[row.key]
            if row.act == Act.OFF:
                if not state.is_off:
                    state.order = row.pk
                state.off, state.back = row, None
            elif row.act in (Act.BACK, Act.STAYS_OUT):
                state.back = row
            elif row.act == Act.LOOK:
                state.look = row
            else:
                state.pieces = row
        for photo in self.pictures:
            if photo.key not in found:
                found[photo.key] = PartState(key=photo.key, name=self.name_of(photo.key))
            found[photo.key].photos.append(photo)
        return found

    @cached_property
    def pictures(self) -> list[PartPhoto]:
        """The pictures that were not taken back."""
        gone = {row.photo for row in self.rows("part_records") if row.act == Act.UNDO}
        return [photo for photo in self.rows("part_photos") if photo.client_id not in gone]

    @cached_property
    def photo_ids(self) -> set[UUID]:
        """The same by their ids."""
        return {photo.client_id for photo in self.pictures}

    @property
    def in_order(self) -> list[PartState]:
        """What lies on the wall, in the order that it came off."""
        return sorted((one for one in self.states.values() if one.is_off), key=lambda one: one.order or 0)

    def name_of(self, key: str, typed: str = "") -> Said:
        """A part in words."""
        if typed:
            return Said.of(typed)
        if key in self.assembly.places:
            return self.assembly.named(key)
        part = part_of(key)
        if part is not None:
            return part.name
        first = next((row.name for row in self.rows("part_records") if row.key == key and row.name), "")
        return Said.of(first) if first else say("part in the picture")

    @cached_property
    def needs(self) -> list[PartNeed]:
        """The parts list: the latest row of each line, in the order that the lines were begun."""
        latest: dict[UUID, PartNeed] = {}
        for row in sorted(self.rows("part_needs"), key=lambda one: one.pk):
            latest[row.line] = row
        return [row for row in latest.values() if row.state != NeedState.DROPPED]

    @property
    def used(self) -> bool:
        """Whether anything was ever put on the wall."""
        return bool(self.records)

    def _fastener(self, part: CataloguePart) -> SheetFastener | None:
        """How the sheet says that bolts or nuts of this part are tightened."""
        place = FASTENER_OF.get(part.code)
        return self.work.sheet.fastener(place) if place else None

    def one_time(self, key: str) -> str:
        """Whether it goes on only new: always, if_disturbed, or empty; the sheet's word counts for bolts that it knows."""
        part = part_of(key)
        if part is None:
            return ""
        fastener = self._fastener(part)
        return "always" if fastener is not None and fastener.one_time_use else part.one_time

    def count_of(self, key: str) -> int | None:
        """How many there are at a place: the table's count, else the sheet's."""
        part = part_of(key)
        if part is None or part.count is not None:
            return part.count if part else None
        fastener = self._fastener(part)
        return fastener.count if fastener else None

    def inside(self, closing: str) -> list[PartState]:
        """What still lies on the wall and has to be in before `closing` goes on."""
        off = {one.key for one in self.in_order}
        waiting: set[str] = set()
        todo = [closing]
        before = self.assembly.back_before(off | {closing})
        while todo:
            for key in before.get(todo.pop(), ()):
                if key not in waiting:
                    waiting.add(key)
                    todo.append(key)
        return [one for one in self.in_order if one.key in waiting and one.key != closing]

    @property
    def pieces_missing(self) -> list[PartState]:
        """Parts of which pieces are missing, neither found nor given up."""
        return [one for one in self.states.values() if one.missing]


FASTENER_OF = {
    "wheelnut": "wheel_nuts",
    "ringbolt": "ring_bolts",
    "capbolt": "cap_bolts",
    "covbolt": "cover_bolts",
    "tmnut": "unit_nuts",
    "pnut": "pinion_nut",
    "pinbolt": "pin_bolt",
    "retnut": "retainer_nuts",
    "dfbolt": "drive_flange_nuts",
    "dfnut": "drive_flange_nuts",
    "hubnut": "hub_nuts",
    "tnut": "output_nut",
    "rbolt": "propshaft_bolts",
    "fbolt": "propshaft_bolts",
    "f2bolt": "propshaft_bolts",
    "cbolt": "centre_bearing_bolts",
}
"""Where a sheet says how bolts and nuts of the table are tightened."""


def _together(work: UUID, under: str = "") -> dict[str, Any]:
    """Rows of all works that share the wall of one; `under` leads to the work."""
    return {f"{under}job": value_of("job", work), f"{under}assembly": value_of("assembly", work)}


def _said_before(work: UUID) -> QuerySet[WallBuild]:
    """The last that was said of the same assembly on another visit, before this work was booked."""
    same = WallBuild.objects.filter(work__assembly=value_of("assembly", work), at__lt=value_of("created_at", work))
    return same.exclude(work__job=value_of("job", work)).order_by("-at", "-pk")[:1]


_OF_WALL = Gathering(
    job=Part(lambda work: Job.objects.filter(pk=value_of("job", work)).order_by()),
    vehicle=Part(lambda work: Vehicle.objects.filter(pk=value_of("job__vehicle", work)).order_by()),
    works=Part(lambda work: Work.objects.filter(**_together(work))),
    assemblies=Part(lambda work: VehicleAssembly.objects.filter(pk=value_of("assembly", work)).order_by()),
    sheet_revision=Part(lambda work: SheetRevision.objects.filter(pk=value_of("sheet_revision", work)).order_by().defer("content")),
    wall_builds=Part(lambda work: WallBuild.objects.filter(**_together(work, "work__")), of="work"),
    before=Part(_said_before),
    part_records=Part(lambda work: PartRecord.objects.filter(**_together(work, "work__")), of="work"),
    part_photos=Part(lambda work: PartPhoto.objects.filter(**_together(work, "work__")).defer("content", "small"), of="work"),
    part_needs=Part(lambda work: PartNeed.objects.filter(**_together(work, "work__")), of="work"),
    phone_queues=Part(lambda work: PhoneQueue.objects.filter(**_together(work, "work__")), of="work"),
    quote_links=Part(lambda work: QuoteLink.objects.filter(**_together(work, "work__")).defer("token_hash"), of="work"),
    quote_ends=Part(lambda work: QuoteLinkEnd.objects.filter(**_together(work, "link__work__")), of="link"),
    quote_answers=Part(lambda work: QuoteAnswer.objects.filter(**_together(work, "link__work__")), of="link"),
)
"""What a wall shows."""


def find_wall(work_id: UUID) -> Wall:
    """The wall of a piece of work, in one query.

    Raises
    ------
    Http404
        When there is no such work.
    """
    read = _OF_WALL.read(work_id)
    works = read["works"]
    found = next((one for one in works if one.pk == work_id), None)
    if found is None:
        raise Http404
    return Wall(found, works, next(iter(read["before"]), None))
