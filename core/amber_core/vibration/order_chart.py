"""A recorded drive as an order chart: amplitude over road speed and frequency, and what fits its peaks."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from amber_core.vibration.spectrum import peaks_of, pieces

Field = npt.NDArray[np.float64]
SEGMENT_S = 2.0
SPEED_CELLS = 48
FREQUENCY_CELLS = 160
LEAST_HZ = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderChart:
    """Edges of the cells [km/h] and [Hz], mean peak amplitude of each cell [speed][frequency] in the samples' unit, null where there was
    no such speed; the spectrum at `reference_kmh`, each piece's frequencies stretched by reference over its own speed [Hz]; its peaks."""

    speed_edges_kmh: list[float]
    frequency_edges_hz: list[float]
    cells: list[list[float | None]]
    reference_kmh: float
    frequency_hz: list[float]
    amplitude: list[float]
    peaks: list[list[float]]
    resolution_hz: float
    seconds: float


def order_chart(samples: Field, rate_hz: float, time_s: Field, speed_kmh: Field, *, most_hz: float | None = None) -> OrderChart:
    """Spectra over road speed.

    Parameters
    ----------
    samples : array (n, axes)
        Evenly sampled acceleration.
    rate_hz : float
        Samples a second, [Hz].
    time_s, speed_kmh : array (m,)
        Road speed at times from the first sample, [s], [km/h].
    most_hz : float, optional
        Highest frequency of interest; half the rate without, [Hz].

    Notes
    -----
    Pieces of two seconds (shorter for short recordings), half overlapping. Whatever turns with the wheels keeps its place in the stretched
    spectrum while the speed changes, and what does not is smeared.
    """
    points = int(min(SEGMENT_S * rate_hz, len(samples)))
    middle, frequency, power = pieces(samples, rate_hz, points, 0.5)
    speed = np.interp(middle, time_s, speed_kmh)
    top = min(most_hz or rate_hz / 2.0, rate_hz / 2.0)
    moving = speed > 3.0
    if not moving.any():
        moving = np.ones_like(moving)
        speed = np.maximum(speed, 1.0)
    middle, power, speed = middle[moving], power[moving], speed[moving]
    reference = float(np.median(speed))
    stretched = np.mean([np.interp(frequency * own / reference, frequency, row) for own, row in zip(speed, power, strict=True)], axis=0)
    amplitude = np.sqrt(stretched)
    resolution = float(frequency[1])
    across, upward, cells = _cells(speed, frequency, power, top)
    return OrderChart(
        speed_edges_kmh=across,
        frequency_edges_hz=upward,
        cells=cells,
        reference_kmh=reference,
        frequency_hz=frequency[frequency <= top].tolist(),
        amplitude=amplitude[frequency <= top].tolist(),
        peaks=[[hz, height] for hz, height in peaks_of(frequency, amplitude, least_hz=LEAST_HZ, most_hz=0.95 * top)],
        resolution_hz=resolution,
        seconds=len(samples) / rate_hz,
    )


def _cells(speed: Field, frequency: Field, power: Field, top: float) -> tuple[list[float], list[float], list[list[float | None]]]:
    low, high = float(speed.min()), float(speed.max())
    if high - low < 2.0:  # a steady drive is one column
        low, high, columns = low - 1.0, high + 1.0, 1
    else:
        columns = int(min(SPEED_CELLS, max(2, len(speed) // 3)))
    across = np.linspace(low, high, columns + 1)
    upward = np.linspace(0.0, top, min(FREQUENCY_CELLS, len(frequency)) + 1)
    column = np.clip(np.searchsorted(across, speed, side="right") - 1, 0, columns - 1)
    row = np.searchsorted(upward, frequency, side="right") - 1
    cells: list[list[float | None]] = []
    for index in range(columns):
        mine = power[column == index]
        if not len(mine):
            cells.append([None] * (len(upward) - 1))
            continue
        mean = mine.mean(axis=0)
        cells.append([_highest(mean, row == place) for place in range(len(upward) - 1)])
    return across.tolist(), upward.tolist(), cells


def _highest(mean: Field, inside: npt.NDArray[np.bool_]) -> float | None:
    """A line between two frequencies must not vanish in a mean: the cell shows its strongest line."""
    return float(np.sqrt(mean[inside].max())) if inside.any() else None
