"""Front axle against rear, as soon as both are known, wherever they were entered."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from amber_core.ratios.match import AxlePair, Mismatch, match_axles
from amber_core.words import NOTHING, Said, say
from jobs.models import AxleFact, Job
from vehicles.models import BOTH_DRIVEN, AxleEnd

HELD_CODE = "road_test"
"""The step that a mismatch keeps shut: the vehicle must not be driven with both axles locked together."""


@dataclass(frozen=True)
class EndKnown:
    """One end of the vehicle: tyre, rolling circumference [m], teeth; None where it is not known."""

    tyre: str
    circumference_m: float | None
    measured: bool
    pinion_teeth: int | None
    ring_teeth: int | None

    @property
    def ratio(self) -> float | None:
        """Ring over pinion teeth, [-]."""
        return self.ring_teeth / self.pinion_teeth if self.pinion_teeth and self.ring_teeth else None


def end_known(job: Job, end: str) -> EndKnown:
    """What counts of an end: the latest fact, and the teeth that were identified by a piece of work on that axle."""
    fact: AxleFact | None = max((one for one in job.axle_facts.all() if one.end == end), key=lambda one: one.pk, default=None)
    identified = [one for work in job.works.all() if work.axle == end for one in work.gear_sets.all()]
    gear_set = max(identified, key=lambda one: one.pk, default=None)
    teeth = (gear_set.pinion_teeth, gear_set.ring_teeth) if gear_set else (fact.pinion_teeth, fact.ring_teeth) if fact else (None, None)
    return EndKnown(
        tyre=fact.tyre if fact else "",
        circumference_m=fact.circumference_m if fact else None,
        measured=fact.measured if fact else False,
        pinion_teeth=teeth[0],
        ring_teeth=teeth[1],
    )


def match_of(job: Job) -> Mismatch | None:
    """Whether front and rear fit; None for two-wheel drive, or while a ratio is missing. One tyre known counts for both ends."""
    if job.vehicle.layout not in BOTH_DRIVEN:
        return None
    front, rear = end_known(job, AxleEnd.FRONT), end_known(job, AxleEnd.REAR)
    if front.ratio is None or rear.ratio is None:
        return None
    around = {"front": front.circumference_m or rear.circumference_m or 1.0, "rear": rear.circumference_m or front.circumference_m or 1.0}
    return match_axles(
        AxlePair(front_circumference_m=around["front"], front_ratio=front.ratio, rear_circumference_m=around["rear"], rear_ratio=rear.ratio)
    )


def match_held(job: Job) -> Said:
    """Why the vehicle may not be driven, empty when it may."""
    found = match_of(job)
    if found is None or found.verdict != "out":
        return NOTHING
    return say(
        "Front and rear do not match: {text} Change one of them, or correct what is in at the Ratio desk.", text=found.reasons[0].text
    )


def match_out(job: Job) -> dict[str, Any] | None:
    """The match as the API shows it."""
    found = match_of(job)
    if found is None:
        return None
    return {
        "mismatch_pct": found.mismatch_pct,
        "leads": found.leads,
        "scrub_m_per_km": found.scrub_m_per_km,
        "windup_prop_turns_per_km": found.windup_prop_turns_per_km,
        "front_ratio_for_zero": found.front_ratio_for_zero,
        "verdict": found.verdict,
        "text": found.reasons[0].text,
        "tyres_known": any(one.circumference_m is not None for one in job.axle_facts.all()),
    }
