"""What to do next as a decision: each act with the minutes that it is expected to cost until the set-up is done.

Symbols: p odds that it is in as it stands; q odds that a move lands; c_m, c_r, c_w minutes of a move, of a reading, of a wrong finish.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from amber_core.gearset.flank import Field
from amber_core.setup.outlook import Outlook, inside_limits
from amber_core.setup.painted import EDGE, PatchRead
from amber_core.setup.question import Costs

Act = Literal["finished", "read_again", "measure", "move"]
_Short = NDArray[np.float32]
"""Of so many samples, weighed against one another, half the digits are enough."""
Patches = tuple[PatchRead | None, PatchRead | None]
_SAMPLES, _READINGS = 400, 40
"""Of the estimate's samples these are enough to weigh acts, and so many readings are thought through; odds are told from all samples."""
_AHEAD = (1, 2, 4, 8)
_FURTHER = 4
_SURER = 3.0
"""The model is not all that can be wrong with a finish, so it counts for more than its odds say."""
_ALIKE = 0.03
"""Of a move: what differs by less is alike, and the smaller move is made."""
_REGRET = 3.0
"""What taking apart a set that was in counts for beside its minutes, in moves."""
_PATIENCE = 0.2
"""What a reading counts for against a move, as a share of its minutes: rather one too many than an axle taken apart for nothing."""
_MAY_BE_IN = 0.2
"""Odds from which that is so; a set that is surely out is taken apart for something, and a reading of it counts for all its minutes."""
_ENOUGH_MOVES, _STILL_LIKELY = 2, 0.6
"""After so many moves a set is as good as it gets where no move would be surer than `confidence`, unless none is even this likely."""
_LANDS = np.array([0.0, 0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.95, 1.0])
_FOLLOWS = np.array([4.0, 2.6, 2.2, 1.6, 0.9, 0.55, 0.35, 0.15, 0.05])
"""Odds that a move lands, and what follows it until the set-up is done, as a share of a move: figures of many simulated set-ups."""


@dataclass(frozen=True)
class Place:
    """A place that can be had: what is seen there sample by sample, the odds that it is in [-], and what getting there costs [min].

    `rows` are the readings of `SEEN` and, of each edge where a patch was seen to run off, how far it lies beyond that.
    """

    rows: Field
    odds: float
    minutes: float


@dataclass(frozen=True)
class Weighed:
    """An act with what it is expected to cost until the set-up is done [min], the odds that it brings it to an end [-], and what it counts
    for [min]: its minutes, and what taking apart a set that was in counts for beside them; a reading counts for less `against_a_move`."""

    act: Act
    minutes: float
    odds: float
    counts: float
    against_a_move: float = np.inf


def _surprise(shown: Field, expected: Field) -> _Short:
    """What each reading shows beyond what each sample would, shape (numbers of a reading, readings, samples)."""
    return np.ascontiguousarray((shown.T[:, :, None] - expected.T[:, None, :]).astype(np.float32))


def after_a_move(odds: Field | float, costs: Costs) -> Field:
    """What follows a move that lands with these odds, [min].

    Notes
    -----
    A place that is only likely has to be read more often, and moved again more often.
    """
    found: Field = costs.move_minutes * np.interp(np.asarray(odds), _LANDS, _FOLLOWS)
    return found


class Decision:
    """All acts from one estimate, weighed.

    Parameters
    ----------
    outlook : Outlook
        Samples of the estimate.
    now : Place
        Where the last trial stands.
    moves : sequence of Place
        The moves that can be made, of those alike the smaller first.
    costs : Costs
        [min].
    confidence : float
        The least odds at which anything is called finished, [-]. After two moves, where none would reach it, it is the odds of the best
        one instead: that is as good as this set gets, and moving on for ever costs more.
    read : tuple of PatchRead or None
        Both patches as they were read; None for one that was not.
    sds : ndarray
        Scatter of one more reading of drive and coast (u, v, u, v), [-]; where the backlash is read with them, also of its mean and of how
        far it swings, [mm].

    Notes
    -----
    A reading that is thought through shifts every sample by the gain of a linear estimate, as an ensemble Kalman filter does: with so
    many numbers read at once, samples weighed by likelihood alone would soon be too few.
    """

    def __init__(
        self, outlook: Outlook, now: Place, moves: Sequence[Place], costs: Costs, confidence: float, read: Patches, sds: Field
    ) -> None:
        self.now, self.moves, self.costs = now, moves, costs
        self.confidence, self.read, self.sds = confidence, read, sds
        self.low, self.high = outlook.limits
        self._swing = outlook.swing_scatter
        odds = np.array([one.odds for one in moves])
        reached = max((one.odds for one in moves), default=confidence)
        self.as_good_as_it_gets = len(outlook.posterior.places) > _ENOUGH_MOVES and _STILL_LIKELY <= reached < confidence
        if self.as_good_as_it_gets:
            self.confidence = reached
        self._plain = np.array([one.minutes for one in moves]) + self._after(odds)
        self._order = sorted(range(len(moves)), key=lambda one: float(self._plain[one]))

    def finish(self, odds: Field | float) -> Field:
        """What calling it finished is expected to cost, [min]; endless under the least odds."""
        odds = np.asarray(odds)
        found: Field = np.where(odds >= self.confidence, _SURER * self.costs.wrong_minutes * (1.0 - odds), np.inf)
        return found

    def _after(self, odds: Field) -> Field:
        """What follows a move that lands with these odds, [min]; where it never gets surer, it is finished at these odds in the end."""
        in_the_end = _SURER * self.costs.wrong_minutes * (1.0 - odds) if self.as_good_as_it_gets else 0.0
        return after_a_move(odds, self.costs) + in_the_end

    def weigh_moves(self) -> list[tuple[int, Weighed]]:
        """Every move with what it is expected to cost, the best first."""
        alike = max(_ALIKE * max(self.costs.move_minutes, self.costs.read_minutes), 1e-12)
        order = sorted(range(len(self.moves)), key=lambda one: (round(float(self._plain[one]) / alike), one))
        regret = float(self._regret(self.now.odds))
        return [(one, Weighed("move", minutes := float(self._plain[one]), self.moves[one].odds, minutes + regret)) for one in order]

    def weigh_reading(self) -> Weighed:
        """Painting and reading once more, the backlash with it, and again as long as that pays."""
        few = slice(None, None, max(1, len(self.now.rows) // _SAMPLES))
        swing = self._swing[few]
        seen = np.column_stack([self.now.rows[few, :4], self.now.rows[few, 4] - swing, swing])[:, : len(self.sds)]
        draw = np.random.default_rng(31)
        own, noise = draw.standard_normal(seen.shape), draw.standard_normal((_READINGS, seen.shape[1]))
        chosen = seen[np.linspace(0, len(seen) - 1, _READINGS).astype(int)]
        best, patient = Weighed("read_again", np.inf, 0.0, np.inf), np.inf
        patience = float(np.interp(self.now.odds, [0.0, _MAY_BE_IN], [1.0, _PATIENCE]))
        for ahead in _AHEAD:
            sds = self.sds / np.sqrt(ahead)
            shown = chosen + noise * sds
            surprise = _surprise(shown, seen + own * sds)
            weight: Field = np.asarray(np.linalg.inv(np.cov(seen.T) + np.diag(sds**2)), dtype=np.float64)
            stays = self._odds_after(self.now.rows[few], seen, surprise, weight)
            end = np.where(self._may_end(shown, ahead), self.finish(stays), np.inf)
            go = self._go_after(few, seen, surprise, weight)
            regret = self._regret(stays)
            ends, spent = end <= go + regret, ahead * self.costs.read_minutes
            then = float(np.minimum(end, go + regret).mean())
            patient = min(patient, patience * spent + then)
            if spent + then < best.counts:
                best = Weighed("read_again", spent + float(np.where(ends, end, go).mean()), float(ends.mean()), spent + then)
        return replace(best, against_a_move=patient)

    def weigh_measuring(self, depth: Field, sd_mm: float) -> Weighed:
        """Measuring the depth while it is apart, and then moving.

        Parameters
        ----------
        depth : ndarray
            Where the pinion stands, sample by sample, [mm].
        sd_mm : float
            Scatter of the measurement, [mm].
        """
        few = slice(None, None, max(1, len(depth) // _SAMPLES))
        seen = depth[few, None]
        draw = np.random.default_rng(37)
        own, noise = draw.standard_normal(seen.shape), draw.standard_normal((_READINGS, 1))
        shown = seen[np.linspace(0, len(seen) - 1, _READINGS).astype(int)] + sd_mm * noise
        surprise = _surprise(shown, seen + sd_mm * own)
        weight = np.array([[1.0 / (float(seen.var()) + sd_mm**2)]])
        minutes = self.costs.measure_minutes + float(self._go_after(few, seen, surprise, weight).mean())
        return Weighed("measure", minutes, 0.0, minutes + float(self._regret(self.now.odds)))

    def _regret(self, odds: Field | float) -> Field:
        """What a move counts for beside its minutes where the odds are such that it is in as it stands, [min]."""
        return _REGRET * self.costs.move_minutes * np.asarray(odds)

    def _go_after(self, few: slice, seen: Field, surprise: _Short, weight: Field) -> Field:
        """What the cheapest move is expected to cost after each reading, shape (readings,), [min]."""
        found: Field = np.full(surprise.shape[1], np.inf)
        for one in (self.moves[one] for one in self._order[:_FURTHER]):
            lands = self._odds_after(one.rows[few], seen, surprise, weight)
            found = np.minimum(found, one.minutes + self._after(lands))
        return found

    def _odds_after(self, rows: Field, seen: Field, surprise: _Short, weight: Field) -> Field:
        """Odds of a place after each reading, shape (readings,)."""
        centred = rows - rows.mean(axis=0)
        gain = (centred.T @ (seen - seen.mean(axis=0)) / (len(seen) - 1)) @ weight
        shifted = (gain.astype(np.float32) @ surprise.reshape(len(surprise), -1)).reshape(-1, *surprise.shape[1:])
        shifted += rows.T.astype(np.float32)[:, None, :]
        odds: Field = inside_limits(shifted, (self.low.astype(np.float32), self.high.astype(np.float32))).mean(axis=1)
        return odds

    def _may_end(self, shown: Field, ahead: int) -> NDArray[np.bool_]:
        """Whether the mean of all readings, with these, would lie in the window or at its edge."""
        good = np.ones(len(shown), dtype=np.bool_)
        for row, read in ((0, self.read[0]), (2, self.read[1])):
            for axis in (0, 1):
                own = float(self.sds[row + axis]) / np.sqrt(ahead)
                mean, error = shown[:, row + axis], own
                if read is not None:
                    before, sd = (read.u, read.sd_u) if axis == 0 else (read.v, read.sd_v)
                    share = own**2 / (own**2 + sd**2)
                    mean, error = share * before + (1.0 - share) * mean, own * sd / float(np.hypot(own, sd))
                elif ahead == 1:
                    error = 0.0
                good &= (mean >= self.low[row + axis] - EDGE * error) & (mean <= self.high[row + axis] + EDGE * error)
        return good
