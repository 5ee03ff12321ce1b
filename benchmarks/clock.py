"""Timing, always as medians, and ratios of medians from one run."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from statistics import median


@dataclass(frozen=True)
class Timing:
    """Median and 95th percentile, [ms]."""

    name: str
    median_ms: float
    p95_ms: float


def timed(name: str, act: Callable[[], object], *, times: int, warm: int = 10) -> Timing:
    """Do something many times, after a few that do not count."""
    for _ in range(warm):
        act()
    took = []
    for _ in range(times):
        began = time.perf_counter()
        act()
        took.append(1000.0 * (time.perf_counter() - began))
    return _timing(name, took)


def _timing(name: str, took: list[float]) -> Timing:
    took.sort()
    return Timing(name, median(took), took[int(0.95 * (len(took) - 1))])


def beside(name: str, act: Callable[[], object], other: Timing, do_other: Callable[[], object], *, times: int, warm: int = 10) -> str:
    """A line of the report: each time the other thing is done as well, so that a machine that is slow for a while is slow for both."""
    for _ in range(warm):
        act()
    took: list[float] = []
    beside_it: list[float] = []
    for _ in range(times):
        for do, found in ((do_other, beside_it), (act, took)):
            began = time.perf_counter()
            do()
            found.append(1000.0 * (time.perf_counter() - began))
    return line(_timing(name, took), _timing(other.name, beside_it))


def line(timing: Timing, *against: Timing) -> str:
    """One line of the report: milliseconds, and the ratio to each of the others."""
    ratios = "  ".join(f"{timing.median_ms / other.median_ms:8.2f} x {other.name}" for other in against)
    return f"  {timing.name:<44} {timing.median_ms:9.3f} ms  (95 %: {timing.p95_ms:8.3f})  {ratios}"
