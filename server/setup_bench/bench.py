"""A piece of work's bench: its rows as the core's state, and every verdict on it worked out once."""

from __future__ import annotations

from functools import cached_property
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.http import Http404

from amber_core.bench.judge import BenchVerdicts, TrialVerdicts, judge_bench
from amber_core.bench.state import BenchLimits, BenchState, BenchTrial, Torque, housing, places_deg
from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.gearset.description import GearSetDescription
from amber_core.preload.carrier import Window
from amber_core.setup.question import Adjust, AsFound, FoundPatch, SetupQuestion, SetupStock, SetupTrial, TrialPatch
from amber_core.shims.stock import Shims
from jobs.models import Job
from setup_bench.models import (
    Basis,
    BenchFinding,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    Reading,
    SleeveStep,
    SpacerTry,
    StrikeOut,
    TorqueReading,
    Trial,
)
from setup_bench.stacks import as_shims, stored, total_mm
from shared.gathering import Gathering, Part, rows_of
from stores.models import AxleFamily, DrawerPlace, Quantity, SheetRevision, ShimRow
from stores.sheets import Sheet
from vehicles.models import Assembly, AxleEnd, Vehicle
from work.gears import described
from work.models import GearSetRecord, ProcedureRevision, StepRecord, WayChoice, Work
from work.run_sheet import RunSheet

RESOLUTION_MM = 0.01
"""Of a dial that nobody has said anything of."""


def _of_work(name: str, work: UUID) -> QuerySet[Work, dict[str, Any]]:
    """One value of a piece of work, as a question within a question: the planner is quicker with it than with a join."""
    found: QuerySet[Work, dict[str, Any]] = Work.objects.filter(pk=work).order_by().values(name)
    return found[:1]


_ON_A_BENCH = Gathering(
    job=Part(lambda work: Job.objects.filter(pk=_of_work("job", work)).order_by()),
    vehicle=Part(lambda work: Vehicle.objects.filter(pk=_of_work("job__vehicle", work)).order_by()),
    works=Part(lambda work: Work.objects.filter(job=_of_work("job", work)), of="job"),
    assemblies=Part(lambda work: Assembly.objects.filter(works__job=_of_work("job", work)).order_by()),
    sheet_revision=Part(lambda work: SheetRevision.objects.filter(pk=_of_work("sheet_revision", work)).order_by().defer("content")),
    procedure=Part(lambda work: ProcedureRevision.objects.filter(pk=_of_work("procedure", work)).order_by().defer("content")),
    family=Part(lambda work: AxleFamily.objects.filter(pk=_of_work("sheet_revision__family", work)).order_by()),
    shims=Part(
        lambda work: ShimRow.objects.filter(family=_of_work("sheet_revision__family", work), shop=_of_work("job__shop", work)), of="family"
    ),
    finding=Part(lambda work: BenchFinding.objects.filter(work=work), of="work"),
    step_records=Part(lambda work: StepRecord.objects.filter(work=work), of="work"),
    way_choices=Part(lambda work: WayChoice.objects.filter(work=work), of="work"),
    gear_sets=Part(lambda work: GearSetRecord.objects.filter(work=work).defer("question", "answer"), of="work"),
    bases=Part(lambda work: Basis.objects.filter(work=work), of="work"),
    sleeve_steps=Part(lambda work: SleeveStep.objects.filter(work=work), of="work"),
    spacer_tries=Part(lambda work: SpacerTry.objects.filter(work=work), of="work"),
    instrument_checks=Part(lambda work: InstrumentCheck.objects.filter(work=work), of="work"),
    trials=Part(lambda work: Trial.objects.filter(work=work), of="work"),
    conditions=Part(lambda work: ConditionCheck.objects.filter(trial__work=work), of="trial"),
    readings=Part(lambda work: Reading.objects.filter(trial__work=work), of="trial"),
    strike_outs=Part(lambda work: StrikeOut.objects.filter(reading__trial__work=work), of="reading"),
    patterns=Part(lambda work: PatternReading.objects.filter(trial__work=work), of="trial"),
    photos=Part(lambda work: PatternPhoto.objects.filter(trial__work=work).defer("content")),
    torques=Part(lambda work: TorqueReading.objects.filter(trial__work=work), of="trial"),
    depths=Part(lambda work: DepthReading.objects.filter(trial__work=work), of="trial"),
)


def bench_of(work_id: UUID) -> Bench:
    """A piece of work's bench with all that it shows, in one query.

    Raises
    ------
    Http404
        When there is none.
    """
    return bench_made_of(work_id, rows_of_bench(work_id))


def rows_of_bench(work_id: UUID) -> tuple[str | None, ...]:
    """All that a bench shows, as it stands in the database; sheets and procedures never change, so only their keys are in it."""
    return _ON_A_BENCH.asked(work_id)


def bench_made_of(work_id: UUID, rows: tuple[str | None, ...]) -> Bench:
    """The bench that these rows make.

    Raises
    ------
    Http404
        When there is none.
    """
    found = next((one for one in _ON_A_BENCH.made_of(rows)["works"] if one.pk == work_id), None)
    if found is None or not found.on_bench:
        raise Http404
    return Bench(found)


class Bench:
    """Everything of a piece of work's bench, read when it is first asked for and judged once."""

    def __init__(self, work: Work) -> None:
        self.work = work

    @property
    def sheet(self) -> Sheet:
        """The sheet that the work is judged by."""
        return self.work.sheet

    @cached_property
    def trials(self) -> list[Trial]:
        """All trials in order, with all that was read."""
        read = "trials" in getattr(self.work, "_prefetched_objects_cache", {})
        return list(self.work.trials.all() if read else self.work.trials.with_readings())

    @cached_property
    def bases(self) -> list[Basis]:
        return list(self.work.bases.all())

    @cached_property
    def sleeve_steps(self) -> list[SleeveStep]:
        return list(self.work.sleeve_steps.all())

    @cached_property
    def instrument(self) -> InstrumentCheck | None:
        """The last check of the dial."""
        return max(rows_of(self.work, "instrument_checks"), key=lambda one: one.pk, default=None)

    @cached_property
    def drawers(self) -> dict[str, list[Shims]]:
        """What lies in the drawers of the family, by kind of shim; a kind without a row is not there."""
        found: dict[str, list[Shims]] = {}
        assert self.work.sheet_revision is not None  # no bench without a family
        for row in self.work.sheet_revision.family.shims.all():
            held = found.setdefault(row.place, [])
            if row.count:
                held.append(Shims(thickness_mm=float(row.thickness_mm), count=row.count))
        return found

    @cached_property
    def run_sheet(self) -> RunSheet:
        return RunSheet(self.work)

    @property
    def basis(self) -> Basis | None:
        """The basis that counts; None while the set-up's start is only assumed."""
        return self.bases[-1] if self.bases else None

    @property
    def set_state(self) -> str:
        """New, until somebody says otherwise."""
        return self.basis.set_state if self.basis else "new"

    @property
    def drive_flank(self) -> str:
        """As told, or what is usual: the outward-curved flank at the rear and the hollow one at the front."""
        if self.basis is not None:
            return self.basis.drive_flank
        return "concave" if self.work.axle == AxleEnd.FRONT else "convex"

    @property
    def as_found(self) -> AsFound | None:
        """What a used set was found with."""
        one = self.basis
        if one is None or one.set_state != "used":
            return None
        drive, coast = _found(one.found_drive_u, one.found_drive_v), _found(one.found_coast_u, one.found_coast_v)
        return AsFound(backlash_mm=one.found_backlash_mm, drive=drive, coast=coast)

    @property
    def places_deg(self) -> list[float]:
        """Where backlash is read: in as many places as were chosen for this work, else as the sheet says."""
        chosen = self.basis.places if self.basis is not None else None
        return places_deg(chosen or self.sheet.backlash_places)

    @property
    def resolution_mm(self) -> float:
        """The step of the dial in use, [mm]."""
        return self.instrument.resolution_mm if self.instrument is not None else RESOLUTION_MM

    @cached_property
    def _described(self) -> tuple[GearSetDescription | None, str]:
        record = self.run_sheet.gear_set
        if record is None:
            return None, ""
        try:
            return described(self.sheet, record.pinion_teeth, record.ring_teeth, self.drive_flank), ""
        except InvalidInput as wrong:
            return None, wrong.message

    @property
    def known_set(self) -> GearSetDescription | None:
        """The gear set as the model wants it; None until it is identified, or when what was identified makes no gears."""
        return None if self.set_wrong else self._described[0]

    @property
    def set_wrong(self) -> str:
        """Why the gear set that is on the record makes no gears; empty when it does, or none is known."""
        return self._described[1] or self.verdicts.set_wrong

    @cached_property
    def state(self) -> BenchState:
        """The bench as the core wants it."""
        sheet = self.sheet
        return BenchState(
            adjust=adjust_of(sheet),
            limits=limits_of(sheet),
            set=self._described[0],
            set_state=self.set_state,  # type: ignore[arg-type]
            as_found=self.as_found,
            trials=[trial_state(trial) for trial in self.trials],
            stock=self._stock(self.trials[-1]) if self.trials else None,
            resolution_mm=self.resolution_mm,
        )

    @cached_property
    def verdicts(self) -> BenchVerdicts:
        """Every verdict on this bench."""
        return judge_bench(self.state)

    @property
    def question(self) -> SetupQuestion | None:
        """What the advisor is asked; None while something is missing."""
        return self.verdicts.question

    def verdict_on(self, trial: Trial) -> TrialVerdicts:
        """The verdicts on one of its trials."""
        return self.verdicts.trials[self.trials.index(trial)]

    def _stock(self, trial: Trial) -> SetupStock:
        """What may be used: the drawer and what is in the housing. A drawer without a row says nothing, so any shim is thought of."""
        side = None
        if self.sheet.carrier_method != "adjusters":
            side = self.free_shims(DrawerPlace.SIDE, trial.ring_side_pieces, trial.far_side_pieces)
        depth = self.free_shims(DrawerPlace.DEPTH, trial.depth_pieces) if self.has_drawer(DrawerPlace.DEPTH) else None
        return SetupStock(depth=depth, side=side)

    def has_drawer(self, place: DrawerPlace) -> bool:
        """Whether the Stores list any shim of this kind for the family."""
        return place in self.drawers

    def free_shims(self, place: DrawerPlace, *in_housing: list[list[float]] | None) -> list[Shims]:
        """All that may be used: the drawer, and what is in the housing now."""
        return self.drawers.get(place, []) + [shim for pieces in in_housing for shim in as_shims(stored(pieces))]

    def housing_of(self, trial: Trial, before: list[Trial]) -> SetupTrial:
        """What a trial that follows `before` puts into the housing, with the bearings of the last of them."""
        found = BenchState(adjust=self.state.adjust, limits=self.state.limits, trials=[trial_state(one) for one in [*before, trial]])
        bearings = before[-1].bearings if before else None
        return housing(found.trials[-1], found.depth_shims_mm(bearings=bearings)[-1])  # type: ignore[arg-type]


def _found(u: float | None, v: float | None) -> FoundPatch | None:
    return None if u is None or v is None else FoundPatch(u=u, v=v)


def adjust_of(sheet: Sheet) -> Adjust:
    """How an axle of this sheet is adjusted."""
    return Adjust(shim_place=sheet.shim_place, carrier=sheet.carrier_method, notch_mm=sheet.notch_mm)


def limits_of(sheet: Sheet) -> BenchLimits:
    """The sheet's limits as the core wants them."""
    return BenchLimits(
        backlash=_window(sheet, Quantity.BACKLASH) or Window(),
        variation_max_mm=one.greatest if (one := sheet.limit(Quantity.VARIATION)) else None,
        pinion_new=_window(sheet, Quantity.PINION_TORQUE),
        pinion_used=_window(sheet, Quantity.PINION_TORQUE_USED),
        total=_window(sheet, Quantity.TOTAL_TORQUE),
        window_seal=sheet.torque_window_seal,
    )


def _window(sheet: Sheet, quantity: str) -> Window | None:
    one = sheet.limit(quantity)
    return None if one is None else Window(min=one.least, max=one.greatest)


def live(trial: Trial) -> list[Reading]:
    """Readings that are not struck out, oldest first."""
    return [reading for reading in rows_of(trial, "readings") if not hasattr(reading, "strike_out")]


def counts(trial: Trial) -> bool:
    """Whether the readings of a trial count: its conditions were confirmed, or nobody asked yet when it was made."""
    return not trial.conditions_asked or hasattr(trial, "conditions")


def patterns_of(trial: Trial, flank: str) -> list[PatternReading]:
    """The readings of a flank that count, oldest first."""
    rows = sorted((one for one in rows_of(trial, "patterns") if one.flank == flank), key=lambda one: one.pk)
    gone = {one.replaces_id for one in rows}
    return [one for one in rows if one.pk not in gone]


def latest_torque(trial: Trial, what: str) -> TorqueReading | None:
    """The torque reading of a kind that counts."""
    return max((one for one in rows_of(trial, "torques") if one.what == what), key=lambda one: one.pk, default=None)


def depth_shim_mm(trial: Trial) -> float | None:
    """The depth shim of a trial, [mm]; None when it was not said."""
    return None if trial.depth_pieces is None else total_mm(stored(trial.depth_pieces))


def trial_state(trial: Trial) -> BenchTrial:
    """A trial's row with what was read in it, as the core wants it."""
    shims = trial.ring_side_notches is None
    read = trial.pk is not None  # one that is not stored yet has nothing in it
    depth = max(rows_of(trial, "depths"), key=lambda one: one.pk, default=None) if read else None
    return BenchTrial(
        ring_side_mm=total_mm(stored(trial.ring_side_pieces)) if shims else None,
        far_side_mm=total_mm(stored(trial.far_side_pieces)) if shims else None,
        ring_side_notches=trial.ring_side_notches,
        far_side_notches=trial.far_side_notches,
        depth_shim_mm=depth_shim_mm(trial),
        bearings=trial.bearings,  # type: ignore[arg-type]
        bearing_offset_mm=trial.bearing_offset_mm,
        is_final=trial.is_final,
        confirmed=counts(trial) if read else True,
        readings=[CircleReading(angle_deg=one.angle_deg, value_mm=one.value_mm) for one in live(trial)] if read else [],
        drive=[_patch(one) for one in patterns_of(trial, "drive")] if read else [],
        coast=[_patch(one) for one in patterns_of(trial, "coast")] if read else [],
        pinion_torque=_torque(latest_torque(trial, "pinion")) if read else None,
        total_torque=_torque(latest_torque(trial, "total")) if read else None,
        depth_error_mm=depth.error_mm if depth else None,
        read_twice=_read_twice(trial) if read else False,
    )


def _read_twice(trial: Trial) -> bool:
    """Whether a position of the ring was measured a second time in this trial."""
    measured = [one.angle_deg for one in rows_of(trial, "readings")]
    return len(measured) > len(set(measured))


def _patch(read: PatternReading) -> TrialPatch:
    return TrialPatch(u=read.u, v=read.v, runs_off=read.runs_off, by=read.by_name, how="photo" if read.photo_id else "eye")


def _torque(read: TorqueReading | None) -> Torque | None:
    if read is None:
        return None
    return Torque(value_nm=read.value_nm, bearings=read.bearings, seal=read.seal, seal_drag_nm=read.seal_drag_nm)  # type: ignore[arg-type]
