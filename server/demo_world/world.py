"""The jobs of the Skerrow Island workshop, each caught at another moment of its work."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from math import cos, radians
from random import Random

from django.db import transaction
from django.utils import timezone

from accounts import demo as people
from accounts.models import User
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from amber_core.quantities import inside_per_unit
from build_sheet.models import SignOff
from build_sheet.services import STATEMENT
from demo_world import families
from jobs.models import PLACES, GearSetRecord, Job, Outcome, Place, Station, StationState, StepRecord
from jobs.run_sheet import RunSheet
from jobs.services import next_number, refresh
from setup_bench.estimate import assess, geometry_of, window_of
from setup_bench.models import Reading, StrikeOut, Trial

FIRST_NUMBER = 417


@dataclass(frozen=True)
class Ring:
    """A hidden truth for the readings of a trial: mean and once-per-turn part, [mm], high at [deg]."""

    mean_mm: float
    swing_mm: float = 0.008
    high_deg: float = 135.0


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

    def __init__(self, *, days_ago: float, by: User, fields: dict[str, object]) -> None:
        number = next_number()
        self.clock = Clock(days_ago, seed=number)
        self.by = by
        at = self.clock.now
        self.job = Job.objects.create(number=number, created_by=by, created_by_name=str(by), created_at=at, next_action="", **fields)
        Station.objects.bulk_create(Station(job=self.job, place=place) for place in PLACES[self.job.layout])
        self.trial: Trial | None = None

    def _record(self, least: float = 1.0, most: float = 6.0) -> dict[str, object]:
        return {"by": self.by, "by_name": str(self.by), "at": self.clock.tick(least, most)}

    def hands_to(self, by: User) -> JobBuilder:
        self.by = by
        return self

    def station(self, place: Place, state: StationState, note: str = "") -> JobBuilder:
        self.job.stations.filter(place=place).update(state=state, note=note)
        return self

    def teeth(self, pinion: int, ring: int, guess: float | None = None) -> JobBuilder:
        clues = GearSetClues(pinion_teeth=pinion, ring_teeth=ring, guess_ratio=guess)
        answer = asdict(identify_gear_set(clues))
        GearSetRecord.objects.create(
            job=self.job, pinion_teeth=pinion, ring_teeth=ring, question=asdict(clues), answer=answer, **self._record()
        )
        return self

    def passes(self, *codes: str) -> JobBuilder:
        entered = {"ring_bolts": 10.0, "cap_bolts": 4.0, "oil": 1.6, "preload": 2.1, "wheel_nuts": 81240.0, "spreader": 0.28}
        words = {"oil": "1.6 l", "preload": "2.1 nm", "wheel_nuts": "81240 km", "spreader": "0.28 mm"}
        for code in codes:
            value = entered.get(code)
            text = words.get(code, f"{value:.0f} ticked" if value else "")
            StepRecord.objects.create(
                job=self.job, step_code=code, outcome=Outcome.PASSED, entered=text, value=value, **self._record(4, 25)
            )
        return self

    def passes_to(self, code: str) -> JobBuilder:
        """All steps before this one."""
        before = []
        for step in RunSheet(self.job).steps:
            if step.code == code:
                break
            if step.check != "gear_set":
                before.append(step.code)
        return self.passes(*before)

    def shims(self, ring: list[tuple[float, int]], far: list[tuple[float, int]]) -> JobBuilder:
        return self._trial(ring_side_pieces=ring, far_side_pieces=far)

    def notches(self, ring: int, far: int) -> JobBuilder:
        return self._trial(ring_side_notches=ring, far_side_notches=far)

    def _trial(self, **setting: object) -> JobBuilder:
        number = self.trial.number + 1 if self.trial else 1
        self.trial = Trial.objects.create(job=self.job, number=number, **setting, **self._record(20, 45))
        return self

    def reads(self, ring: Ring, places: int = 8) -> JobBuilder:
        """Readings round the ring in the person's own unit, as a dial with its step would give them."""
        assert self.trial is not None
        unit = "thou" if self.by.length_unit == "thou" else "hundredths_mm"
        for place in range(places):
            angle = 360.0 * place / places
            truth = ring.mean_mm + ring.swing_mm * cos(radians(angle - ring.high_deg)) + self.clock.random.gauss(0.0, 0.002)
            shown = round(truth / inside_per_unit(unit, "length") * 2) / 2 if unit == "thou" else round(truth * 100)
            self._reading(angle, f"{shown:g}", unit)
        return self

    def misreads(self, angle_deg: float, typed: str, reason: str) -> JobBuilder:
        """A reading that was struck out."""
        reading = self._reading(angle_deg, typed, "hundredths_mm")
        StrikeOut.objects.create(reading=reading, reason=reason, **self._record(0.1, 0.3))
        return self

    def _reading(self, angle_deg: float, typed: str, unit: str) -> Reading:
        value = float(typed) * inside_per_unit(unit, "length")
        return Reading.objects.create(
            trial=self.trial, angle_deg=angle_deg, value_mm=value, typed=typed, unit=unit, **self._record(0.3, 0.9)
        )

    def signed_by(self, foreman: User) -> JobBuilder:
        self.by = foreman
        signed = SignOff.objects.create(job=self.job, statement=STATEMENT, verdict="in", **self._record(30, 90))
        self.job.signed_off_at = signed.at
        return self.station(Place.REAR_AXLE, StationState.GOOD)

    def done(self) -> Job:
        """Verdict, state and next action as the services work them out; the time is the last record's."""
        if self.trial is not None:
            trial = Trial.objects.with_readings().get(pk=self.trial.pk)
            verdict = assess(trial, window_of(self.job.family), geometry_of(self.job))
            self.job.backlash_verdict = verdict.verdict if verdict else "unknown"
            axle = Place.FRONT_AXLE if self.job.axle == "front" else Place.REAR_AXLE
            self.job.stations.filter(place=axle, state=StationState.NOT_LOOKED_AT).update(state=StationState.IN_WORK)
        refresh(self.job)
        Job.objects.filter(pk=self.job.pk).update(updated_at=self.clock.now)
        return self.job


@transaction.atomic
def load() -> None:
    """Make the demo world once; a second call changes nothing."""
    who = people.load()
    kinds = families.load()
    if Job.objects.exists():
        return
    shop = people.Shop.get()
    shop.last_job_number = FIRST_NUMBER - 1
    shop.save(update_fields=["last_job_number"])
    isla, tam, greta, callum = who["isla"], who["tam"], who["greta"], who["callum"]

    def new(days_ago: float, by: User, family: str, **fields: object) -> JobBuilder:
        usual = {"layout": "rear_drive", "axle": "rear", "use": "road", "family": kinds[family]}
        return JobBuilder(days_ago=days_ago, by=by, fields={**usual, **fields})

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
        .shims([(4.5, 1), (0.1, 1)], [(4.6, 1)])
        .reads(Ring(0.16, 0.012))
        .passes("backlash", "pattern", "preload", "speed_ring", "breather", "cover", "oil", "wheel_nuts", "brakes", "road_test")
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
        .passes_to("backlash")
        .station(Place.REAR_SHAFT, StationState.GOOD, "Joints free, phase marked")
        .shims([(4.6, 1), (0.05, 1)], [(4.4, 1), (0.1, 1)])
        .reads(Ring(0.095, 0.014, 200.0), places=4)
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
        .notches(0, 0)
        .reads(Ring(0.33, 0.02))
        .notches(1, -1)
        .reads(Ring(0.255, 0.02))
        .passes("backlash", "pattern", "preload", "speed_ring", "breather", "cover", "oil", "wheel_nuts", "brakes", "road_test")
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
        .passes_to("inspected")
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
        .shims([(0.35, 1)], [(0.45, 1)])
        .reads(Ring(0.14, 0.062, 100.0))
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
        .shims([(4.7, 1)], [(4.3, 1), (0.2, 1)])
        .reads(Ring(0.17, 0.01))
        .passes("backlash", "pattern", "preload", "speed_ring", "breather")
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
        .passes("stands_and_chocks", "fill_plug")
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
