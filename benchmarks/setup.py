"""What ./amber bench setup prints: random axles set up by the advice and by rules of thumb, side by side."""

from __future__ import annotations

import multiprocessing
import os
import sys
import time
from dataclasses import dataclass
from statistics import mean, median

import numpy as np

from amber_core.setup.question import SetupTrial
from amber_core.simulated.axle import Instruments, SimulatedAxle
from amber_core.simulated.random_axle import KINDS, Kind, random_axle
from amber_core.simulated.technicians import Outcome, Technician, adjust_by_side_shims, by_advice, by_rule_of_thumb

AXLES = 1000
WORST = 12
_WAYS: dict[str, Technician] = {"advice": by_advice, "rule of thumb": by_rule_of_thumb}


@dataclass(frozen=True)
class Ran:
    """One axle, set up both ways; what was hidden [mm, -]; seconds of the advised set-up."""

    number: int
    kind: Kind
    hidden: str
    outcomes: dict[str, Outcome]
    seconds: float


def set_up(job: tuple[int, float]) -> Ran:
    """One axle by its number, which fixes everything about it; both technicians get the same axle with scatter of their own."""
    number, wrong_share = job
    kind = KINDS[number % len(KINDS)]
    known, hidden, window = random_axle(np.random.default_rng([7, number]), kind)
    first = SetupTrial(depth_shim_mm=1.0, ring_side_mm=5.0, far_side_mm=5.0)
    outcomes, took = {}, 0.0
    for way, technician in _WAYS.items():
        scatter = np.random.default_rng([11, number])
        axle = SimulatedAxle(hidden, adjust_by_side_shims(), first, Instruments(wrong_share=wrong_share), scatter)
        began = time.perf_counter()
        outcomes[way] = technician(axle, known, window)
        took = time.perf_counter() - began if way == "advice" else took
    ease = hidden.set.ease_drive
    assert ease is not None
    told = (
        f"{known.pinion_teeth}/{known.ring_teeth}, {known.ring_outer_diameter_mm:.0f} mm, offset {known.offset_mm or 0.0:.0f}; "
        f"pinion {hidden.pinion_mm:+.2f}; twist {ease.bias:+.2f}, crowning {ease.length_um:.0f}/{ease.profile_um:.0f} um, "
        f"drive patch meant for {ease.u0:.2f}, {ease.v0:.2f}"
    )
    return Ran(number, kind, told, outcomes, took)


def _line(name: str, found: list[Outcome]) -> str:
    count = len(found)
    finished = sorted(one.moves for one in found if one.end == "finished")
    if not finished:
        return f"  {name:<26} none of {count} finished"

    def within(moves: int) -> float:
        return 100.0 * sum(one <= moves for one in finished) / count

    wrong = 100.0 * sum(one.end == "finished" and not one.truly_in for one in found) / count
    p95 = finished[min(len(finished) - 1, int(0.95 * len(finished)))]
    again = 100.0 * sum(one.read_again > 0 for one in found) / count
    return (
        f"  {name:<26} {within(1):7.1f} {within(2):7.1f} {within(6):7.1f} {mean(finished):7.2f} {median(finished):7.0f} {p95:6d}"
        f" {wrong:9.1f} {100.0 * sum(one.end == 'not_by_shims' for one in found) / count:9.1f} {again:8.1f}"
    )


def _report(ran: list[Ran]) -> None:
    print(f"  {'moves after the first trial':<26} {'<= 1 %':>7} {'<= 2 %':>7} {'<= 6 %':>7} {'mean':>7} {'median':>7} {'95 %':>6}", end="")
    print(f" {'wrongly %':>9} {'no shim %':>9} {'again %':>8}")
    for way in _WAYS:
        print(_line(way, [one.outcomes[way] for one in ran]))
    for kind in KINDS:
        for way in _WAYS:
            print(_line(f"{kind}, {way}", [one.outcomes[way] for one in ran if one.kind == kind]))


def _worst(ran: list[Ran]) -> None:
    """The axles that the advice served worst: called finished wrongly, then most moves."""

    def badness(one: Ran) -> tuple[bool, bool, int]:
        outcome = one.outcomes["advice"]
        return outcome.end == "finished" and not outcome.truly_in, outcome.end != "finished", outcome.moves

    print("Served worst by the advice")
    for one in sorted(ran, key=badness, reverse=True)[:WORST]:
        outcome = one.outcomes["advice"]
        truth = "" if outcome.truly_in else ", not truly in"
        print(f"  {one.number:5d} {one.kind:<8} {outcome.end}{truth}, {outcome.moves} moves: {one.hidden}")


def main(axles: int) -> None:
    """All axles, on every core; again with one reading in twenty simply wrong, on a fifth of them."""
    began = time.perf_counter()
    with multiprocessing.get_context("spawn").Pool(os.cpu_count()) as pool:
        for count, wrong_share, title in (
            (axles, 0.0, "honest readings"),
            (axles // 5, 0.05, "one reading in twenty simply wrong"),
        ):
            if count == 0:
                continue
            ran = pool.map(set_up, [(number, wrong_share) for number in range(count)], chunksize=4)
            print(f"{count} axles, {title}")
            _report(ran)
            if wrong_share == 0.0:
                _worst(ran)
                each = median(one.seconds / (one.outcomes["advice"].moves + 1) for one in ran)
                print(f"  {1000.0 * each:.0f} ms a trial with its advice, median, one core")
    print(f"{time.perf_counter() - began:.0f} s together")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else AXLES)
