"""Whether a set-up is finished, wants a move or another reading, or cannot be cured by shims; with the reasons."""

from __future__ import annotations

from typing import Literal, Protocol

from amber_core.setup.outlook import Expected, running_off
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import PatchWindow, PatternWindow, SetupQuestion, SetupTrial, TrialPatch
from amber_core.verdicts import SLACK, Reason

State = Literal["finished", "move", "measure", "read_again", "not_by_shims"]
FINISHED_ODDS = 0.92
WORTH_A_MOVE = 0.05
HOPELESS = 0.1
_OVER_NEW = "The backlash goes up to {:.2f} mm, over the greatest of a new set: a used pair keeps what it was found with."
OPPOSITE_OFF, OPPOSITE_BEFORE = 3.3, 1.0


def in_window(trial: SetupTrial, given: SetupQuestion) -> tuple[bool, list[Reason]]:
    """Whether the readings themselves lie in the window, and what keeps them from it."""
    window = given.goal
    reasons: list[Reason] = []
    notes: list[Reason] = []
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
        elif greatest > given.window.backlash_max_mm + SLACK:
            notes.append(Reason(code="over_new_max", text=_OVER_NEW.format(greatest), field="window.backlash_max_mm"))
    reasons += pattern_faults(trial, window.pattern)
    if trial.coast is not None and "toe" in trial.coast.runs_off:
        text = "The coast pattern fades out at the toe; a little of that is usual without load."
        notes.append(Reason(code="coast_fades_at_toe", text=text, field="trials"))
    return not reasons, reasons + notes


class Painted(Protocol):
    """Whatever has the two patches of a trial."""

    @property
    def drive(self) -> TrialPatch | None: ...

    @property
    def coast(self) -> TrialPatch | None: ...


def pattern_faults(trial: Painted, pattern: PatternWindow) -> list[Reason]:
    """What is wrong with the patterns that were read, in the trade's words; empty when nothing is."""
    reasons = []
    for name, seen, allowed in (("drive", trial.drive, pattern.drive), ("coast", trial.coast, pattern.coast)):
        if seen is None:
            continue
        if not allowed.holds(seen.u, seen.v):
            words = " and ".join(_toward(seen, allowed))
            reasons.append(Reason(code=f"{name}_off", text=f"The {name} pattern sits too far toward the {words}.", field="trials"))
        for edge in running_off(name, seen):
            reasons.append(Reason(code=f"{name}_runs_off", text=f"The {name} pattern runs off at the {edge}.", field="trials"))
    return reasons


def _toward(seen: TrialPatch, allowed: PatchWindow) -> list[str]:
    found = []
    if seen.v < allowed.v_min or seen.v > allowed.v_max:
        found.append("root" if seen.v < allowed.v_min else "tip")
    if seen.u < allowed.u_min or seen.u > allowed.u_max:
        found.append("toe" if seen.u < allowed.u_min else "heel")
    return found


def _read_twice(given: SetupQuestion) -> bool:
    """Whether this housing was read before: said so, or given as another trial of the same shims."""
    last, before = given.trials[-1], given.trials[-2] if len(given.trials) > 1 else None
    same = before is not None and given.ring_change_mm(before, last) == 0.0 and before.depth_shim_mm == last.depth_shim_mm
    return last.read_twice or same


def _ran_off(trial: SetupTrial) -> bool:
    return any(patch is not None and running_off(name, patch) for name, patch in (("drive", trial.drive), ("coast", trial.coast)))


def judge_state(given: SetupQuestion, posterior: Posterior, stay: Expected, best: Expected) -> tuple[State, list[Reason]]:
    last = given.trials[-1]
    cause = _not_by_shims(given, posterior)
    if cause is not None:
        return "not_by_shims", [cause]
    wild = [one.observation for one in posterior.conflicts if one.observation.trial == len(given.trials) - 1]
    if wild:
        text = "What was read last does not fit the rest: read it again before anything is moved."
        return "read_again", [Reason(code="contradicts", text=text, field=f"trials[{wild[0].trial}].{wild[0].what}")]
    if last.backlash is None or (last.drive is None and last.coast is None and last.depth_error_mm is None):
        text = "Too little was read in this trial to move anything: measure the backlash and paint the teeth."
        return "measure", [Reason(code="too_little", text=text, field=f"trials[{len(given.trials) - 1}]")]
    good, reasons = in_window(last, given)
    gain = best.odds - stay.odds
    if good and (stay.odds >= FINISHED_ODDS or gain < WORTH_A_MOVE):
        where = "where they were found" if given.set_state == "used" and given.as_found is not None else "in their windows"
        text = f"Backlash and both patterns lie {where}: contact is finished. Leave it; read everything once more after the final assembly."
        return "finished", [Reason(code="in_window", text=text), *reasons]
    if not good and stay.odds >= FINISHED_ODDS and gain < WORTH_A_MOVE and not _read_twice(given):
        text = (
            "The last readings lie a little outside, but all trials together say that it is in: read them again before anything is moved."
        )
        return "read_again", [Reason(code="nearly_in", text=text, field=f"trials[{len(given.trials) - 1}]"), *reasons]
    if best.odds < HOPELESS and sum(_ran_off(one) for one in given.trials) >= 2:
        text = (
            "The pattern runs off wherever backlash and both patterns sit in their windows: this pair is relieved otherwise than its "
            "sheet assumes, or it is not a pair. Check the match marks and the numbers on both gears."
        )
        return "not_by_shims", [Reason(code="runs_off_everywhere", text=text, field="trials"), *reasons]
    if good:
        text = "The readings lie in the window, but all trials together say that the gears stand at its edge."
        reasons = [Reason(code="lucky_reading", text=text), *reasons]
    return "move", reasons


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
