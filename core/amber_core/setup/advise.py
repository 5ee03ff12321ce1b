"""The next move of a set-up, with its odds: or that it is finished, wants another reading, or cannot be shimmed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from amber_core.carrier.move import SidePicks
from amber_core.gearset.flank import Field
from amber_core.setup.moves import DepthChoice, SideChoice, depth_choices, same_sides, side_choice
from amber_core.setup.outlook import Expected, Outlook
from amber_core.setup.posterior import Posterior, Residual
from amber_core.setup.question import SetupQuestion, SetupTrial, TrialPatch
from amber_core.setup.reading import NextReading, next_reading
from amber_core.shims.pick import ShimStack
from amber_core.verdicts import SLACK, Reason

State = Literal["finished", "move", "measure", "read_again", "not_by_shims"]
CONFLICT_OFF = 2.6
FINISHED_ODDS = 0.8
WORTH_A_MOVE = 0.08
OPPOSITE_OFF = 2.0
WELL_ENOUGH = 0.9


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
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceEstimate:
    """Where the last trial stands [mm], covariance [mm^2], and the set's slope there, plunger [mm/mm]."""

    pinion_mm: float
    ring_mm: float
    covariance: list[list[float]]
    backlash_per_ring_move: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialConflict:
    """An observation that the rest contradicts."""

    trial: int
    field: str
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupAdvice:
    """What to do next and why; proposals best first."""

    state: State
    reasons: list[Reason]
    estimate: PlaceEstimate
    conflicts: list[TrialConflict]
    proposals: list[Proposal]
    next_reading: NextReading | None


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
    of that estimate, with the scatter of another assembly, whose backlash and both patterns lie in the window. Of moves with
    nearly the same odds the smaller is taken. "Finished" wants the readings in the window and the estimate not to contradict
    them; used sets that go back to as-found are not judged here.

    Examples
    --------
    >>> from amber_core.gearset.description import GearSetDescription
    >>> from amber_core.setup.question import Adjust, SetupWindow, TrialBacklash
    >>> known = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
    >>> trial = SetupTrial(depth_shim_mm=1.0, ring_side_mm=4.0, far_side_mm=4.0, backlash=TrialBacklash(mean_mm=0.16),
    ...     drive=TrialPatch(u=0.6, v=0.75), coast=TrialPatch(u=0.5, v=0.7))
    >>> question = SetupQuestion(set=known, adjust=Adjust(shim_place="under_head", carrier="side_shims"),
    ...     window=SetupWindow(backlash_min_mm=0.13, backlash_max_mm=0.20), trials=[trial])
    >>> advise_setup(question).proposals[0].depth_shim_mm > 1.0  # toward the tip: the pinion wants to go deeper
    True
    """
    posterior = Posterior(given)
    outlook = Outlook(posterior, given.window)
    now = np.array(posterior.last_place)
    stay = outlook.expected(now, moved=False)
    candidates = _candidates(given, outlook, now)
    best = max(candidates, key=lambda one: (round(one.expected.odds / 0.02), -one.size_mm))
    state, reasons = _state(given, posterior, stay, best)
    slope = float(outlook.place_slopes(now)[4, 1])
    covariance = [[float(one) for one in row] for row in posterior.last_covariance]
    return SetupAdvice(
        state=state,
        reasons=reasons,
        estimate=PlaceEstimate(pinion_mm=float(now[0]), ring_mm=float(now[1]), covariance=covariance, backlash_per_ring_move=slope),
        conflicts=_conflicts(posterior.residuals),
        proposals=[] if state in ("finished", "not_by_shims") else _proposals(given, candidates, best),
        next_reading=next_reading(given.trials[-1], posterior, outlook),
    )


def _candidates(given: SetupQuestion, outlook: Outlook, now: Field) -> list[_Candidate]:
    found = []
    for depth in depth_choices(given, float(outlook.target[0] - now[0])):
        pinion = float(now[0]) + depth.pinion_change_mm
        wanted = outlook.best_ring_mm(pinion) - float(now[1])
        for side in (side_choice(given, wanted, depth.shim_mm), same_sides(given, depth.shim_mm)):
            place = np.array([pinion, float(now[1]) + side.ring_change_mm])
            found.append(_Candidate(depth=depth, side=side, expected=outlook.expected(place)))
    return found


def _in_window(trial: SetupTrial, given: SetupQuestion) -> tuple[bool, list[Reason]]:
    """Whether the readings themselves lie in the window, and what keeps them from it."""
    window, reasons = given.window, []
    missing = [name for name in ("backlash", "drive", "coast") if getattr(trial, name) is None]
    if missing:
        reasons.append(Reason(code="not_read", text=f"Not read in this trial: {', '.join(missing)}.", field=f"trials.{missing[0]}"))
    if trial.backlash is not None:
        least = trial.backlash.least_mm if trial.backlash.least_mm is not None else trial.backlash.mean_mm
        greatest = trial.backlash.greatest_mm if trial.backlash.greatest_mm is not None else trial.backlash.mean_mm
        if least < window.backlash_min_mm - SLACK:
            reasons.append(Reason(code="under_min", text=f"The backlash comes down to {least:.2f} mm, under its least.", field="trials"))
        if greatest > window.backlash_max_mm + SLACK:
            reasons.append(Reason(code="over_max", text=f"The backlash goes up to {greatest:.2f} mm, over its greatest.", field="trials"))
    for name, seen, allowed in (("drive", trial.drive, window.pattern.drive), ("coast", trial.coast, window.pattern.coast)):
        if seen is None:
            continue
        if not allowed.holds(seen.u, seen.v):
            reasons.append(Reason(code=f"{name}_off", text=f"The {name} pattern sits outside its place.", field="trials"))
        for edge in _running_off(name, seen):
            reasons.append(Reason(code=f"{name}_runs_off", text=f"The {name} pattern runs off at the {edge}.", field="trials"))
    return not reasons, reasons


def _running_off(name: str, seen: TrialPatch) -> list[str]:
    """Edges that count as out: a slight fade at the toe of the coast flank does not."""
    return [edge for edge in seen.runs_off if not (edge == "toe" and name == "coast")]


def _state(given: SetupQuestion, posterior: Posterior, stay: Expected, best: _Candidate) -> tuple[State, list[Reason]]:
    last = given.trials[-1]
    cause = _not_by_shims(given, posterior.residuals)
    if cause is not None:
        return "not_by_shims", [cause]
    wild = [one for one in posterior.residuals if abs(one.off) > CONFLICT_OFF and one.trial == len(given.trials) - 1]
    if wild:
        text = "What was read last does not fit the rest: read it again before anything is moved."
        return "read_again", [Reason(code="contradicts", text=text, field=f"trials[{wild[0].trial}].{wild[0].what}")]
    if last.backlash is None or (last.drive is None and last.coast is None and last.depth_error_mm is None):
        text = "Too little was read in this trial to move anything: measure the backlash and paint the teeth."
        return "measure", [Reason(code="too_little", text=text, field=f"trials[{len(given.trials) - 1}]")]
    good, reasons = _in_window(last, given)
    gain = best.expected.odds - stay.odds
    if good and (stay.odds >= FINISHED_ODDS or gain < WORTH_A_MOVE):
        text = (
            "Backlash and both patterns lie in their windows: contact is finished. Leave it; "
            "read everything once more after the final assembly."
        )
        return "finished", [Reason(code="in_window", text=text)]
    if good:
        text = "The readings lie in the window, but all trials together say that the gears stand at its edge."
        reasons = [Reason(code="lucky_reading", text=text)]
    return "move", reasons


def _not_by_shims(given: SetupQuestion, residuals: list[Residual]) -> Reason | None:
    last, window = given.trials[-1].backlash, given.window
    if last is not None and window.variation_max_mm is not None and last.least_mm is not None and last.greatest_mm is not None:
        spread = last.greatest_mm - last.least_mm
        if spread > window.variation_max_mm + SLACK:
            text = (
                f"The backlash varies by {spread:.2f} mm round the ring: dirt under it, a bent flange or uneven bolts, "
                "and no shim cures that."
            )
            return Reason(code="variation", text=text, field="window.variation_max_mm")
    depth = {one.what: one.off for one in residuals if one.trial == len(given.trials) - 1}
    drive, coast = depth.get("drive.v", 0.0), depth.get("coast.v", 0.0)
    if drive * coast < 0.0 and min(abs(drive), abs(coast)) > OPPOSITE_OFF:
        text = "Drive and coast ask for opposite depths: a wrong or mismatched pair, a bent case, or an offset that is off."
        return Reason(code="flanks_oppose", text=text, field="trials")
    return None


def _conflicts(residuals: list[Residual]) -> list[TrialConflict]:
    return [
        TrialConflict(
            trial=one.trial,
            field=one.what,
            text=f"Trial {one.trial + 1}: {one.what.replace('.', ' ')} lies {abs(one.off):.1f} spreads from what all trials together say.",
        )
        for one in residuals
        if abs(one.off) > CONFLICT_OFF
    ]


def _proposals(given: SetupQuestion, candidates: list[_Candidate], best: _Candidate) -> list[Proposal]:
    found = [_proposal(given, "best", best)]
    moving = [one for one in candidates if one.size_mm > 1e-9]
    nearly = [one for one in moving if one.expected.odds >= WELL_ENOUGH * best.expected.odds and one.size_mm < best.size_mm - 1e-9]
    if nearly:
        found.append(_proposal(given, "smallest", min(nearly, key=lambda one: one.size_mm)))
    depth_only = [one for one in moving if one.side.ring_change_mm == 0.0]
    ring_only = [one for one in moving if one.depth.pinion_change_mm == 0.0]
    for kind, group in (("depth_only", depth_only), ("ring_only", ring_only)):
        if group:
            found.append(_proposal(given, kind, max(group, key=lambda one: one.expected.odds)))  # type: ignore[arg-type]
    return [found[0], *sorted(found[1:], key=lambda one: -one.odds)]


def _proposal(given: SetupQuestion, kind: Literal["best", "smallest", "depth_only", "ring_only"], one: _Candidate) -> Proposal:
    last, trial, seen = given.trials[-1], one.side.trial, one.expected.seen
    picks: SidePicks | None = one.side.picks
    grown = one.depth.shim_mm - last.depth_shim_mm
    turned = trial.ring_side_notches is not None and last.ring_side_notches is not None
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
        expected=ExpectedReadings(
            backlash_mm=float(seen[4]),
            backlash_sd_mm=one.expected.backlash_sd_mm,
            drive=Middle(u=float(seen[0]), v=float(seen[1])),
            coast=Middle(u=float(seen[2]), v=float(seen[3])),
        ),
        odds=one.expected.odds,
        text=_in_words(given, one),
    )


def _in_words(given: SetupQuestion, one: _Candidate) -> str:
    grown = one.depth.shim_mm - given.trials[-1].depth_shim_mm
    depth = "Leave the depth shim."
    if abs(grown) > 1e-9:
        verb, where = ("Add", "to") if grown > 0 else ("Take", "out of")
        depth = f"{verb} {abs(grown):.2f} mm {where} the depth shim: {one.depth.shim_mm:.2f} mm."
    ring = one.side.ring_change_mm
    if abs(ring) < 1e-9:
        return f"{depth} Leave the ring."
    return f"{depth} Move the ring {abs(ring):.2f} mm {'away from' if ring > 0 else 'toward'} the pinion."
