"""What the run sheet's steps ask of the bench."""

from __future__ import annotations

from amber_core.bench.judge import NOT_READ_AFTER_ASSEMBLY
from amber_core.words import NOTHING, Said, say
from records.writing import Writing
from setup_bench.bench import Bench, latest_torque
from setup_bench.models import BenchFinding, Verdict
from setup_bench.services import note_verdicts
from work.as_left import Line
from work.as_left import register as register_as_left
from work.checks import register, register_judge
from work.models import Work


def _found(work: Work) -> BenchFinding:
    """What the bench last found; nothing while it was never used."""
    return work.bench_finding if hasattr(work, "bench_finding") else BenchFinding(work_id=work.pk, missing=NOT_READ_AFTER_ASSEMBLY)


_DONE = NOTHING


def _verdict(verdict: str, out: Said, unread: Said) -> Said:
    return _DONE if verdict in (Verdict.IN, Verdict.EDGE) else out if verdict == Verdict.OUT else unread


def backlash_missing(work: Work) -> Said:
    """What the backlash still lacks."""
    return _verdict(
        _found(work).backlash,
        say("The backlash of the last trial is outside its window. Go to the Set-up bench."),
        say("The backlash of the last trial has not been measured round the ring gear yet. Go to the Set-up bench."),
    )


def pattern_missing(work: Work) -> Said:
    """What the patterns still lack."""
    return _verdict(
        _found(work).pattern,
        say("The contact pattern of the last trial is outside its window. Go to the Set-up bench."),
        say("The contact pattern of the last trial has not been read on both sides yet. Go to the Set-up bench."),
    )


def final_missing(work: Work) -> Said:
    """What the reading after the final assembly still lacks."""
    missing = Said.of(_found(work).missing)
    return say("{missing} Go to the Set-up bench.", missing=missing) if missing else _DONE


def left(work: Work) -> list[Line]:
    """What the last trial was left with."""
    if not work.on_bench:
        return []
    bench = Bench(work)
    if not bench.trials:
        return []
    found, trial = bench.verdicts.trials[-1], bench.trials[-1]
    lines = []
    if found.backlash is not None:
        middle = (found.backlash.least_mm + found.backlash.greatest_mm) / 2.0
        said = say("{least:mm2-} to {greatest:mm2}", least=found.backlash.least_mm, greatest=found.backlash.greatest_mm)
        lines.append(Line("backlash", say("Backlash round the ring gear"), said, verdict=found.backlash.verdict, value=middle))
    for name, what in (("pinion", say("Pinion rotating torque")), ("total", say("Total rotating torque"))):
        read = latest_torque(trial, name)
        if read is not None:
            verdict = found.pinion if name == "pinion" else found.total
            said = say("{torque:Nm2}", torque=read.value_nm)
            lines.append(Line(f"{name}_torque", what, said, verdict=verdict.verdict if verdict else "unknown", value=read.value_nm))
    if found.pattern != "unknown":
        lines.append(Line("pattern", say("Contact pattern"), _VERDICT_WORDS[found.pattern], verdict=found.pattern))
    return lines


_VERDICT_WORDS = {"in": say("In"), "edge": say("On the edge"), "out": say("Out")}


def judge(work: Work, writing: Writing) -> None:
    """What was read, judged by the sheet and the gear set of now."""
    bench = Bench(work)
    if bench.trials:
        note_verdicts(bench, writing)


def register_checks() -> None:
    """At start-up."""
    register("bench_backlash", backlash_missing)
    register("bench_pattern", pattern_missing)
    register("bench_final", final_missing)
    register_judge(judge)
    register_as_left(left)
