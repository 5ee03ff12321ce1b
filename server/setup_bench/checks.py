"""What the run sheet's steps ask of the bench."""

from __future__ import annotations

from amber_core.bench.judge import NOT_READ_AFTER_ASSEMBLY
from records.writing import Writing
from setup_bench.bench import Bench
from setup_bench.models import BenchFinding, Verdict
from setup_bench.services import note_verdicts
from work.checks import register, register_judge
from work.models import Work


def _found(work: Work) -> BenchFinding:
    """What the bench last found; nothing while it was never used."""
    return work.bench_finding if hasattr(work, "bench_finding") else BenchFinding(work_id=work.pk, missing=NOT_READ_AFTER_ASSEMBLY)


def _verdict(verdict: str, what: str, out: str, read: str) -> str:
    if verdict in (Verdict.IN, Verdict.EDGE):
        return ""
    words = f"is {out}" if verdict == Verdict.OUT else f"has not been {read} yet"
    return f"The {what} of the last trial {words}: go to the set-up bench."


def backlash_missing(work: Work) -> str:
    """What the backlash still lacks."""
    return _verdict(_found(work).backlash, "backlash", "out of its window", "measured round the ring")


def pattern_missing(work: Work) -> str:
    """What the patterns still lack."""
    return _verdict(_found(work).pattern, "pattern", "out of its place", "read on both sides")


def final_missing(work: Work) -> str:
    """What the reading after the final assembly still lacks."""
    missing = _found(work).missing
    return f"{missing} Go to the set-up bench." if missing else ""


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
