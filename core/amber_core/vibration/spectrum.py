"""From samples to amplitudes over frequency, whole and piece by piece."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

Field = npt.NDArray[np.float64]
WindowName = Literal["hann", "flat_top", "none"]
MOST_SAMPLES = 4_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectrumQuestion:
    """Samples in any unit, samples a second [Hz], window, length of a piece [s] and the share by which pieces overlap [-]."""

    samples: list[float]
    rate_hz: float
    window: WindowName = "hann"
    segment_s: float | None = None
    overlap: float = 0.5

    def __post_init__(self) -> None:
        checks.within("rate_hz", self.rate_hz, 0.1, 1e6, say("Sample rate must be 0.1 to 1 000 000 Hz."))
        checks.within("overlap", self.overlap, 0.0, 0.95, say("Overlap must be 0 to 0.95."))
        checks.within("segment_s", self.segment_s, 1e-4, 1e5, say("Piece length must be more than 0."))
        if not 8 <= len(self.samples) <= MOST_SAMPLES:
            raise InvalidInput("samples", say("Give 8 to {most_samples} samples.", most_samples=MOST_SAMPLES))
        if self.points > len(self.samples):
            raise InvalidInput("segment_s", say("The piece is longer than the recording."))
        if self.points < 8:
            raise InvalidInput("segment_s", say("A piece must have at least 8 samples."))

    @property
    def points(self) -> int:
        """Samples in a piece: two seconds when not said, the whole when that is shorter."""
        wanted = 2.0 if self.segment_s is None else self.segment_s
        found = round(wanted * self.rate_hz)
        return min(found, len(self.samples)) if self.segment_s is None else found


@dataclass(frozen=True, slots=True, kw_only=True)
class Waterfall:
    """Middles of the pieces [s], frequencies [Hz], peak amplitudes [piece][frequency] in the samples' unit."""

    time_s: list[float]
    frequency_hz: list[float]
    amplitude: list[list[float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Spectrum:
    """Frequencies [Hz], single-sided peak amplitude over all pieces in the samples' unit, and the pieces."""

    frequency_hz: list[float]
    amplitude: list[float]
    waterfall: Waterfall


def spectrum(given: SpectrumQuestion) -> Spectrum:
    """Peak amplitudes over frequency.

    Parameters
    ----------
    given : SpectrumQuestion
        x, f_s [Hz], piece [s], overlap [-].

    Returns
    -------
    Spectrum
        A sine of amplitude A on a line of the spectrum shows A there. Pieces are averaged in power.

    Raises
    ------
    InvalidInput
        From SpectrumQuestion, with the field.

    Notes
    -----
    The mean of each piece is taken off, the window's mean put right. Frequencies are spaced 1 / piece. Source: averaged periodograms
    (Welch).

    Examples
    --------
    >>> import math
    >>> wave = [3.0 * math.sin(2 * math.pi * 10 * n / 100) for n in range(400)]
    >>> found = spectrum(SpectrumQuestion(samples=wave, rate_hz=100))
    >>> round(max(found.amplitude), 6), found.frequency_hz[found.amplitude.index(max(found.amplitude))]
    (3.0, 10.0)
    """
    time, frequency, power = pieces(np.array(given.samples), given.rate_hz, given.points, given.overlap, given.window)
    return Spectrum(
        frequency_hz=frequency.tolist(),
        amplitude=np.sqrt(power.mean(axis=0)).tolist(),
        waterfall=Waterfall(time_s=time.tolist(), frequency_hz=frequency.tolist(), amplitude=np.sqrt(power).tolist()),
    )


def pieces(samples: Field, rate_hz: float, points: int, overlap: float, window: WindowName = "hann") -> tuple[Field, Field, Field]:
    """Middles of pieces [s], frequencies [Hz], squared peak amplitudes (pieces, frequencies); `samples` (n,) or (n, axes), axes added."""
    shape = _window(window, points)
    step = max(1, round(points * (1.0 - overlap)))
    columns = samples if samples.ndim == 2 else samples[:, None]
    power: Field | None = None
    for column in columns.T:
        frames = np.lib.stride_tricks.sliding_window_view(column, points)[::step]
        lines = np.fft.rfft((frames - frames.mean(axis=1, keepdims=True)) * shape, axis=1)
        squared = (2.0 / shape.sum()) ** 2 * (lines.real**2 + lines.imag**2)
        power = squared if power is None else power + squared
    assert power is not None
    power[:, 0] /= 4.0
    if points % 2 == 0:
        power[:, -1] /= 4.0
    middle = np.asarray((np.arange(len(power)) * step + points / 2.0) / rate_hz, dtype=np.float64)
    return middle, np.asarray(np.fft.rfftfreq(points, 1.0 / rate_hz), dtype=np.float64), power


def _window(name: WindowName, points: int) -> Field:
    at = 2.0 * np.pi * np.arange(points) / points
    parts = {"none": [1.0], "hann": [0.5, -0.5], "flat_top": [0.21557895, -0.41663158, 0.277263158, -0.083578947, 0.006947368]}
    found: Field = np.sum([weight * np.cos(order * at) for order, weight in enumerate(parts[name])], axis=0)
    return found


def peaks_of(frequency: Field, amplitude: Field, *, least_hz: float, most_hz: float, most: int = 8) -> list[tuple[float, float]]:
    """The strongest local maxima well above what lies around them: frequency [Hz], put between the lines by a parabola, and amplitude."""
    inside = np.flatnonzero((frequency[1:-1] >= least_hz) & (frequency[1:-1] <= most_hz)) + 1
    high = inside[(amplitude[inside] > amplitude[inside - 1]) & (amplitude[inside] >= amplitude[inside + 1])]
    if not len(high):
        return []
    floor = float(np.median(amplitude[inside]))
    found = []
    for index in high:
        left, here, right = amplitude[index - 1 : index + 2]
        if here < 3.0 * floor:
            continue
        bend = left - 2.0 * here + right
        shift = 0.5 * (left - right) / bend if bend < 0.0 else 0.0
        found.append((float(frequency[index] + shift * (frequency[1] - frequency[0])), float(here)))
    found.sort(key=lambda one: -one[1])
    return found[:most]
