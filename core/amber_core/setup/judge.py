"""Whether a set-up is finished, wants a move or another reading, or cannot be cured by shims; with the reasons."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from amber_core.setup.decide import Weighed
from amber_core.setup.painted import PatchRead, patch_verdict, running_off
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import FLANKS, Flank, PatternWindow, SetupQuestion, SetupTrial, of_all_rounds
from amber_core.verdicts import SLACK, Reason, VerdictWord
from amber_core.words import listed, say

State = Literal["finished", "move", "measure", "read_again", "not_by_shims"]
HOPELESS = 0.1
_READ_WORDS = {"backlash": say("backlash"), "drive": say("drive pattern"), "coast": say("coast pattern")}
OPPOSITE_OFF, OPPOSITE_BEFORE = 3.3, 1.0


def in_window(trial: SetupTrial, given: SetupQuestion, posterior: Posterior) -> tuple[bool, list[Reason]]:
    """Whether the readings themselves lie in the window or, read more than once, at its edge; and what keeps them from it."""
    window = given.goal
    reasons: list[Reason] = []
    notes: list[Reason] = []
    missing = [name for name in ("backlash", "drive", "coast") if not getattr(trial, name)]
    if missing:
        reasons.append(
            Reason(
                code="not_read",
                text=say("Not read in this trial: {names}.", names=listed(_READ_WORDS[name] for name in missing)),
                field=f"trials.{missing[0]}",
            )
        )
    backlash = of_all_rounds(trial.rounds)
    if backlash is not None:
        least = backlash.least_mm if backlash.least_mm is not None else backlash.mean_mm
        greatest = backlash.greatest_mm if backlash.greatest_mm is not None else backlash.mean_mm
        scatter = backlash.one_sd_mm
        if least < window.backlash_min_mm - scatter - SLACK:
            reasons.append(
                Reason(code="under_min", text=say("The least backlash is {least:mm2}, under the minimum.", least=least), field="trials")
            )
        if greatest > window.backlash_max_mm + scatter + SLACK:
            reasons.append(
                Reason(
                    code="over_max",
                    text=say("The greatest backlash is {greatest:mm2}, over the maximum.", greatest=greatest),
                    field="trials",
                )
            )
        elif greatest > given.window.backlash_max_mm + SLACK:
            notes.append(
                Reason(
                    code="over_new_max",
                    text=say(
                        "The greatest backlash is {greatest:mm2}, over the maximum for a new gear set. A used gear "
                        "set keeps its as-found backlash.",
                        greatest=greatest,
                    ),
                    field="window.backlash_max_mm",
                )
            )
    read = {flank: posterior.read(len(given.trials) - 1, flank) for flank in FLANKS}
    word, faults = pattern_verdict(read, window.pattern)
    (notes if word in ("in", "edge") else reasons).extend(faults)
    coast = read["coast"]
    if coast is not None and "toe" in coast.runs_off:
        text = say("The coast pattern fades out at the toe. A little of that is usual without load.")
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
    if not last.rounds or (not last.seen("drive") and not last.seen("coast") and last.depth_error_mm is None):
        text = say("There are too few readings in this trial to move anything. Measure the backlash and paint the teeth.")
        return "measure", [Reason(code="too_little", text=text, field=f"trials[{len(given.trials) - 1}]")]
    wild = [one.observation for one in posterior.conflicts if one.observation.trial == len(given.trials) - 1]
    if wild and given.costs.read_minutes <= given.costs.move_minutes:
        text = say("The last reading does not fit the rest. Read it again before you move anything.")
        return "read_again", [Reason(code="contradicts", text=text, field=f"trials[{wild[0].trial}].{wild[0].what}")]
    if best_odds < HOPELESS and sum(_ran_off(posterior, trial) for trial in range(len(given.trials))) >= 2:
        text = say(
            "The pattern runs off even where backlash and both patterns are in their windows. This gear set is "
            "not cut the way its sheet says, or the two are not a pair. Check the match marks and the numbers on "
            "both gears."
        )
        return "not_by_shims", [Reason(code="runs_off_everywhere", text=text, field="trials"), *reasons]
    best = acts[0].act
    if best == "finished":
        as_found = given.set_state == "used" and given.as_found is not None
        text = (
            say(
                "Backlash and both patterns are as found: the set-up is finished. Leave it, and read "
                "everything again after the final assembly."
            )
            if as_found
            else say(
                "Backlash and both patterns are in their windows: the set-up is finished. Leave it, and "
                "read everything again after the final assembly."
            )
        )
        return "finished", [Reason(code="in_window", text=text), *reasons]
    if best == "read_again":
        return "read_again", [_why_again(good), *reasons]
    if best == "measure":
        text = say("Measuring the pinion depth tells enough to be worth the time.")
        return "measure", [Reason(code="worth_measuring", text=text), *reasons]
    if good:
        text = say("The readings are in the window, but all the trials together put the gears at its edge.")
        reasons = [Reason(code="lucky_reading", text=text), *reasons]
    return "move", reasons


def _why_again(good: bool) -> Reason:
    if good:
        text = say("The readings are in the window, but not surely enough to call it finished. Paint it and read it again.")
        return Reason(code="not_sure_yet", text=text)
    text = say(
        "The last reading is outside, but all the trials together say it may well be in. Paint it and read "
        "it again before you move anything."
    )
    return Reason(code="nearly_in", text=text)


def _not_by_shims(given: SetupQuestion, posterior: Posterior) -> Reason | None:
    last, window = of_all_rounds(given.trials[-1].rounds), given.window
    if last is not None and window.variation_max_mm is not None and last.least_mm is not None and last.greatest_mm is not None:
        spread = last.greatest_mm - last.least_mm
        if spread > window.variation_max_mm + SLACK:
            text = say(
                "The backlash varies by {spread:mm2} round the ring gear: dirt under it, a bent flange or uneven "
                "bolts. No shim cures that.",
                spread=spread,
            )
            return Reason(code="variation", text=text, field="window.variation_max_mm")
    if _flanks_oppose(posterior, len(given.trials)):
        text = say(
            "Drive and coast ask for opposite pinion depths: a wrong or mismatched gear set, a bent axle housing, or a wrong offset."
        )
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
