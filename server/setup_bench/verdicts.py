"""Verdicts on what a trial shows beside its backlash: both patterns, rotating torques, and whether the final reading is complete."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from amber_core.preload.assess import PreloadReadings, PreloadVerdict, assess_preload
from amber_core.preload.carrier import CarrierPreload, CarrierPreloadVerdict, Window, assess_carrier_preload
from amber_core.setup.judge import pattern_faults
from amber_core.setup.question import SetupQuestion
from amber_core.verdicts import Reason
from jobs.models import NOT_READ_AFTER_ASSEMBLY, Job
from jobs.run_sheet import RunSheet
from jobs.services import note_bench
from setup_bench.estimate import assess
from setup_bench.models import TorqueReading, Trial
from setup_bench.question import aim_of, bench_job, counts, latest_pattern, question_of
from stores.models import Quantity

TORQUE_RESOLUTION_NM = 0.05
IN = ("in", "edge")


@dataclass(frozen=True)
class PatternVerdict:
    """Both patterns of a trial together."""

    verdict: str
    reasons: list[Reason]


def latest_torque(trial: Trial, what: str) -> TorqueReading | None:
    """The torque reading of a kind that counts."""
    return max((one for one in trial.torques.all() if one.what == what), key=lambda one: one.pk, default=None)


def judge_patterns(trial: Trial, question: SetupQuestion | None, index: int) -> PatternVerdict:
    """In when both flanks were read and sit where they may; `index` is the trial's place in the question."""
    if question is None or not counts(trial):
        return PatternVerdict("unknown", [])
    read = question.trials[index]
    faults = pattern_faults(read, question.goal.pattern)
    if faults:
        return PatternVerdict("out", faults)
    missing = [name for name in ("drive", "coast") if latest_pattern(trial, name) is None]
    return PatternVerdict("unknown" if missing else "in", [])


def judge_pinion(job: Job, trial: Trial) -> PreloadVerdict | None:
    """The pinion's rotating torque against the window for its bearings."""
    read = latest_torque(trial, "pinion")
    if read is None:
        return None
    sheet = RunSheet(job).limits
    window = sheet.get(Quantity.PINION_TORQUE_USED if read.bearings == "used" else Quantity.PINION_TORQUE)
    return assess_preload(
        PreloadReadings(
            readings_nm=[read.value_nm],
            min_nm=window.least if window else None,
            max_nm=window.greatest if window else None,
            seal_drag_nm=read.seal_drag_nm,
            bearings=read.bearings,  # type: ignore[arg-type]
            seal=read.seal,  # type: ignore[arg-type]
            window_seal=job.family.torque_window_seal,  # type: ignore[arg-type]
            resolution_nm=TORQUE_RESOLUTION_NM,
        )
    )


def judge_total(job: Job, trial: Trial) -> CarrierPreloadVerdict | None:
    """The total rotating torque with the carrier in, beside the pinion's own."""
    total, pinion, gear_set = latest_torque(trial, "total"), latest_torque(trial, "pinion"), RunSheet(job).gear_set
    if total is None or pinion is None or gear_set is None:
        return None
    limit, window = RunSheet(job).limits.get(Quantity.TOTAL_TORQUE), aim_of(job)
    backlash = assess(trial, window, None)
    return assess_carrier_preload(
        CarrierPreload(
            pinion_nm=pinion.value_nm,
            total_nm=max(total.value_nm, pinion.value_nm),
            ring_teeth=gear_set.ring_teeth,
            pinion_teeth=gear_set.pinion_teeth,
            window=Window(min=limit.least if limit else None, max=limit.greatest if limit else None),
            window_kind="total_at_pinion",
            backlash_least_mm=backlash.least_mm if backlash else None,
            backlash_min_mm=window.min_mm,
            resolution_nm=TORQUE_RESOLUTION_NM,
        )
    )


def final_missing(job: Job, trials: list[Trial]) -> str:
    """What keeps the set-up from being done, in one sentence; empty when everything was read after the final assembly and is in."""
    last = trials[-1] if trials else None
    if last is None or not last.is_final:
        return NOT_READ_AFTER_ASSEMBLY
    question = question_of(job, trials)
    backlash = assess(last, aim_of(job), None)
    pattern = judge_patterns(last, question, -1)
    pinion, total = judge_pinion(job, last), judge_total(job, last)
    found: list[tuple[str, Any]] = [
        ("backlash round the ring", backlash.verdict if backlash else "unknown"),
        ("both patterns", pattern.verdict),
        ("the pinion's rotating torque", pinion.verdict if pinion else "unknown"),
    ]
    if Quantity.TOTAL_TORQUE in RunSheet(job).limits:
        found.append(("the total torque with the carrier in", total.verdict if total else "unknown"))
    if not counts(last):
        return "The conditions of the final trial are not confirmed yet."
    out = [name for name, verdict in found if verdict == "out"]
    unread = [name for name, verdict in found if verdict == "unknown"]
    parts = []
    if out:
        parts.append(f"out of the window: {', '.join(out)}")
    if unread:
        parts.append(f"not read, or not judged, after the final assembly: {', '.join(unread)}")
    text = "; ".join(parts)
    return f"{text[:1].upper()}{text[1:]}." if text else ""


@dataclass(frozen=True)
class BenchVerdicts:
    """What the bench found of a job: contact by the last trial that set it, and what the final reading still lacks."""

    backlash: str
    pattern: str
    missing: str


def bench_verdicts(job: Job) -> BenchVerdicts:
    """Verdicts on the last trial before the final assembly, unless the reading after it is out."""
    job = bench_job(job.pk)  # read anew, whole: what was just written is in it
    trials = sorted(job.trials.all(), key=lambda one: one.number)
    setting = [one for one in trials if not one.is_final]
    backlash, pattern = _contact(job, setting)
    if trials and trials[-1].is_final:
        last_backlash, last_pattern = _contact(job, trials)
        backlash = last_backlash if last_backlash == "out" or not setting else backlash
        pattern = last_pattern if last_pattern == "out" or not setting else pattern
    return BenchVerdicts(backlash, pattern, final_missing(job, trials)[:300])


def _contact(job: Job, trials: list[Trial]) -> tuple[str, str]:
    if not trials:
        return "unknown", "unknown"
    verdict = assess(trials[-1], aim_of(job), None)
    pattern = judge_patterns(trials[-1], question_of(job, trials), -1).verdict
    return (verdict.verdict if verdict is not None and counts(trials[-1]) else "unknown"), pattern


def note_verdicts(job: Job, by: Any) -> None:
    """Tell the job what the bench found; within the caller's transaction."""
    found = bench_verdicts(job)
    note_bench(job, by, backlash=found.backlash, pattern=found.pattern, missing=found.missing)
