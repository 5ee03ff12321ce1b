"""What ./amber bench setup prints: random axles set up by the advice and by rules of thumb, side by side."""

from __future__ import annotations

import multiprocessing
import os
import sys
import time
from dataclasses import dataclass, replace
from itertools import pairwise
from statistics import mean, median

import numpy as np

from amber_core.setup.question import Costs, SetupTrial
from amber_core.simulated.axle import Instruments, SimulatedAxle
from amber_core.simulated.random_axle import KINDS, Kind, random_axle
from amber_core.simulated.technicians import Outcome, Technician, adjust_by_side_shims, by_advice, by_rule_of_thumb

AXLES = 1000
WORST = 12
READ_AS = Instruments(dial_step_mm=0.005, dial_sd_mm=0.005, patch_v_sd=0.06, shim_sd_mm=0.006, seating_sd_mm=0.0)
"""How well everything is read here: patches to 0.05 along and 0.06 across, the dial to 0.005 mm; shims scatter by 0.006 mm."""
_ODDS = (0.0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.01)
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
        axle = SimulatedAxle(hidden, adjust_by_side_shims(), first, replace(READ_AS, wrong_share=wrong_share), scatter)
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
    given_up = 100.0 * sum(one.end != "finished" for one in found) / count
    return (
        f"  {name:<26} {within(1):7.1f} {within(2):7.1f} {within(6):7.1f} {mean(one.moves for one in found):7.2f} {p95:6d}"
        f" {mean(one.needless for one in found):9.2f} {wrong:9.1f} {given_up:8.1f} {mean(one.read_again for one in found):8.2f}"
        f" {mean(one.minutes(Costs()) for one in found):8.1f}"
    )


def _report(ran: list[Ran]) -> None:
    print(
        f"  {'moves after the first trial':<26} {'<= 1 %':>7} {'<= 2 %':>7} {'<= 6 %':>7} {'mean':>7} {'95 %':>6} {'needless':>9}", end=""
    )
    print(f" {'wrongly %':>9} {'not in %':>8} {'re-read':>8} {'minutes':>8}")
    for way in _WAYS:
        print(_line(way, [one.outcomes[way] for one in ran]))
    for kind in KINDS:
        for way in _WAYS:
            print(_line(f"{kind}, {way}", [one.outcomes[way] for one in ran if one.kind == kind]))


def _kept_odds(ran: list[Ran]) -> None:
    """Of the moves that were said to land so often, how many did."""
    said = [one for axle in ran for one in axle.outcomes["advice"].said]
    for low, high in pairwise(_ODDS):
        landed = [good for odds, good in said if low <= odds < high]
        if landed:
            share, high = 100.0 * mean(landed), min(high, 1.0)
            print(f"  said to land with {100 * low:3.0f} to {100 * high:3.0f} %: {len(landed):5d} moves, {share:5.1f} % did")


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
                _kept_odds(ran)
                _worst(ran)
                each = median(one.seconds / (one.outcomes["advice"].moves + one.outcomes["advice"].read_again + 1) for one in ran)
                print(f"  {1000.0 * each:.0f} ms an advice with its trial, median, one core")
    print(f"{time.perf_counter() - began:.0f} s together")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else AXLES)
