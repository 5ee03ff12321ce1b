"""The jobs of the Skerrow Island workshop, each caught at another moment of its work."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from datetime import datetime, timedelta
from random import Random
from typing import Any

import numpy as np
from django.db import connection, transaction
from django.utils import timezone

import amber_core
from accounts import demo as people
from accounts.models import User
from amber_core.contact.contact_set import contact_set
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from amber_core.procedures.steps import Ask, Step
from amber_core.quantities import inside_per_unit
from amber_core.setup.question import SetupTrial
from amber_core.simulated.axle import HiddenAxle, Instruments, SimulatedAxle
from amber_core.tyres.designation import TyreText, parse_tyre
from amber_core.vibration.orders import Drivetrain
from build_sheet.documents import document_of, keep_document
from build_sheet.models import SignOff
from build_sheet.services import STATEMENT
from demo_world import bench_tools, drivelines, families, gearboxes, neighbours, other_work, stripped
from diff_bench.reading import Values
from jobs.models import AxleFact, Job, StationState
from jobs.services import CardGiven, say_station
from ratio_desk.schemas import RatioInputs
from ratio_desk.work import work_out
from records.writing import Writing
from setup_bench.bench import Bench, bench_of
from setup_bench.models import ConditionCheck, PatternReading, Reading, SleeveStep, StrikeOut, TorqueReading, Trial
from setup_bench.recording import conditions_of
from setup_bench.services import expected_of, note_verdicts
from setup_bench.stacks import Pieces
from stores.models import Gearbox
from stores.present import ratio_out
from vehicles.models import OdometerReading, Place
from vehicles.services import place_of
from work.as_left import as_left, plain
from work.models import RING_AND_PINION, Area, GearSetRecord, KeptAnswer, Outcome, StepReading, StepRecord, WayChoice, Work
from work.run_sheet import RunSheet
from work.services import WorkGiven, add_work, book_job, forget, refresh

FIRST_NUMBER = 417

FIGURES = {
    "as_found.oil": ("1.5 l", 1.5),
    "as_found.backlash": ("0.24 mm", 0.24),
    "as_found.total_torque": ("1.9 Nm", 1.9),
    "as_found.nut_thread_exposed": ("6.2 mm", 6.2),
    "as_found.insertion_gap_left": ("3.0 mm", 3.0),
    "as_found.insertion_gap_right": ("3.2 mm", 3.2),
    "insertion_gap_left": ("3.1 mm", 3.1),
    "insertion_gap_right": ("3.1 mm", 3.1),
    "as_found.rotating_torque": ("1.4 Nm", 1.4),
    "as_found.nut_clock": ("40 °", 40.0),
    "nut_thread_exposed": ("6.1 mm", 6.1),
    "as_found.end_play": ("0.4 mm", 0.4),
    "end_play": ("0.05 mm", 0.05),
    "needles_due": ("26", 26.0),
    "needles": ("26", 26.0),
    "rollers_due": ("24", 24.0),
    "rollers": ("24", 24.0),
    "ratchets": ("4", 4.0),
    "as_found.breakaway": ("48 Nm", 48.0),
    "breakaway": ("96 Nm", 96.0),
    "stack_left": ("16.8 mm", 16.8),
    "stack_right": ("16.82 mm", 16.82),
    "shaft_length": ("1312 mm", 1312.0),
    "as_found.ride_height": ("412 mm", 412.0),
    "shown_low": ("40 km/h", 40.0),
    "true_low": ("43.1 km/h", 43.1),
    "shown_high": ("90 km/h", 90.0),
    "true_high": ("96.6 km/h", 96.6),
    "case_spread": ("0.28 mm", 0.28),
    "flange_runout": ("0.02 mm", 0.02),
    "rotating_torque": ("2.1 Nm", 2.1),
    "oil": ("1.6 l", 1.6),
    "odometer": ("81240 km", 81240.0),
}
"""What the demo's steps read, by the names of their asks; all in the inside units."""
_USUAL = {"length": ("0.12 mm", 0.12), "torque": ("2.1 Nm", 2.1), "volume": ("1.6 l", 1.6), "number": ("1", 1.0)}


def figure_of(ask: Ask) -> tuple[str, float]:
    """What the demo reads for an ask: as it is typed, and as a number."""
    return FIGURES.get(ask.name) or _USUAL[ask.dimension]


@dataclass(frozen=True)
class Sits:
    """Where a job's gears truly stand with the first trial's shims: depth [mm], mean backlash and its swing [mm], greatest at [deg]."""

    pinion_mm: float
    backlash_mm: float
    swing_mm: float = 0.008
    high_deg: float = 135.0


def simulated_axle(bench: Bench, truth: Sits, housing: SetupTrial, *, seed: int) -> SimulatedAxle:
    """The axle that stands in for a real one on a bench, as it sits with the first trial's shims."""
    known, window = bench.known_set, bench.state.window
    assert known is not None and window is not None
    factor = contact_set(known).plunger_per_arc
    true = replace(known, nominal_backlash_arc_mm=window.middle_mm / factor)
    ring = contact_set(true).ring_for_arc_mm(truth.backlash_mm / factor, pinion_mm=truth.pinion_mm)
    hidden = HiddenAxle(set=true, pinion_mm=truth.pinion_mm, ring_mm=ring, runout_mm=truth.swing_mm, runout_at_deg=truth.high_deg)
    instruments = Instruments(dial_sd_mm=0.002, patch_u_sd=0.02, patch_v_sd=0.02, shim_sd_mm=0.002, seating_sd_mm=0.004)
    return SimulatedAxle(hidden, bench.state.adjust, housing, instruments, np.random.default_rng(seed))


class Clock:
    """Moves on a few minutes with every record."""

    def __init__(self, days_ago: float, seed: int) -> None:
        now = timezone.now()
        # whole days ago work began in the morning; today's jobs were booked some hours ago
        morning = now.replace(hour=8, minute=10, second=0, microsecond=0)
        self.now = morning - timedelta(days=days_ago) if days_ago >= 1 else now - timedelta(days=days_ago)
        self.random = Random(seed)

    def tick(self, least: float = 1.0, most: float = 6.0) -> datetime:
        self.now += timedelta(minutes=self.random.uniform(least, most))
        return self.now


class JobBuilder:
    """Writes one job's history with its own clock."""

    def __init__(self, *, days_ago: float, by: User, family: str, fields: dict[str, Any]) -> None:
        waits = {name: fields.pop(name) for name in ("waits_for", "waits_note") if name in fields}
        card = CardGiven(customer=fields["customer"], complaint=fields["complaint"], use=fields["use"], use_note=fields.get("use_note", ""))
        known = fields.get("vehicle_id")
        of_vehicle = {"vehicle_id": known, "vehicle": fields.get("vehicle", ""), "layout": fields["layout"]}
        self.writing = Writing.of(by)
        place = fields.get("place") or place_of(fields["axle"])
        first = WorkGiven(id=self.writing.id, place=place, kind=fields.get("kind", RING_AND_PINION), family=family)
        self._take_up(book_job(self.writing, job_id=first.id, given=card, first=first, **of_vehicle), days_ago, by)
        Job.objects.filter(pk=self.job.pk).update(**waits)

    @classmethod
    def of(cls, job: Job, *, days_ago: float, by: User) -> JobBuilder:
        """Goes on with a job that was booked: on its first piece of work, which has its id."""
        made = cls.__new__(cls)
        made.writing = Writing.of(by)
        made._take_up(job, days_ago, by)
        return made

    def _take_up(self, job: Job, days_ago: float, by: User) -> None:
        self.job, self.work_id, self.by = job, job.pk, by
        self.clock = Clock(days_ago, seed=job.number)
        Job.objects.filter(pk=job.pk).update(created_at=self.clock.now)
        Work.objects.filter(job=job).update(created_at=self.clock.now)
        self.pace = (4.0, 25.0)
        self.trial: Trial | None = None
        self.axle: SimulatedAxle | None = None
        self.truth = Sits(0.0, 0.16)
        self.dial_off_mm = 0.0

    @property
    def work(self) -> Work:
        """The piece of work in hand, as it stands."""
        return Work.objects.with_job().get(pk=self.work_id)

    def keep(self, area: Area, title: str, *, about: str = "", **kept: Any) -> None:
        """A kept answer of a desk."""
        version = {"engine_version": amber_core.__version__}
        KeptAnswer.objects.create(work=self.work, area=area, about=about, title=title, **kept, **version, **self.record(2, 12))

    def record(self, least: float = 1.0, most: float = 6.0) -> dict[str, object]:
        return {"by": self.by, "by_name": str(self.by), "at": self.clock.tick(least, most)}

    def hands_to(self, by: User) -> JobBuilder:
        self.by = by
        return self

    def station(self, place: Place, state: StationState, note: str = "") -> JobBuilder:
        say_station(self.job.stations.get(place=place), state, note, self.record(1, 3))
        return self

    def teeth(self, pinion: int, ring: int, guess: float | None = None) -> JobBuilder:
        clues = GearSetClues(pinion_teeth=pinion, ring_teeth=ring, guess_ratio=guess)
        answer = asdict(identify_gear_set(clues))
        GearSetRecord.objects.create(
            work=self.work, pinion_teeth=pinion, ring_teeth=ring, question=asdict(clues), answer=answer, **self.record()
        )
        return self

    def end(self, end: str, tyre: str, teeth: tuple[int, int] | None = None) -> JobBuilder:
        """What is known of one end of the vehicle."""
        around = parse_tyre(TyreText(text=tyre)).circumference_m
        pinion, ring = teeth or (None, None)
        fields = {"tyre": tyre, "circumference_m": around, "pinion_teeth": pinion, "ring_teeth": ring}
        AxleFact.objects.create(job=self.job, end=end, **fields, **self.record())
        return self

    def weighs_ratios(
        self, title: str, *, planned: str, now: tuple[int, int], candidates: list[tuple[int, int]], **use: float
    ) -> JobBuilder:
        """A kept answer of the ratio desk: the tyres of this job's axle against others, by (gearbox, axle) places in the lists."""
        work = self.work
        sheet = work.sheet
        told = self.job.axle_facts.filter(end=work.axle).latest("id")
        torque = [{"rpm": 1500, "torque_nm": 280}, {"rpm": 4000, "torque_nm": 220}]
        inputs = RatioInputs.model_validate(
            {
                "tyre_now": {"text": told.tyre},
                "tyre_planned": {"text": planned},
                "gearboxes": [{"name": one.name, "gears": one.gears} for one in Gearbox.objects.all()],
                "axles": [
                    {"ring_outer_diameter_mm": sheet.ring_outer_diameter_mm, **{k: v for k, v in ratio_out(one).items() if k != "ratio"}}
                    for one in sheet.ratios
                ],
                "now": {"gearbox": now[0], "axle": now[1]},
                "candidates": [{"gearbox": box, "axle": axle} for box, axle in candidates],
                "engine": {
                    "idle_rpm": 800,
                    "redline_rpm": 4200,
                    "torque": torque,
                },
                "load": {"mass_kg": 3400},
                "use": {"cruise_kmh": 80, "cruise_rpm_min": 1900, "cruise_rpm_max": 2400, **use},
                "weights": {},
                "speedometer": {"factor_before": 1.02},
            }
        )
        answer = work_out(inputs).model_dump(mode="json")
        self.keep(Area.RATIO, title, inputs=inputs.model_dump(mode="json"), answer=answer)
        return self

    def passes(self, *codes: str) -> JobBuilder:
        """These steps, each with what it asks for."""
        sheet = RunSheet(self.work)
        for code in codes:
            self._pass(sheet, sheet.step(code))
        return self

    def passes_to(self, code: str | None = None) -> JobBuilder:
        """All steps before this one; all there are, without one."""
        done: set[str] = set()
        sheet = RunSheet(self.work)
        while True:
            step = next((one for one in sheet.steps if one.code not in sheet.passed | done and one.measure != "gear_set"), None)
            if step is None or step.code == code:
                return self
            self._pass(sheet, step)
            done.add(step.code)
            if step.act == "choose":  # other steps may come of it
                sheet = RunSheet(self.work)

    def adds(self, kind: str, place: str, family: str = "") -> JobBuilder:
        """One more piece of work; what follows is recorded on it."""
        self._settle()
        writing = Writing.of(self.by)
        add_work(writing, job_id=self.job.pk, given=WorkGiven(id=writing.id, place=place, kind=kind, family=family))
        self.work_id = writing.id
        Work.objects.filter(pk=writing.id).update(created_at=self.clock.now)
        return self

    def at(self, place: str) -> JobBuilder:
        """What follows is recorded on the job's work at this place."""
        self._settle()
        self.work_id = Work.objects.filter(job=self.job, assembly__place=place).latest("number").pk
        self.trial, self.axle = None, None
        return self

    def today(self) -> JobBuilder:
        """What follows was done a while ago, and not days."""
        self.clock.now = max(self.clock.now, timezone.now() - timedelta(hours=2))
        return self

    def quickly(self) -> JobBuilder:
        """Steps that take a minute or two."""
        self.pace = (0.5, 2.0)
        return self

    def parks(self, code: str, waits_for: str, lies: str) -> JobBuilder:
        """The work waits, and says what lies where."""
        StepRecord.objects.create(work=self.work, step_code=code, outcome=Outcome.BEGUN, note=lies, **self.record(2, 6))
        Job.objects.filter(pk=self.job.pk).update(waits_for=waits_for, waits_note=lies[:200])
        return self

    def strips(self, counter: User) -> JobBuilder:
        """The axle in parts on the wall."""
        return stripped.strip(self, counter)

    def orders(self, *names: str) -> JobBuilder:
        """Parts on their way."""
        stripped.order(self, *names)
        return self

    def starts(self, code: str, *, minutes: float) -> JobBuilder:
        """A clock that runs."""
        row = self.record(2, 6)
        until = self.clock.now + timedelta(minutes=minutes)
        StepRecord.objects.create(work=self.work, step_code=code, outcome=Outcome.BEGUN, until=until, **row)
        return self

    def _pass(self, sheet: RunSheet, step: Step) -> None:
        entered, value = "", None
        readings = [(ask.name, *figure_of(ask)) for ask in step.asks]
        if readings:
            entered, value = ", ".join(said for _, said, _ in readings)[:200], readings[0][2]
        elif step.act == "bolts":
            value = float(sheet.bolts(step) or 8)
            entered = f"{value:.0f} ticked"
        elif step.act == "choose":
            advised = sheet.advised(step)
            way = next((one for one in step.ways if one.code == advised), step.ways[0])
            entered = str(way.title)
            WayChoice.objects.create(work=sheet.work, question=step.code, way=way.code, reason="As the sheet says", **self.record(0, 0))
        fields = {"step_code": step.code, "outcome": Outcome.PASSED, "entered": entered, "value": value}
        record = StepRecord.objects.create(work=sheet.work, **fields, **self.record(*self.pace))
        StepReading.objects.bulk_create(
            StepReading(record=record, name=name, entered=said, value=read, by=self.by, by_name=str(self.by), at=record.at)
            for name, said, read in readings
        )
        for _, said, read in (one for one in readings if one[0] == "odometer"):
            who = {"by": self.by, "by_name": str(self.by), "at": record.at}
            OdometerReading.objects.create(vehicle=self.job.vehicle, km=read, typed=said, **who)

    def sits(self, truth: Sits) -> JobBuilder:
        """The axle on the bench from now on."""
        self.truth = truth
        return self

    def shims(self, depth: Pieces, ring: Pieces, far: Pieces, **more: object) -> JobBuilder:
        return self._trial(depth_pieces=depth, ring_side_pieces=ring, far_side_pieces=far, **more)

    def notches(self, depth: Pieces, ring: int, far: int, **more: object) -> JobBuilder:
        return self._trial(depth_pieces=depth, ring_side_notches=ring, far_side_notches=far, **more)

    def _trial(self, **setting: object) -> JobBuilder:
        number = self.trial.number + 1 if self.trial else 1
        work = self.work
        if self.trial is not None:
            note_verdicts(Bench(work), Writing.of(self.by))
        bench = bench_of(work.pk)
        trial = Trial(work=work, number=number, **setting, **self.record(20, 45))
        housing = bench.housing_of(trial, bench.trials)
        if self.axle is None:
            self.axle = simulated_axle(bench, self.truth, housing, seed=self.job.number)
        else:
            self.axle.fit(housing)
            trial.expected = expected_of(bench, trial)
            trial.expected_backlash_mm = trial.expected["backlash_mm"] if trial.expected else None
        trial.save()
        self.trial = trial
        ConditionCheck.objects.create(trial=trial, points=conditions_of(trial, bench.sheet.carrier_method), **self.record(2, 5))
        return self

    def sits_wrong_by(self, backlash_mm: float) -> JobBuilder:
        """From now on the dial shows this much too much or too little: its clamp has slipped, [mm]."""
        self.dial_off_mm = backlash_mm
        return self

    def reads(self, places: int = 8) -> JobBuilder:
        """Readings round the ring in the person's own unit, as a dial with its step would give them."""
        assert self.axle is not None
        unit = "thou" if self.by.length_unit == "thou" else "hundredths_mm"
        self.axle.positions = places
        for one in self.axle.backlash_round():
            per_unit = inside_per_unit(unit, "length")
            value = max(0.0, one.value_mm + self.dial_off_mm)
            shown = round(value / per_unit * 2) / 2 if unit == "thou" else round(value * 100)
            self._reading(one.angle_deg, f"{shown:g}", unit)
        return self

    def paints(self) -> JobBuilder:
        """Both patterns as somebody reads them."""
        assert self.axle is not None and self.trial is not None
        for flank in ("drive", "coast"):
            read, true = self.axle.painted(flank), getattr(self.axle.truth, flank)
            shape = {"length": round(true.length, 2), "height": round(true.height, 2), "tilt_deg": round(true.tilt_deg)}
            fields = {**shape, "u": round(read.u, 2), "v": round(read.v, 2), "runs_off": read.runs_off, **self.record(4, 9)}
            PatternReading.objects.create(trial=self.trial, flank=flank, **fields)
        return self

    def turns(self, pinion_nm: float, total_nm: float | None = None) -> JobBuilder:
        """Rotating torques after the final assembly, seal not in yet."""
        assert self.trial is not None
        for what, value in (("pinion", pinion_nm), ("total", total_nm)):
            if value is not None:
                TorqueReading.objects.create(
                    trial=self.trial,
                    what=what,
                    value_nm=value,
                    typed=f"{value:g}",
                    unit="nm",
                    bearings="new",
                    seal="absent",
                    **self.record(2, 6),
                )
        return self

    def sleeve(self, *steps: tuple[float, float]) -> JobBuilder:
        """The crush sleeve drawn up: turn of the nut [deg] and rotating torque [Nm]."""
        for turn, torque in steps:
            fields = {"sleeve": 1, "nut_turn_deg": turn, "rotating_torque_nm": torque, "typed": f"{torque:g}", "unit": "nm"}
            SleeveStep.objects.create(work=self.work, **fields, **self.record(1, 3))
        return self

    def misreads(self, angle_deg: float, typed: str, reason: str) -> JobBuilder:
        """A reading that was struck out."""
        reading = self._reading(angle_deg, typed, "hundredths_mm")
        StrikeOut.objects.create(reading=reading, reason=reason, **self.record(0.1, 0.3))
        return self

    def _reading(self, angle_deg: float, typed: str, unit: str) -> Reading:
        assert self.trial is not None
        value = float(typed) * inside_per_unit(unit, "length")
        return Reading.objects.create(
            trial=self.trial, angle_deg=angle_deg, value_mm=value, typed=typed, unit=unit, **self.record(0.3, 0.9)
        )

    def measures_driveline(self, title: str, given: dict[str, Any]) -> JobBuilder:
        """A kept answer of the driveline desk."""
        drivelines.keep_driveline(self, title, given)
        return self

    def feels_joints(self, *, notchy: int | None = None) -> JobBuilder:
        """Both joints of the rear driveline by hand and eye."""
        drivelines.feel_joints(self, notchy=notchy)
        return self

    def measures(self, tool: str, title: str, values: Values, *, gauge: str = "", step: str = "") -> JobBuilder:
        """A kept answer of a tool of the Diff bench."""
        bench_tools.measure(self, tool, title, values, gauge=gauge, step=step)
        return self

    def hears(self, drivetrain: Drivetrain) -> JobBuilder:
        """What is felt and what was recorded of a vibration."""
        drivelines.hear_rumble(self, drivetrain)
        return self

    def signed_by(self, foreman: User) -> JobBuilder:
        """Signed off as it stands, with its document."""
        self._settle()
        self.by = foreman
        work = self.work
        signed = SignOff.objects.create(work=work, statement=STATEMENT, verdict="in", **self.record(30, 90))
        work.signed_off_at = signed.at
        work.as_left = plain(as_left(work))
        self.station(Place.REAR_AXLE, StationState.GOOD)
        refresh(work)
        keep_document(signed, document_of(work.pk))
        return self

    def _settle(self) -> None:
        work = self.work
        if self.trial is not None:
            note_verdicts(bench_of(work.pk), Writing.of(self.by))
        else:
            work.begun = work.step_records.exists() or work.gear_sets.exists()
            forget(work, "step_records", "gear_sets")
            refresh(work)

    def done(self) -> Job:
        """Verdict, state and next action as the services work them out; the time is the last record's."""
        if self.work.signed_off_at is None:
            self._settle()
        Job.objects.filter(pk=self.job.pk).update(updated_at=self.clock.now)
        return self.job


@transaction.atomic
def load() -> None:
    """Make the demo world once; a second call changes nothing."""
    who = people.load()
    families.load()
    gearboxes.load()
    if not Job.objects.exists():
        _first_workshop(who)
    neighbours.load(new_job)


def new_job(days_ago: float, by: User, family: str, **fields: object) -> JobBuilder:
    """A visit, on the rear axle of a rear-wheel-drive road vehicle unless it says otherwise."""
    usual = {"layout": "rear_drive", "axle": "rear", "use": "road"}
    return JobBuilder(days_ago=days_ago, by=by, family=family, fields={**usual, **fields})


def _first_workshop(who: dict[str, User]) -> None:
    new = new_job
    with connection.cursor() as cursor:
        cursor.execute("SELECT setval('jobs_job_number', %s, false)", (FIRST_NUMBER,))
    isla, tam, greta, callum = who["isla"], who["tam"], who["greta"], who["callum"]
    (
        new(
            9,
            callum,
            "corrie-ls19",
            customer="Skerrow Post",
            vehicle="Post van, Corrie Carrier",
            complaint="Howl on overrun above 60; oil at the pinion",
        )
        .hands_to(tam)
        .teeth(11, 41)
        .passes_to("backlash")
        .sits(Sits(0.12, 0.236, 0.008))
        .shims([(0.8, 1)], [(4.5, 1)], [(4.7, 1)])
        .reads()
        .paints()
        .shims([(0.8, 1), (0.05, 2)], [(4.5, 1), (0.05, 1)], [(4.6, 1), (0.05, 1)], note="as proposed")
        .reads()
        .paints()
        .passes("backlash", "pattern")
        .sleeve((0, 0.2), (40, 0.3), (60, 0.6), (70, 1.0), (76, 1.4), (80, 1.8), (83, 2.1))
        .passes("nut", "preload")
        .shims([(0.8, 1), (0.05, 2)], [(4.5, 1), (0.05, 1)], [(4.6, 1), (0.05, 1)], preload_part="sleeve", is_final=True)
        .turns(2.1, 2.7)
        .reads()
        .paints()
        .passes_to()
        .signed_by(greta)
        .done()
    )
    (
        new(
            2,
            callum,
            "corrie-ls19",
            customer="Island Library Service",
            vehicle="Library van, Corrie Carrier long",
            complaint="Too long-legged on the hills since the larger tyres; regear",
            use="towing",
            use_note="Tows the exhibition trailer, 900 kg",
        )
        .hands_to(isla)
        .teeth(10, 41, guess=3.9)
        .end("rear", "215/75R16")
        .weighs_ratios(
            "Taller tyres: 4.10 or 4.56?",
            planned="225/85R16",
            now=(1, 3),
            candidates=[(1, 2), (1, 1), (2, 1)],
            hold_grade_pct=8.0,
            start_grade_pct=25.0,
        )
        .passes_to("backlash")
        .station(Place.REAR_SHAFT, StationState.GOOD, "Joints free, phase marked")
        .feels_joints()
        .sits(Sits(0.13, 0.095, 0.014, 200.0))
        .shims([(0.7, 1), (0.28, 1)], [(4.6, 1), (0.05, 1)], [(4.4, 1), (0.1, 1)])
        .reads(places=4)
        .misreads(45.0, "31", "stylus slipped off the tooth")
        .done()
    )
    (
        new(
            4,
            callum,
            "halden-hf25",
            customer="Skerrow Ferries",
            vehicle="Ferry-ramp tug, Halden T6",
            complaint="Clunk on take-up, metal on the magnet",
            use="shore",
        )
        .hands_to(tam)
        .teeth(8, 41)
        .passes_to("backlash")
        .sits(Sits(0.04, 0.33, 0.02))
        .notches([(0.35, 1)], 0, 0)
        .reads()
        .paints()
        .notches([(0.35, 1)], 2, -2)
        .reads()
        .paints()
        .passes("backlash", "pattern", "nut", "preload")
        .notches([(0.35, 1)], 2, -2, preload_part="spacer", spacer_pieces=[(0.3, 1), (0.04, 1)], is_final=True)
        .turns(2.9, 3.6)
        .reads()
        .paints()
        .passes_to()
        .done()
    )
    (
        new(
            6,
            callum,
            "halden-hf25",
            customer="Skerrow Lifeboat",
            vehicle="Launch tender, Halden T4",
            complaint="Pinion bearing rumble that follows road speed",
            use="shore",
            waits_for="parts",
            waits_note="Pinion bearings on Thursday's boat",
        )
        .hands_to(tam)
        .teeth(9, 37)
        .feels_joints(notchy=2)
        .hears(Drivetrain(circumference_m=2.6, axle_ratio=37 / 9, pinion_teeth=9, cylinders=4))
        .passes_to("inspected")
        .orders("inner pinion bearing", "outer pinion bearing")
        .done()
    )
    (
        new(
            3,
            callum,
            "ostrel-ir20",
            customer="A. Quoy, vet",
            vehicle="Estate car, Ostrel Strand",
            complaint="Whine on drive and coast after another shop's rebuild",
        )
        .hands_to(isla)
        .teeth(10, 37)
        .passes_to("backlash")
        .station(Place.REAR_SHAFT, StationState.GOOD)
        .sits(Sits(0.02, 0.14, 0.062, 100.0))
        .shims([(0.45, 1)], [(0.35, 1)], [(0.45, 1)])
        .reads()
        .paints()
        .done()
    )
    (
        new(
            5,
            callum,
            "brannoch-bf21",
            customer="Dr E. Sound",
            vehicle="Four-wheel-drive, Brannoch Moor",
            layout="four_wheel_drive",
            axle="front",
            complaint="Front end shudders in low range; ratios may not match",
            use="off_road",
        )
        .hands_to(isla)
        .teeth(10, 41, guess=3.73)
        .station(Place.REAR_AXLE, StationState.FAULT, "Counts as 3.73: front and rear do not match")
        .station(Place.TRANSFER, StationState.GOOD)
        .end("front", "235/85R16")
        .end("rear", "235/85R16", (11, 41))
        .passes_to("ring_bolts")
        .done()
    )
    (
        new(
            7,
            callum,
            "corrie-ls19",
            customer="Skerrow School",
            vehicle="School minibus, Corrie Carrier",
            complaint="Leak at the cover, low oil found",
            waits_for="cure",
            waits_note="Cover sealant, ready tomorrow morning",
        )
        .hands_to(tam)
        .teeth(9, 41)
        .passes_to("backlash")
        .sits(Sits(-0.01, 0.168, 0.006))
        .shims([(0.9, 1)], [(4.7, 1)], [(4.3, 1), (0.2, 1)])
        .reads()
        .paints()
        .passes("backlash", "pattern", "nut", "preload")
        .shims([(0.9, 1)], [(4.7, 1)], [(4.3, 1), (0.2, 1)], preload_part="sleeve", is_final=True)
        .turns(2.2, 2.9)
        .reads()
        .paints()
        .passes_to("cover_cured")
        .today()
        .starts("cover_cured", minutes=720)
        .done()
    )
    (
        new(
            1,
            callum,
            "halden-hf25",
            customer="Peat Railway",
            vehicle="Road-rail loader, Halden R2",
            complaint="Regear for rail speed; ratio not known, tag gone",
            use="rail",
        ).done()
    )
    (
        new(
            0.6,
            callum,
            "brannoch-bf21",
            customer="Skerrow Estate",
            vehicle="Keeper's pick-up, Brannoch Fell",
            layout="four_wheel_drive",
            axle="front",
            complaint="Front axle hums when floating",
            use="off_road",
            waits_for="customer",
            waits_note="Price of a new ring and pinion to be agreed",
        )
        .hands_to(isla)
        .passes_to("drained")
        .done()
    )
    (
        new(
            0.2,
            callum,
            "ostrel-ir20",
            customer="Harbour Watch",
            vehicle="Patrol saloon, Ostrel Firth",
            complaint="One rear wheel spins; noise in tight turns",
        ).done()
    )
    (
        new(
            1.5,
            callum,
            "corrie-ls19",
            customer="Skerrow Bakery",
            vehicle="Bread van, Corrie Carrier",
            complaint="Whine on drive after a ring and pinion was fitted at home",
        )
        .hands_to(isla)
        .teeth(10, 41)
        .passes_to("backlash")
        .sits(Sits(-0.10, 0.125, 0.008, 300.0))
        .shims([(1.1, 1)], [(4.6, 1), (0.05, 1)], [(4.4, 1), (0.05, 1)])
        .reads()
        .paints()
        .sits_wrong_by(-0.09)
        .shims([(1.0, 1)], [(4.6, 1), (0.05, 1)], [(4.4, 1), (0.05, 1)], note="as proposed")
        .reads()
        .paints()
        .done()
    )
    (
        new(
            0.8,
            callum,
            "brannoch-bf21",
            customer="Skerrow Forestry",
            vehicle="Timber crew pick-up, Brannoch Fell",
            layout="four_wheel_drive",
            axle="rear",
            complaint="New ring and pinion after a tooth was lost",
            use="off_road",
        )
        .hands_to(tam)
        .teeth(10, 41)
        .measures_driveline("As it came, raised 50 mm", drivelines.raised_pickup())
        .measures_driveline("With two-degree wedges", drivelines.raised_pickup() | {"tried": {"wedge_deg": 2.0}})
        .station(Place.REAR_SHAFT, StationState.FAULT, "Buzz at 80 since it was raised: angles")
        .passes_to("backlash")
        .sits(Sits(-0.01, 0.195, 0.010, 40.0))
        .notches([(0.8, 1)], 0, 0)
        .reads()
        .paints()
        .paints()
        .passes("backlash", "pattern")
        .done()
    )
    other_work.load(new, isla, tam, callum)
    gearboxes.fit()
