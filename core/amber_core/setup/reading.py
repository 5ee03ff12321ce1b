"""Which further reading would tell most."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np

from amber_core.setup.outlook import Outlook
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import SetupTrial

WORTH_IT = 0.1
_KINDS: dict[str, tuple[list[int], list[float], str]] = {
    "drive": ([0, 1], [0.05, 0.06], "Paint the drive side"),
    "coast": ([2, 3], [0.05, 0.06], "Paint the coast side"),
    "backlash": ([4], [0.01], "Measure the backlash"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class NextReading:
    """What to read, by which share it would cut the doubt of the worst known place [-], and the sentence for it."""

    what: str
    gain: float
    text: str


def next_reading(trial: SetupTrial, posterior: Posterior, outlook: Outlook) -> NextReading | None:
    """The missing reading of this trial that tells most, or None when none is worth it.

    Notes
    -----
    The place's covariance is updated by each reading's rows of the model's slopes; set traits are taken as they are.
    """
    covariance = posterior.last_covariance
    slopes = outlook.look(posterior.last_place).place_slopes
    axis = 0 if covariance[0, 0] >= covariance[1, 1] else 1
    name = ("pinion depth", "ring position")[axis]
    found: NextReading | None = None
    for what, (rows, sds, sentence) in _KINDS.items():
        if getattr(trial, what) is not None:
            continue
        information = np.linalg.inv(covariance) + sum(np.outer(slopes[row], slopes[row]) / sd**2 for row, sd in zip(rows, sds, strict=True))
        left = np.linalg.inv(information)
        gain = 1.0 - sqrt(float(left[axis, axis]) / float(covariance[axis, axis]))
        if gain > WORTH_IT and (found is None or gain > found.gain):
            found = NextReading(what=what, gain=gain, text=f"{sentence}: it would cut the doubt about the {name} by {100 * gain:.0f} %.")
    return found
