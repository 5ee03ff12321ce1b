"""The next move of a set-up, with its odds: or that it is finished, wants another reading, or cannot be shimmed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from amber_core.carrier.move import SidePicks
from amber_core.gearset.flank import Field
from amber_core.setup.decide import Decision, Place, Weighed
from amber_core.setup.judge import State, in_window, judge_state
from amber_core.setup.moves import DepthChoice, SideChoice, depth_choices, same_sides, side_choice
from amber_core.setup.outlook import Expected, Outlook
from amber_core.setup.painted import EDGE_WORDS, FLANK_WORDS
from amber_core.setup.posterior import Posterior, Residual
from amber_core.setup.question import DEPTH_SD_MM, FLANKS, MOST_REPEATS, Costs, Edge, SetupQuestion, SetupTrial
from amber_core.setup.reading import NextReading, next_reading
from amber_core.shims.pick import ShimStack
from amber_core.verdicts import Reason
from amber_core.words import Said, say, together

WELL_ENOUGH = 0.9
_WORTH_MEASURING = 0.7
"""Measuring is advised where it saves at least this share of itself: it takes the axle apart, and a move does so anyway."""
_ROOM_ENOUGH, _NEAR_THE_EDGE = 0.85, 0.6
_EDGES: tuple[tuple[Edge, Edge], ...] = (("toe", "heel"), ("root", "tip"))
_NO_MOVE_MM = 0.015
"""Less than this is what any assembly does of itself: no move, [mm]."""
_NAMES = {
    "drive": say("the drive pattern"),
    "coast": say("the coast pattern"),
    "backlash": say("the backlash"),
    "depth_error_mm": say("the measured depth"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Middle:
    """Middle of a patch, [-]."""

    u: float
    v: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ExpectedReadings:
    """Backlash with its spread [mm] and both patterns [-] after a move."""

    backlash_mm: float
    backlash_sd_mm: float
    drive: Middle
    coast: Middle


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupPicks:
    """The stacks out of the drawers; None for what stays."""

    depth: ShimStack | None
    ring_side: ShimStack | None
    far_side: ShimStack | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """A move: new stacks [mm] or adjuster positions and turns [notches, + = in], what to expect, and the model's odds [-]."""

    kind: Literal["best", "smallest", "depth_only", "ring_only"]
    depth_shim_mm: float
    ring_side_mm: float | None
    far_side_mm: float | None
    ring_side_notches: int | None
    far_side_notches: int | None
    ring_side_notches_move: int | None
    far_side_notches_move: int | None
    spacer_change_mm: float | None
    picks: SetupPicks | None
    expected: ExpectedReadings
    odds: float
    text: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceEstimate:
    """Where the last trial stands [mm], covariance [mm^2], and the set's slope there, plunger [mm/mm]."""

    pinion_mm: float
    ring_mm: float
    covariance: list[list[float]]
    backlash_per_ring_move: float


@dataclass(frozen=True, slots=True, kw_only=True)
class IdealMove:
    """The move with the best odds if any shim could be had: depth shim and ring move, + away from the pinion [mm], odds [-]."""

    depth_shim_mm: float
    ring_move_mm: float
    odds: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialConflict:
    """An observation that the rest contradicts."""

    trial: int
    field: str
    text: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class Act:
    """Something that can be done now: minutes that it is expected to cost until the set-up is done, and the odds that it ends it [-]."""

    act: Literal["finished", "read_again", "measure", "move"]
    minutes: float
    odds: float
    text: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupAdvice:
    """What to do next and why; `stay_odds` that it is in as it stands [-]; proposals best first."""

    state: State
    reasons: list[Reason]
    estimate: PlaceEstimate
    stay_odds: float
    acts: list[Act]
    ideal: IdealMove
    conflicts: list[TrialConflict]
    proposals: list[Proposal]
    next_reading: NextReading | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Prediction:
    """Where a move would put the gears [mm], what to expect there, and the model's odds of the window [-]."""

    pinion_mm: float
    ring_mm: float
    expected: ExpectedReadings
    odds: float


@dataclass(frozen=True)
class _Candidate:
    depth: DepthChoice
    side: SideChoice
    expected: Expected

    @property
    def size_mm(self) -> float:
        return abs(self.depth.pinion_change_mm) + abs(self.side.ring_change_mm)


def advise_setup(given: SetupQuestion) -> SetupAdvice:
    """The next move of a set-up.

    Parameters
    ----------
    given : SetupQuestion
        Set, adjustment, window, all trials, drawers; [mm], patterns [-].

    Returns
    -------
    SetupAdvice
        State, estimate [mm], proposals with odds [-].

    Raises
    ------
    InvalidInput
        From SetupQuestion, with the field, or when no such set can exist.

    Notes
    -----
    All trials go into one nonlinear least-squares estimate that also learns the set's own traits. Odds are the share of samples
    of that estimate, with the scatter of another assembly, whose backlash and both patterns lie in the window. Acts (leave it, read
    again, measure, move) are weighed by the minutes that each is expected to cost until the set-up is done; of moves nearly alike the
    smaller is taken, and what may well be in is rather read again than taken apart. "Finished" wants odds of `confidence` at least and
    readings that do not contradict it by more than their scatter allows. A used set goes back to as it was found, never under the
    least backlash.

    Examples
    --------
    >>> from amber_core.gearset.description import GearSetDescription
    >>> from amber_core.setup.question import Adjust, SetupWindow, TrialBacklash, TrialPatch
    >>> known = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
    >>> trial = SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.0, far_side_mm=4.0, backlash=TrialBacklash(mean_mm=0.16),
    ...     drive=TrialPatch(u=0.6, v=0.75), coast=TrialPatch(u=0.5, v=0.7))
    >>> question = SetupQuestion(set=known, adjust=Adjust(shim_place="under_head", carrier="side_shims"),
    ...     window=SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20), trials=[trial])
    >>> advise_setup(question).proposals[0].depth_shim_mm > 1.0  # toward the tip: the pinion wants to go deeper
    True
    """
    return Advisor(given).advice()


class Advisor:
    """One estimate of a set-up, to be asked for advice, for what any move would bring, and for where the trials stand."""

    def __init__(self, given: SetupQuestion) -> None:
        self.given = given
        self.posterior = Posterior(given)
        self.outlook = Outlook(self.posterior, given.goal)

    def advice(self) -> SetupAdvice:
        """The next move."""
        given, posterior, outlook = self.given, self.posterior, self.outlook
        now = posterior.last_place
        stay = outlook.expected(now, moved=False)
        moves = sorted((one for one in _candidates(given, outlook, now) if one.size_mm > _NO_MOVE_MM), key=lambda one: one.size_mm)
        decision = self._decision(stay, moves)
        weighed = decision.weigh_moves()
        moves = [moves[one] for one, _ in weighed]
        best = moves[0] if moves else None
        good, reasons = in_window(given.trials[-1], given, posterior)
        acts = weighed_acts(decision, stay.odds, good, [one for _, one in weighed[:1]] + self._measuring(decision))
        reasons = [*reasons, *self._near_the_edge(best)]
        state, reasons = judge_state(given, posterior, acts, good, reasons, max((one.expected.odds for one in moves), default=stay.odds))
        if state == "finished" and decision.as_good_as_it_gets and stay.odds < given.confidence:
            reasons.append(Reason(code="as_good_as_it_gets", text=say("No shims would bring this gear set in more surely than it is now.")))
        if best is None and state in ("move", "read_again", "measure"):
            reasons = [
                Reason(
                    code="no_shims",
                    text=say("No shim in the drawer would make a difference. Enter what the drawer holds in the Stores, or order shims."),
                ),
                *reasons,
            ]
        slope = float(outlook.look(now).place_slopes[4, 1])
        covariance = [[float(one) for one in row] for row in posterior.last_covariance]
        return SetupAdvice(
            state=state,
            reasons=reasons,
            estimate=PlaceEstimate(pinion_mm=float(now[0]), ring_mm=float(now[1]), covariance=covariance, backlash_per_ring_move=slope),
            stay_odds=stay.odds,
            acts=[_act(one, given.costs) for one in acts if np.isfinite(one.minutes)],
            ideal=self._ideal(now, best),
            conflicts=_conflicts(posterior.conflicts),
            proposals=[] if best is None or state in ("finished", "not_by_shims") else _proposals(given, moves, best),
            next_reading=next_reading(given.trials[-1], posterior, outlook),
        )

    def _decision(self, stay: Expected, moves: list[_Candidate]) -> Decision:
        given, posterior, last = self.given, self.posterior, len(self.given.trials) - 1
        press = given.costs.press_minutes if given.pressed else 0.0
        places = [
            Place(
                rows=one.expected.rows,
                odds=one.expected.odds,
                minutes=given.costs.move_minutes + (press if one.depth.pinion_change_mm else 0.0),
            )
            for one in moves
        ]
        sds = []
        for flank in FLANKS:
            seen = given.trials[-1].seen(flank)
            noise = posterior.noise.of(seen[-1].by, seen[-1].how) if seen else posterior.noise.of("", "eye")
            sds += [noise.sd_u, noise.sd_v]
        rounds = given.trials[-1].rounds
        if rounds and all(len(rounds) >= len(given.trials[-1].seen(flank)) for flank in FLANKS):  # else somebody reads the patches alone
            sds += [rounds[-1].sd_mm, rounds[-1].swing_sd_mm]
        read = (posterior.read(last, "drive"), posterior.read(last, "coast"))
        now = Place(rows=stay.rows, odds=stay.odds, minutes=0.0)
        return Decision(self.outlook, now, places, given.costs, given.confidence, read, np.array(sds))

    def _measuring(self, decision: Decision) -> list[Weighed]:
        """Measuring the depth, where it was not."""
        if self.given.trials[-1].depth_error_mm is not None or not decision.moves:
            return []
        return [decision.weigh_measuring(self.outlook.place_deviation[:, 0], DEPTH_SD_MM)]

    def _near_the_edge(self, best: _Candidate | None) -> list[Reason]:
        """A set whose cut leaves little room: even where it fits best, a pattern lies near the edge of its window."""
        if best is not None and best.expected.odds >= _ROOM_ENOUGH:
            return []
        outlook = self.outlook
        middle, half = outlook.windows
        off = ((outlook.look(outlook.best_place).values - middle) / half)[:4]
        row = int(np.argmax(np.abs(off)))
        if abs(float(off[row])) < _NEAR_THE_EDGE:
            return []
        flank, edge = FLANKS[row // 2], _EDGES[row % 2][int(off[row] > 0.0)]
        text = say(
            "This gear set is cut near the edge: even where it fits best, the {flank} pattern sits toward the {edge}.",
            flank=FLANK_WORDS[flank],
            edge=EDGE_WORDS[edge],
        )
        return [Reason(code="near_edge_by_cut", text=text, field="set")]

    def _ideal(self, now: Field, best: _Candidate | None) -> IdealMove:
        given, place = self.given, self.outlook.best_place
        odds = self.outlook.expected(place).odds
        if best is not None and best.expected.odds >= odds:  # no shim that the shop lacks would do better
            return IdealMove(depth_shim_mm=best.depth.shim_mm, ring_move_mm=best.side.ring_change_mm, odds=best.expected.odds)
        deeper = float(place[0] - now[0]) * (1.0 if given.adjust.shim_place == "under_cartridge_flange" else -1.0)
        shim = max(0.0, given.trials[-1].depth_shim_mm + deeper)
        return IdealMove(depth_shim_mm=shim, ring_move_mm=float(place[1] - now[1]), odds=odds)

    def prediction(self, housing: SetupTrial) -> Prediction:
        """What to expect when this stands in the housing instead: readings [mm, -], and odds of the window [-]."""
        given, last = self.given, self.given.trials[-1]
        pinion = given.pinion_change_mm(last.depth_shim_mm, housing.depth_shim_mm)
        place = self.posterior.last_place + np.array([pinion, given.ring_change_mm(last, housing)])
        expected = self.outlook.expected(place)
        return Prediction(pinion_mm=float(place[0]), ring_mm=float(place[1]), expected=_readings(expected), odds=expected.odds)


def _act(one: Weighed, costs: Costs) -> Act:
    percent = min(99, max(1, round(100.0 * one.odds)))
    text = {
        "finished": say("{percent} % likely to be in as it stands.", percent=percent),
        "read_again": say("Painting and reading everything again takes {read_minutes:.0f} minutes.", read_minutes=costs.read_minutes),
        "measure": say(
            "Measuring the pinion depth while it is apart takes {measure_minutes:.0f} minutes.", measure_minutes=costs.measure_minutes
        ),
        "move": say(
            "A move takes {move_minutes:.0f} minutes or more and is {percent} % likely to bring it in.",
            move_minutes=costs.move_minutes,
            percent=percent,
        ),
    }
    return Act(act=one.act, minutes=one.minutes, odds=one.odds, text=text[one.act])


def weighed_acts(decision: Decision, stay: float, good: bool, others: list[Weighed]) -> list[Weighed]:
    """Every act, the best first, then by what they are expected to cost."""
    read = max((one.count for one in decision.read if one is not None), default=1)
    again = decision.weigh_reading() if read < MOST_REPEATS else Weighed("read_again", np.inf, 0.0, np.inf)
    ends = float(decision.finish(stay)) if good else np.inf
    found = [Weighed("finished", ends, stay, ends), again, *others]
    to_be_had = [one for one in found if np.isfinite(one.counts)] or [Weighed("move", np.inf, 0.0, np.inf)]  # one that wants other shims
    rather = {"measure": _WORTH_MEASURING * decision.costs.measure_minutes}
    best = min(to_be_had, key=lambda one: one.counts + rather.get(one.act, 0.0))
    if best.act in ("move", "measure") and again.against_a_move < best.counts:
        best = again
    return [best, *sorted((one for one in to_be_had if one is not best), key=lambda one: one.minutes)]


def _candidates(given: SetupQuestion, outlook: Outlook, now: Field) -> list[_Candidate]:
    found = []
    for depth in depth_choices(given, float(outlook.best_place[0] - now[0])):
        pinion = float(now[0]) + depth.pinion_change_mm
        wanted = outlook.best_ring_mm(pinion) - float(now[1])
        for side in (side_choice(given, wanted, depth.shim_mm), same_sides(given, depth.shim_mm)):
            place = np.array([pinion, float(now[1]) + side.ring_change_mm])
            found.append(_Candidate(depth=depth, side=side, expected=outlook.expected(place)))
    return found


def _conflicts(residuals: list[Residual]) -> list[TrialConflict]:
    return [
        TrialConflict(
            trial=one.observation.trial,
            field=one.observation.what,
            text=say(
                "Trial {trial}: {reading} is {off:.0f} times its usual scatter away from what all the other readings say.",
                trial=one.observation.trial + 1,
                reading=_NAMES[one.observation.reading],
                off=abs(one.off),
            ),
        )
        for one in residuals
    ]


def _proposals(given: SetupQuestion, moves: list[_Candidate], best: _Candidate) -> list[Proposal]:
    found = [_proposal(given, "best", best)]
    nearly = [one for one in moves if one.expected.odds >= WELL_ENOUGH * best.expected.odds and one.size_mm < best.size_mm - 1e-9]
    if nearly:
        found.append(_proposal(given, "smallest", min(nearly, key=lambda one: one.size_mm)))
    depth_only = [one for one in moves if one.side.ring_change_mm == 0.0]
    ring_only = [one for one in moves if one.depth.pinion_change_mm == 0.0]
    for kind, group in (("depth_only", depth_only), ("ring_only", ring_only)):
        if group:
            found.append(_proposal(given, kind, max(group, key=lambda one: one.expected.odds)))  # type: ignore[arg-type]
    return [found[0], *sorted(found[1:], key=lambda one: -one.odds)]


def _proposal(given: SetupQuestion, kind: Literal["best", "smallest", "depth_only", "ring_only"], one: _Candidate) -> Proposal:
    last, trial = given.trials[-1], one.side.trial
    picks: SidePicks | None = one.side.picks
    grown = one.depth.shim_mm - last.depth_shim_mm
    turned = given.adjust.carrier == "adjusters"
    return Proposal(
        kind=kind,
        depth_shim_mm=one.depth.shim_mm,
        ring_side_mm=trial.ring_side_mm,
        far_side_mm=trial.far_side_mm,
        ring_side_notches=trial.ring_side_notches,
        far_side_notches=trial.far_side_notches,
        ring_side_notches_move=trial.ring_side_notches - last.ring_side_notches if turned else None,  # type: ignore[operator]
        far_side_notches_move=trial.far_side_notches - last.far_side_notches if turned else None,  # type: ignore[operator]
        spacer_change_mm=grown if given.adjust.shim_place == "behind_cup" else None,
        picks=None
        if given.stock is None
        else SetupPicks(depth=one.depth.pick, ring_side=picks.ring_side if picks else None, far_side=picks.far_side if picks else None),
        expected=_readings(one.expected),
        odds=one.expected.odds,
        text=_in_words(given, one),
    )


def _readings(one: Expected) -> ExpectedReadings:
    drive_u, drive_v, coast_u, coast_v, backlash = (float(value) for value in one.seen)
    return ExpectedReadings(
        backlash_mm=backlash,
        backlash_sd_mm=one.backlash_sd_mm,
        drive=Middle(u=drive_u, v=drive_v),
        coast=Middle(u=coast_u, v=coast_v),
    )


def _in_words(given: SetupQuestion, one: _Candidate) -> Said:
    grown, shim = one.depth.shim_mm - given.trials[-1].depth_shim_mm, one.depth.shim_mm
    if abs(grown) <= 1e-9:
        depth = say("Leave the depth shim.")
    elif grown > 0:
        depth = say("Add {change:mm2} to the depth shim: {shim:mm2}.", change=grown, shim=shim)
    else:
        depth = say("Take {change:mm2} out of the depth shim: {shim:mm2}.", change=-grown, shim=shim)
    ring = one.side.ring_change_mm
    if abs(ring) < 1e-9:
        side = say("Leave the ring gear.")
    elif ring > 0:
        side = say("Move the ring gear {change:mm2} away from the pinion.", change=ring)
    else:
        side = say("Move the ring gear {change:mm2} toward the pinion.", change=-ring)
    return together([depth, side])
