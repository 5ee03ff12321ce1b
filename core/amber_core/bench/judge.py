"""Every verdict on a bench, once: each trial's backlash, patterns and torques, where contact stands, what the final reading still lacks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache, partial
from statistics import fmean
from typing import TypeVar

from amber_core.backlash.assess import BacklashRound, BacklashVerdict, assess_backlash
from amber_core.bench.state import BenchState, BenchTrial, Torque, by_place
from amber_core.circle import CircleReading
from amber_core.errors import InvalidInput
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.geometry import GearSetGeometry, complete_geometry
from amber_core.preload.assess import PreloadReadings, PreloadVerdict, assess_preload
from amber_core.preload.carrier import CarrierPreload, CarrierPreloadVerdict, Window, assess_carrier_preload
from amber_core.setup.judge import pattern_verdict
from amber_core.setup.painted import PatchRead, patch_read
from amber_core.setup.question import Flank, PatternWindow, SetupQuestion
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import listed, say

NOT_READ_AFTER_ASSEMBLY = say("Nothing has been read since the final assembly.")
V = TypeVar("V")
_UNCONFIRMED = say("The conditions of the final trial are not confirmed yet.")


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialVerdicts:
    """One trial's verdicts; None for what was not read.

    `drive`, `coast`: all readings of a patch together. `ring_move_mm`: from the trial before, + away from the pinion.

    `wrong`: why something that was read cannot be judged; what was stored before it was judged first is shown with it.
    """

    backlash: BacklashVerdict | None
    pattern: VerdictWord
    pattern_reasons: list[Reason]
    drive: PatchRead | None
    coast: PatchRead | None
    pinion: PreloadVerdict | None
    total: CarrierPreloadVerdict | None
    ring_move_mm: float | None
    wrong: list[Reason]


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchVerdicts:
    """Every verdict on a bench.

    Parameters
    ----------
    trials : list of TrialVerdicts
        In the order of the trials.
    backlash, pattern : VerdictWord
        Contact, by the last trial before the final assembly, unless the reading after it is out.
    missing : list of Reason
        What keeps the set-up from being done; empty when everything was read after the final assembly and is in.
    question : SetupQuestion or None
        What the advisor is asked.
    geometry : GearSetGeometry or None
        How the set answers to moves.
    set_wrong : str
        Why the set that was identified makes no gears; empty when it does, or none is known.
    """

    trials: list[TrialVerdicts]
    backlash: VerdictWord
    pattern: VerdictWord
    missing: list[Reason]
    question: SetupQuestion | None
    geometry: GearSetGeometry | None
    set_wrong: str


@lru_cache(maxsize=512)
def geometry_of(known: GearSetDescription) -> GearSetGeometry:
    """How a set answers to moves; kept, since it depends on the set alone.

    Raises
    ------
    InvalidInput
        When the tooth counts and the sheet make no set.
    """
    return complete_geometry(known)


def judge_bench(state: BenchState) -> BenchVerdicts:
    """All verdicts on a bench.

    Parameters
    ----------
    state : BenchState
        What is known of it, [mm, deg, N m].

    Returns
    -------
    BenchVerdicts
        Each worked out once.

    Notes
    -----
    A trial's readings count once its conditions are confirmed. A set whose teeth make no gears is said in `set_wrong`; everything that does
    not need it is judged all the same.
    """
    geometry, set_wrong = None, ""
    if state.set is not None:
        try:
            geometry = geometry_of(state.set)
        except InvalidInput as error:
            set_wrong = error.message
    aim = state.aim
    rounds = [_backlash(state, trial, aim, geometry) for trial in state.trials]
    question = None if set_wrong else state.question()
    noise = state.noise
    trials: list[TrialVerdicts] = []
    for index, trial in enumerate(state.trials):
        read: dict[Flank, PatchRead | None] = {"drive": patch_read(trial.drive, noise), "coast": patch_read(trial.coast, noise)}
        word, reasons = _pattern(state, trial, read)
        refused: list[Reason] = []
        before = state.trials[index - 1] if index else None
        trials.append(
            TrialVerdicts(
                backlash=rounds[index],
                pattern=word,
                pattern_reasons=reasons,
                drive=read["drive"],
                coast=read["coast"],
                pinion=_or_wrong(partial(_pinion, state, trial.pinion_torque), refused),
                total=_or_wrong(partial(_total, state, trial, rounds[index], aim), refused),
                ring_move_mm=None if before is None else state.adjust.ring_move_mm(before.sides, trial.sides),
                wrong=refused,
            )
        )
    backlash, pattern = _contact(state.trials, trials)
    missing = _missing(state, trials)
    return BenchVerdicts(
        trials=trials,
        backlash=backlash,
        pattern=pattern,
        missing=missing,
        question=question,
        geometry=geometry,
        set_wrong=set_wrong,
    )


@lru_cache(maxsize=4096)
def _assessed(
    readings: tuple[CircleReading, ...], aim: Window, variation_max_mm: float | None, resolution_mm: float, per_ring_move: float | None
) -> BacklashVerdict:
    """A round is judged once: earlier trials are the same whenever a bench is looked at.

    A place that was read again counts with its mean, so that more good readings never make a round wrong.
    """
    return assess_backlash(
        BacklashRound(
            readings=[CircleReading(angle_deg=place, value_mm=fmean(values)) for place, values in by_place(readings).items()],
            min_mm=aim.min,
            max_mm=aim.max,
            max_variation_mm=variation_max_mm,
            resolution_mm=resolution_mm,
            backlash_per_ring_move=per_ring_move,
        )
    )


def _backlash(state: BenchState, trial: BenchTrial, aim: Window, geometry: GearSetGeometry | None) -> BacklashVerdict | None:
    if not trial.readings:
        return None
    per_move = geometry.backlash_per_ring_move if geometry else None
    return _assessed(tuple(trial.readings), aim, state.limits.variation_max_mm, state.resolution_mm, per_move)


def _pattern(state: BenchState, trial: BenchTrial, read: dict[Flank, PatchRead | None]) -> tuple[VerdictWord, list[Reason]]:
    """In when both flanks were read and sit where they may; never judged before the set and its window are known."""
    goal = state.goal
    if state.set is None or goal is None or not trial.confirmed:
        return "unknown", []
    return pattern_verdict(read, goal.pattern)


def _pinion(state: BenchState, read: Torque | None) -> PreloadVerdict | None:
    if read is None:
        return None
    window = (state.limits.pinion_used if read.bearings == "used" else state.limits.pinion_new) or Window()
    return assess_preload(
        PreloadReadings(
            readings_nm=[read.value_nm],
            min_nm=window.min,
            max_nm=window.max,
            seal_drag_nm=read.seal_drag_nm,
            bearings=read.bearings,
            seal=read.seal,
            window_seal=state.limits.window_seal,
            resolution_nm=state.torque_resolution_nm,
        )
    )


def _total(state: BenchState, trial: BenchTrial, backlash: BacklashVerdict | None, aim: Window) -> CarrierPreloadVerdict | None:
    """The total torque with the carrier in, beside the pinion's own."""
    total, pinion = trial.total_torque, trial.pinion_torque
    if total is None or pinion is None or state.set is None:
        return None
    return assess_carrier_preload(
        CarrierPreload(
            pinion_nm=pinion.value_nm,
            total_nm=max(total.value_nm, pinion.value_nm),
            ring_teeth=state.set.ring_teeth,
            pinion_teeth=state.set.pinion_teeth,
            window=state.limits.total or Window(),
            window_kind="total_at_pinion",
            backlash_least_mm=backlash.least_mm if backlash else None,
            backlash_min_mm=aim.min,
            resolution_nm=state.torque_resolution_nm,
        )
    )


def _or_wrong(work: Callable[[], V | None], wrong: list[Reason]) -> V | None:
    """What comes out, or nothing and why."""
    try:
        return work()
    except InvalidInput as bad:
        wrong.append(Reason(code="cannot_be_judged", text=bad.message, field=bad.field or None))
        return None


def _contact(trials: list[BenchTrial], verdicts: list[TrialVerdicts]) -> tuple[VerdictWord, VerdictWord]:
    setting = [index for index, trial in enumerate(trials) if not trial.is_final]
    backlash, pattern = _of_trial(trials, verdicts, setting[-1] if setting else None)
    if trials and trials[-1].is_final:
        last_backlash, last_pattern = _of_trial(trials, verdicts, len(trials) - 1)
        backlash = last_backlash if last_backlash == "out" or not setting else backlash
        pattern = last_pattern if last_pattern == "out" or not setting else pattern
    return backlash, pattern


def _of_trial(trials: list[BenchTrial], verdicts: list[TrialVerdicts], index: int | None) -> tuple[VerdictWord, VerdictWord]:
    if index is None:
        return "unknown", "unknown"
    found = verdicts[index]
    read = found.backlash is not None and trials[index].confirmed
    return (found.backlash.verdict if read and found.backlash is not None else "unknown"), found.pattern


def _missing(state: BenchState, verdicts: list[TrialVerdicts]) -> list[Reason]:
    last = state.trials[-1] if state.trials else None
    if last is None or not last.is_final:
        return [Reason(code="not_read_after_assembly", text=NOT_READ_AFTER_ASSEMBLY)]
    if not last.confirmed:
        return [Reason(code="not_confirmed", text=_UNCONFIRMED)]
    found = verdicts[-1]
    parts: list[tuple[str, VerdictWord]] = [
        (say("backlash round the ring gear"), found.backlash.verdict if found.backlash else "unknown"),
        (say("both contact patterns"), found.pattern),
        (say("pinion rotating torque"), found.pinion.verdict if found.pinion else "unknown"),
    ]
    if state.limits.total is not None:
        parts.append((say("total rotating torque with the carrier in"), found.total.verdict if found.total else "unknown"))
    out = [name for name, word in parts if word == "out"]
    unread = [name for name, word in parts if word == "unknown"]
    reasons = []
    if out:
        reasons.append(Reason(code="final_out", text=say("Outside the window: {names}.", names=listed(out))))
    if unread:
        reasons.append(
            Reason(code="final_unread", text=say("Not read or not judged since the final assembly: {names}.", names=listed(unread)))
        )
    return reasons


def patterns_allowed(state: BenchState) -> PatternWindow:
    """Where the patterns may lie on this bench."""
    goal = state.goal
    return goal.pattern if goal is not None else PatternWindow()
