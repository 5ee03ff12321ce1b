"""Which further reading would tell most."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np

from amber_core.setup.outlook import Outlook
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import SetupTrial
from amber_core.words import Said, say

WORTH_IT = 0.1
_KINDS: dict[str, tuple[list[int], list[float], Said]] = {
    "drive": ([0, 1], [0.05, 0.06], say("Paint the drive side")),
    "coast": ([2, 3], [0.05, 0.06], say("Paint the coast side")),
    "backlash": ([4], [0.01], say("Measure the backlash")),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class NextReading:
    """What to read, by which share it would cut the doubt of the worst known place [-], and the sentence for it."""

    what: str
    gain: float
    text: Said


def next_reading(trial: SetupTrial, posterior: Posterior, outlook: Outlook) -> NextReading | None:
    """The missing reading of this trial that tells most, or None when none is worth it.

    Notes
    -----
    The place's covariance is updated by each reading's rows of the model's slopes; set traits are taken as they are.
    """
    covariance = posterior.last_covariance
    slopes = outlook.look(posterior.last_place).place_slopes
    axis = 0 if covariance[0, 0] >= covariance[1, 1] else 1
    name = (say("pinion depth"), say("ring gear position"))[axis]
    found: NextReading | None = None
    for what, (rows, sds, sentence) in _KINDS.items():
        if getattr(trial, what):
            continue
        information = np.linalg.inv(covariance) + sum(np.outer(slopes[row], slopes[row]) / sd**2 for row, sd in zip(rows, sds, strict=True))
        left = np.linalg.inv(information)
        gain = 1.0 - sqrt(float(left[axis, axis]) / float(covariance[axis, axis]))
        if gain > WORTH_IT and (found is None or gain > found.gain):
            found = NextReading(
                what=what,
                gain=gain,
                text=say("{act}: it would make the {name} {gain:.0f} % more certain.", act=sentence, name=name, gain=100 * gain),
            )
    return found
