"""Whether a set-up is finished, wants a move or another reading, or cannot be cured by shims; with the reasons."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from amber_core.setup.decide import Weighed
from amber_core.setup.painted import PatchRead, patch_verdict, running_off
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import FLANKS, Flank, PatternWindow, SetupQuestion, SetupTrial
from amber_core.verdicts import SLACK, Reason, VerdictWord

State = Literal["finished", "move", "measure", "read_again", "not_by_shims"]
HOPELESS = 0.1
_OVER_NEW = "The backlash goes up to {:.2f} mm, over the greatest of a new set: a used pair keeps what it was found with."
OPPOSITE_OFF, OPPOSITE_BEFORE = 3.3, 1.0


def in_window(trial: SetupTrial, given: SetupQuestion, posterior: Posterior) -> tuple[bool, list[Reason]]:
    """Whether the readings themselves lie in the window or, read more than once, at its edge; and what keeps them from it."""
    window = given.goal
    reasons: list[Reason] = []
    notes: list[Reason] = []
    missing = [name for name in ("backlash", "drive", "coast") if getattr(trial, name) is None]
    if missing:
        reasons.append(Reason(code="not_read", text=f"Not read in this trial: {', '.join(missing)}.", field=f"trials.{missing[0]}"))
    if trial.backlash is not None:
        least = trial.backlash.least_mm if trial.backlash.least_mm is not None else trial.backlash.mean_mm
        greatest = trial.backlash.greatest_mm if trial.backlash.greatest_mm is not None else trial.backlash.mean_mm
        scatter = trial.backlash.one_sd_mm
        if least < window.backlash_min_mm - scatter - SLACK:
            reasons.append(Reason(code="under_min", text=f"The backlash comes down to {least:.2f} mm, under its least.", field="trials"))
        if greatest > window.backlash_max_mm + scatter + SLACK:
            reasons.append(Reason(code="over_max", text=f"The backlash goes up to {greatest:.2f} mm, over its greatest.", field="trials"))
        elif greatest > given.window.backlash_max_mm + SLACK:
            notes.append(Reason(code="over_new_max", text=_OVER_NEW.format(greatest), field="window.backlash_max_mm"))
    read = {flank: posterior.read(len(given.trials) - 1, flank) for flank in FLANKS}
    word, faults = pattern_verdict(read, window.pattern)
    (notes if word in ("in", "edge") else reasons).extend(faults)
    coast = read["coast"]
    if coast is not None and "toe" in coast.runs_off:
        text = "The coast pattern fades out at the toe; a little of that is usual without load."
        notes.append(Reason(code="coast_fades_at_toe", text=text, field="trials"))
    return not reasons, reasons + notes


def pattern_verdict(read: Mapping[Flank, PatchRead | None], pattern: PatternWindow) -> tuple[VerdictWord, list[Reason]]:
    """Both patterns as they were read, in the trade's words; what was not read is not judged."""
    words: set[VerdictWord] = {"unknown"} if None in read.values() else set()
    reasons: list[Reason] = []
    for flank in FLANKS:
        allowed = pattern.drive if flank == "drive" else pattern.coast
        if (seen := read[flank]) is not None:
            word, found = patch_verdict(flank, seen, allowed)
            words.add(word)
            reasons += found
    return next(one for one in ("out", "unknown", "edge", "in") if one in words), reasons


def _ran_off(posterior: Posterior, trial: int) -> bool:
    return any((read := posterior.read(trial, flank)) is not None and bool(running_off(flank, read)) for flank in FLANKS)


def judge_state(
    given: SetupQuestion, posterior: Posterior, acts: list[Weighed], good: bool, reasons: list[Reason], best_odds: float
) -> tuple[State, list[Reason]]:
    """The state, and why.

    Parameters
    ----------
    acts : list of Weighed
        Every act, the best first.
    good, reasons
        Of the readings themselves, as from `in_window`.
    best_odds : float
        Of the move that lands most often, [-].
    """
    last = given.trials[-1]
    cause = _not_by_shims(given, posterior)
    if cause is not None:
        return "not_by_shims", [cause]
    if last.backlash is None or (last.drive is None and last.coast is None and last.depth_error_mm is None):
        text = "Too little was read in this trial to move anything: measure the backlash and paint the teeth."
        return "measure", [Reason(code="too_little", text=text, field=f"trials[{len(given.trials) - 1}]")]
    wild = [one.observation for one in posterior.conflicts if one.observation.trial == len(given.trials) - 1]
    if wild and given.costs.read_minutes <= given.costs.move_minutes:
        text = "What was read last does not fit the rest: read it again before anything is moved."
        return "read_again", [Reason(code="contradicts", text=text, field=f"trials[{wild[0].trial}].{wild[0].what}")]
    if best_odds < HOPELESS and sum(_ran_off(posterior, trial) for trial in range(len(given.trials))) >= 2:
        text = (
            "The pattern runs off wherever backlash and both patterns sit in their windows: this pair is relieved otherwise than its "
            "sheet assumes, or it is not a pair. Check the match marks and the numbers on both gears."
        )
        return "not_by_shims", [Reason(code="runs_off_everywhere", text=text, field="trials"), *reasons]
    best = acts[0].act
    if best == "finished":
        where = "where they were found" if given.set_state == "used" and given.as_found is not None else "in their windows"
        text = f"Backlash and both patterns lie {where}: contact is finished. Leave it; read everything once more after the final assembly."
        return "finished", [Reason(code="in_window", text=text), *reasons]
    if best == "read_again":
        return "read_again", [_why_again(good), *reasons]
    if best == "measure":
        text = "Measuring tells enough about where the pinion stands to be worth its time."
        return "measure", [Reason(code="worth_measuring", text=text), *reasons]
    if good:
        text = "The readings lie in the window, but all trials together say that the gears stand at its edge."
        reasons = [Reason(code="lucky_reading", text=text), *reasons]
    return "move", reasons


def _why_again(good: bool) -> Reason:
    if good:
        text = "The readings lie in the window, but not surely enough to call it finished: paint and read once more."
        return Reason(code="not_sure_yet", text=text)
    text = "The last reading lies outside, but all trials together say that it may well be in: paint and read once more before any move."
    return Reason(code="nearly_in", text=text)


def _not_by_shims(given: SetupQuestion, posterior: Posterior) -> Reason | None:
    last, window = given.trials[-1].backlash, given.window
    if last is not None and window.variation_max_mm is not None and last.least_mm is not None and last.greatest_mm is not None:
        spread = last.greatest_mm - last.least_mm
        if spread > window.variation_max_mm + SLACK:
            text = (
                f"The backlash varies by {spread:.2f} mm round the ring: dirt under it, a bent flange or uneven bolts, "
                "and no shim cures that."
            )
            return Reason(code="variation", text=text, field="window.variation_max_mm")
    if _flanks_oppose(posterior, len(given.trials)):
        text = "Drive and coast ask for opposite depths: a wrong or mismatched pair, a bent case, or an offset that is off."
        return Reason(code="flanks_oppose", text=text, field="trials")
    return None


def _flanks_oppose(posterior: Posterior, trials: int) -> bool:
    """Whether drive and coast ask for opposite depths, clearly in the last trial and in none before the other way about."""
    for trial in range(trials):
        asked = posterior.depth_asked(trial)
        least = OPPOSITE_OFF if trial == trials - 1 else OPPOSITE_BEFORE
        if asked is None:
            if trial == trials - 1:
                return False
        elif asked[0] * asked[1] >= 0.0 or min(abs(asked[0]), abs(asked[1])) <= least:
            return False
    return True
