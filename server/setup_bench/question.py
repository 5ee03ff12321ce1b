"""A job's set-up as the core asks for it: set, adjustment, window, drawers, and every trial whose readings count."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt
from typing import Literal
from uuid import UUID

from django.http import Http404

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.question import (
    MOST_TRIALS,
    Adjust,
    AsFound,
    FoundPatch,
    SetupQuestion,
    SetupStock,
    SetupTrial,
    SetupWindow,
    TrialBacklash,
    TrialDepth,
    TrialPatch,
    goal_window,
)
from amber_core.shims.stock import Shims
from jobs.models import AxleEnd, Job
from jobs.run_sheet import RunSheet
from setup_bench.estimate import RESOLUTION_MM, Window, assess, window_of
from setup_bench.models import WITH_TRIAL, Basis, PatternReading, Trial, TrialBearings
from setup_bench.stacks import as_shims, stored, total_mm
from stores.models import AxleFamily, CarrierMethod, DrawerPlace

DEPTH_SD_MM = 0.03


def bench_job(job_id: UUID) -> Job:
    """The job with all that the bench shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    job = (
        Job.objects.select_related("family")
        .prefetch_related("family__limits", "family__shims", "gear_sets", "step_records", "bases", "sleeve_steps")
        .prefetch_related("spacer_tries", "instrument_checks", "trials__readings__strike_out", *(f"trials__{one}" for one in WITH_TRIAL))
        .filter(pk=job_id)
        .first()
    )
    if job is None:
        raise Http404
    return job


@dataclass(frozen=True)
class Start:
    """What the set-up starts from; `asked` is false while it is only assumed."""

    set_state: Literal["new", "used"]
    drive_flank: Literal["convex", "concave"]
    as_found: AsFound | None
    ring_on: str
    asked: bool


def start_of(job: Job) -> Start:
    """The latest basis, or what is usual: a new set, driven on the outward-curved flank at the rear and the hollow one at the front."""
    basis: Basis | None = max(job.bases.all(), key=lambda one: one.pk, default=None)
    if basis is None:
        return Start("new", "concave" if job.axle == AxleEnd.FRONT else "convex", None, "", asked=False)
    drive = _found(basis.found_drive_u, basis.found_drive_v)
    coast = _found(basis.found_coast_u, basis.found_coast_v)
    found = AsFound(backlash_mm=basis.found_backlash_mm, drive=drive, coast=coast) if basis.set_state == "used" else None
    return Start(basis.set_state, basis.drive_flank, found, basis.ring_on, asked=True)  # type: ignore[arg-type]


def _found(u: float | None, v: float | None) -> FoundPatch | None:
    return None if u is None or v is None else FoundPatch(u=u, v=v)


def set_of(job: Job) -> GearSetDescription | None:
    """The gear set on the bench as the model wants it; None until it is identified."""
    gear_set = RunSheet(job).gear_set
    if gear_set is None:
        return None
    family = job.family
    return GearSetDescription(
        ring_teeth=gear_set.ring_teeth,
        pinion_teeth=gear_set.pinion_teeth,
        ring_outer_diameter_mm=family.ring_outer_diameter_mm,
        offset_mm=family.offset_mm,
        tooth_form="uniform" if family.tooth_form == "uniform" else "tapered",
        drive_flank=start_of(job).drive_flank,
    )


def aim_of(job: Job) -> Window:
    """What backlash is held against on this job: the sheet's window, or about what a used set was found with."""
    sheet, start = window_of(job.family), start_of(job)
    if start.as_found is None or sheet.min_mm is None or sheet.max_mm is None:
        return sheet
    goal = goal_window(SetupWindow(backlash_min_mm=sheet.min_mm, backlash_max_mm=sheet.max_mm), start.as_found)
    return Window(min_mm=goal.backlash_min_mm, max_mm=goal.backlash_max_mm, max_variation_mm=sheet.max_variation_mm)


def counts(trial: Trial) -> bool:
    """Whether the readings of a trial count: its conditions were confirmed, or nobody asked yet when it was made."""
    return not trial.conditions_asked or hasattr(trial, "conditions")


def latest_pattern(trial: Trial, flank: str) -> PatternReading | None:
    """The reading of a flank that counts."""
    return max((one for one in trial.patterns.all() if one.flank == flank), key=lambda one: one.pk, default=None)


def question_of(job: Job, trials: list[Trial]) -> SetupQuestion | None:
    """Everything the advisor needs; None while the set, the window or a trial is missing."""
    known, window = set_of(job), window_of(job.family)
    if known is None or not trials or window.min_mm is None or window.max_mm is None:
        return None
    start, family = start_of(job), job.family
    return SetupQuestion(
        set=known,
        adjust=Adjust(shim_place=family.shim_place, carrier=family.carrier_method, notch_mm=family.notch_mm),  # type: ignore[arg-type]
        window=SetupWindow(backlash_min_mm=window.min_mm, backlash_max_mm=window.max_mm, variation_max_mm=window.max_variation_mm),
        trials=[_trial(job, trial, shim) for trial, shim in zip(trials, depth_shims_mm(trials, family), strict=True)][-MOST_TRIALS:],
        stock=_stock(family, trials[-1]),
        set_state=start.set_state,
        as_found=start.as_found,
    )


def housing_of(trial: Trial, depth_shim_mm: float) -> SetupTrial:
    """What stands in the housing, without readings."""
    shims = trial.ring_side_notches is None
    return SetupTrial(
        depth_shim_mm=depth_shim_mm,
        ring_side_mm=total_mm(stored(trial.ring_side_pieces)) if shims else None,
        far_side_mm=total_mm(stored(trial.far_side_pieces)) if shims else None,
        ring_side_notches=trial.ring_side_notches,
        far_side_notches=trial.far_side_notches,
    )


def depth_shim_mm(trial: Trial) -> float | None:
    """The depth shim of a trial, [mm]; None when it was not said."""
    return None if trial.depth_pieces is None else total_mm(stored(trial.depth_pieces))


def depth_shims_mm(trials: list[Trial], family: AxleFamily, *, bearings: str | None = None) -> list[float]:
    """The depth shim of every trial as if all had the same bearings in, those of the last one unless said, [mm].

    One that was not said is that of the trial before, or of the first that was. Real bearings that stand higher than the
    set-up ones push the pinion deeper, as a thicker shim does under the head.
    """
    said = [depth_shim_mm(trial) for trial in trials]
    now = next((one for one in said if one is not None), 1.0)
    deeper = (family.bearing_offset_mm or 0.0) * (-1.0 if family.shim_place == "under_cartridge_flange" else 1.0)
    wanted = trials[-1].bearings if bearings is None else bearings
    found = []
    for trial, one in zip(trials, said, strict=True):
        now = now if one is None else one
        other = (trial.bearings == TrialBearings.FINAL) - (wanted == TrialBearings.FINAL)
        found.append(max(0.0, now + other * deeper))
    return found


def _trial(job: Job, trial: Trial, shim: float) -> SetupTrial:
    housing = housing_of(trial, shim)
    if not counts(trial):
        return housing
    verdict = assess(trial, window_of(job.family), None)
    backlash = None
    if verdict is not None:
        count = sum(not hasattr(one, "strike_out") for one in trial.readings.all())
        backlash = TrialBacklash(
            mean_mm=verdict.mean_mm, least_mm=verdict.least_mm, greatest_mm=verdict.greatest_mm, sd_mm=RESOLUTION_MM / sqrt(count)
        )
    depth = max(trial.depths.all(), key=lambda one: one.pk, default=None)
    return SetupTrial(
        **{
            name: getattr(housing, name)
            for name in ("depth_shim_mm", "ring_side_mm", "far_side_mm", "ring_side_notches", "far_side_notches")
        },
        backlash=backlash,
        drive=_patch(latest_pattern(trial, "drive")),
        coast=_patch(latest_pattern(trial, "coast")),
        depth_error_mm=TrialDepth(value=depth.error_mm, sd=DEPTH_SD_MM) if depth else None,
        read_twice=_read_twice(trial),
    )


def _read_twice(trial: Trial) -> bool:
    """Whether somebody read this trial a second time: a flank painted again, or a position of the ring measured again."""
    painted = [one.flank for one in trial.patterns.all()]
    measured = [one.angle_deg for one in trial.readings.all()]
    return len(painted) > len(set(painted)) or len(measured) > len(set(measured))


def _patch(read: PatternReading | None) -> TrialPatch | None:
    return None if read is None else TrialPatch(u=read.u, v=read.v, runs_off=read.runs_off)


def _stock(family: AxleFamily, trial: Trial) -> SetupStock:
    """What may be used: the drawer and what is in the housing. A drawer without a row says nothing, so any shim is thought of."""
    side = None
    if family.carrier_method != CarrierMethod.ADJUSTERS:
        side = free_shims(family, DrawerPlace.SIDE, trial.ring_side_pieces, trial.far_side_pieces)
    depth = free_shims(family, DrawerPlace.DEPTH, trial.depth_pieces)
    return SetupStock(depth=depth if has_drawer(family, DrawerPlace.DEPTH) else None, side=side)


def has_drawer(family: AxleFamily, place: DrawerPlace) -> bool:
    """Whether the Stores list any shim of this kind for the family."""
    return any(row.place == place for row in family.shims.all())


def free_shims(family: AxleFamily, place: DrawerPlace, *in_housing: list[list[float]] | None) -> list[Shims]:
    """All that may be used: the drawer, and what is in the housing now."""
    drawer = [
        Shims(thickness_mm=float(row.thickness_mm), count=row.count) for row in family.shims.all() if row.place == place and row.count
    ]
    return drawer + [shim for pieces in in_housing for shim in as_shims(stored(pieces))]
