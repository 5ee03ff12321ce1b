"""Two ways of setting up an axle: by the advice of all trials together, and by rules of thumb from the last one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from amber_core.gearset.description import GearSetDescription
from amber_core.setup.advise import Proposal, advise_setup
from amber_core.setup.question import FLANKS, MOST_REPEATS, Adjust, Costs, SetupQuestion, SetupTrial, SetupWindow
from amber_core.simulated.axle import SimulatedAxle

End = Literal["finished", "gave_up", "not_by_shims"]
MOST_MOVES = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """How a set-up ended: trial assemblies after the first, of them those that took apart what was in, patches read again, whether the
    axle truly is in, and of each advised move its odds and whether it landed."""

    end: End
    moves: int
    read_again: int
    truly_in: bool
    needless: int
    said: list[tuple[float, bool]]

    def minutes(self, costs: Costs) -> float:
        """What it took, a wrong finish with what that costs, [min]."""
        wrong = self.end == "finished" and not self.truly_in
        return self.moves * costs.move_minutes + self.read_again * costs.read_minutes + wrong * costs.wrong_minutes


Technician = Callable[[SimulatedAxle, GearSetDescription, SetupWindow], Outcome]


def moved(trial: SetupTrial, proposal: Proposal) -> SetupTrial:
    """What stands in the housing when a proposal was carried out."""
    return replace(
        trial,
        depth_shim_mm=proposal.depth_shim_mm,
        ring_side_mm=proposal.ring_side_mm,
        far_side_mm=proposal.far_side_mm,
        ring_side_notches=proposal.ring_side_notches,
        far_side_notches=proposal.far_side_notches,
        backlash=None,
        drive=None,
        coast=None,
        depth_error_mm=None,
        read_twice=False,
    )


def by_advice(axle: SimulatedAxle, known: GearSetDescription, window: SetupWindow) -> Outcome:
    """Does what `setup.advise` says, with what a technician knows of the set; every reading of a patch is kept."""
    trials, again, moves, needless = [axle.read()], 0, 0, 0
    said: list[tuple[float, bool]] = []
    while True:
        advice = advise_setup(SetupQuestion(set=known, adjust=axle.adjust, window=window, trials=trials))
        end: End = advice.state if advice.state in ("finished", "not_by_shims") else "gave_up"
        wants = advice.state in ("read_again", "measure") and len(trials[-1].seen("drive")) < MOST_REPEATS
        if wants:
            trials[-1] = _with_more(trials[-1], axle.read())
            again += 1
            continue
        if end != "gave_up" or moves == MOST_MOVES or not advice.proposals:
            return Outcome(end=end, moves=moves, read_again=again, truly_in=axle.lands(window), needless=needless, said=said)
        needless += axle.lands(window)
        axle.fit(moved(trials[-1], advice.proposals[0]))
        said.append((advice.proposals[0].odds, axle.lands(window)))
        moves += 1
        trials.append(axle.read())


def _with_more(trial: SetupTrial, read: SetupTrial) -> SetupTrial:
    """Both patches painted and read once more, and the backlash round the ring with them."""
    drive, coast = ([*trial.seen(flank), *read.seen(flank)] for flank in FLANKS)
    return replace(trial, backlash=[*trial.rounds, *read.rounds], drive=drive, coast=coast)


def by_rule_of_thumb(axle: SimulatedAxle, known: GearSetDescription, window: SetupWindow) -> Outcome:
    """Fixed fractions from the last trial alone: a depth step by how far the drive patch sits off, the ring by seven tenths.

    Only axles with side shims.
    """
    needless = 0
    for moves in range(MOST_MOVES + 1):
        seen = axle.read()
        drive, coast = seen.seen("drive")[0], seen.seen("coast")[0]
        in_window = (
            window.backlash_min_mm <= seen.rounds[0].mean_mm <= window.backlash_max_mm
            and window.pattern.drive.holds(drive.u, drive.v)
            and window.pattern.coast.holds(coast.u, coast.v)
        )
        if in_window or moves == MOST_MOVES:
            end: End = "finished" if in_window else "gave_up"
            return Outcome(end=end, moves=moves, read_again=0, truly_in=axle.lands(window), needless=needless, said=[])
        needless += axle.lands(window)
        axle.fit(_by_thumb(axle, seen, window))
    raise AssertionError("unreachable")


def _by_thumb(axle: SimulatedAxle, seen: SetupTrial, window: SetupWindow) -> SetupTrial:
    drive = seen.seen("drive")[0]
    assert seen.ring_side_mm is not None and seen.far_side_mm is not None
    off = drive.v - 0.5
    deeper = 0.0 if abs(off) < 0.08 else (0.05 if abs(off) < 0.2 else 0.10) * (1.0 if off > 0.0 else -1.0)
    ring = (window.middle_mm - seen.rounds[0].mean_mm) / 0.7
    if deeper == 0.0 and abs(ring) < 0.02 and abs(drive.u - 0.42) > 0.12:
        ring = 0.03 if drive.u < 0.42 else -0.03  # the length alone is off
    grown = deeper if axle.adjust.shim_place != "under_cartridge_flange" else -deeper
    return replace(
        axle.housing,
        depth_shim_mm=round(axle.housing.depth_shim_mm + grown, 2),
        ring_side_mm=round(seen.ring_side_mm - ring, 2),
        far_side_mm=round(seen.far_side_mm + ring, 2),
    )


def adjust_by_side_shims() -> Adjust:
    """Depth shim under the head, side shims: what the rules of thumb are made for."""
    return Adjust(shim_place="under_head", carrier="side_shims")
