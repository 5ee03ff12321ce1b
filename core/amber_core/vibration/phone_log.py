"""Reads what phone loggers write: lines of time and acceleration, whatever their separators, columns and units, piece by piece."""

from __future__ import annotations

import codecs
import io
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from amber_core.errors import InvalidInput
from amber_core.vibration.log_layout import (
    ACCELERATION_UNITS,
    SPEED_UNITS,
    TIME_UNITS,
    Layout,
    clock_s,
    detect,
    guess_axis_unit,
    guess_time_unit,
    number_or_nan,
    split_line,
)

Field = npt.NDArray[np.float64]
_HEAD_BYTES = 65536
_MOST_BAD = 0.01
_LEAST_SECONDS = 2.0
_LEAST_RATE_HZ = 20.0
_MOST_RATE_HZ = 20000.0
_LONGEST_LINE = 10_000  # characters
_MOST_SECONDS = 2.0 * 3600.0
_MOST_GAP_S = 60.0
_MOST_SAMPLES = 10_000_000
_MOST_M_S2 = 1e5  # ten thousand times gravity
_MOST_KMH = 500.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Log:
    """Times from the first sample [s]; acceleration (samples, axes) [m/s^2]; road speed [km/h] where the file has one; in sentences what
    was taken for what."""

    time_s: Field
    acceleration_m_s2: Field
    speed_kmh: Field | None
    notes: list[str]


class LogReader:
    """Fed with bytes as they come; holds numbers, never the text.

    Raises
    ------
    InvalidInput
        With a sentence on what the file is not; the field is ``file``.
    """

    def __init__(self) -> None:
        self._decoder = codecs.getincrementaldecoder("utf-8-sig")(errors="replace")
        self._left = ""
        self._head = ""
        self._layout: Layout | None = None
        self._blocks: list[Field] = []
        self._notes: list[str] = []
        self._line = 0
        self._bad = 0
        self._good = 0
        self._first_bad = ""

    def feed(self, chunk: bytes) -> None:
        """Take the next bytes."""
        if b"\x00" in chunk:
            raise InvalidInput("file", "This is not a text file: export the recording as CSV and read that in.")
        text = self._decoder.decode(chunk)
        if self._layout is None:
            self._head += text
            if len(self._head) < _HEAD_BYTES:
                return
            text, self._head = self._head, ""
            text = self._begin(text)
        self._take(text)

    def finish(self) -> Log:
        """What was read.

        Raises
        ------
        InvalidInput
            When it is no usable recording.
        """
        tail = self._decoder.decode(b"", final=True)
        if self._layout is None:
            tail = self._begin(self._head + tail)
        self._take(tail + "\n")
        if not self._blocks:
            raise InvalidInput("file", "The file has a header but no line with numbers below it.")
        if self._bad > max(3, _MOST_BAD * (self._good + self._bad)):
            raise InvalidInput("file", f"{self._bad} lines cannot be read; the first is {self._first_bad}.")
        if self._bad:
            self._notes.append(f"{self._bad} lines that are no numbers were left out; the first is {self._first_bad}.")
        return _log(np.vstack(self._blocks), self._layout_known, self._notes)

    @property
    def _layout_known(self) -> Layout:
        assert self._layout is not None
        return self._layout

    def _begin(self, text: str) -> str:
        """Find out the layout; what follows the header."""
        lines = text.splitlines()
        if any(len(line) > _LONGEST_LINE for line in lines):
            raise InvalidInput("file", f"A line has more than {_LONGEST_LINE} characters: a logger writes one sample a line.")
        self._layout, skipped, notes = detect(lines)
        self._notes += notes
        self._line = skipped
        return "\n".join(lines[skipped:]) + ("\n" if text.endswith("\n") else "")

    def _take(self, text: str) -> None:
        whole = self._left + text
        cut = max(whole.rfind("\n"), whole.rfind("\r")) + 1
        self._left = whole[cut:]
        if len(self._left) > _LONGEST_LINE:
            raise InvalidInput("file", f"A line has more than {_LONGEST_LINE} characters: a logger writes one sample a line.")
        if cut:
            self._numbers(whole[:cut])

    def _numbers(self, text: str) -> None:
        layout = self._layout_known
        lines = [line for line in text.splitlines() if line.strip()]
        if not lines:
            return
        plain = [line.replace(",", ".") for line in lines] if layout.comma else lines
        block: Field | None = None
        if not layout.clock:
            try:
                source = io.StringIO("\n".join(plain))
                delimiter = None if layout.separator == " " else layout.separator
                block = np.loadtxt(source, delimiter=delimiter, usecols=layout.columns, ndmin=2, comments=None)
            except (ValueError, IndexError):
                block = None  # some line is no numbers: one by one
        if block is None:
            block = self._one_by_one(plain)
        self._line += len(lines)
        if len(block):
            finite = np.isfinite(block[:, : 1 + len(layout.axes)]).all(axis=1)
            self._bad += int((~finite).sum())
            self._good += int(finite.sum())
            self._blocks.append(block[finite])

    def _one_by_one(self, lines: list[str]) -> Field:
        layout = self._layout_known
        rows = []
        for number, line in enumerate(lines, start=self._line + 1):
            parts = split_line(line, layout.separator)
            try:
                first = clock_s(parts[layout.time]) if layout.clock else float(parts[layout.time])
                rest = [number_or_nan(parts[at]) if at == layout.speed else float(parts[at]) for at in layout.columns[1:]]
                rows.append([first, *rest])
            except (ValueError, IndexError, OverflowError):
                self._bad += 1
                if not self._first_bad:
                    self._first_bad = f"line {number}: “{line[:60]}”"
        return np.array(rows).reshape(len(rows), len(layout.columns))


def _log(table: Field, layout: Layout, notes: list[str]) -> Log:
    time = table[:, 0]
    with np.errstate(over="ignore"):
        order = np.diff(time)
    if (order < 0.0).sum() > _MOST_BAD * len(time):
        raise InvalidInput("file", "Time does not run forward from line to line: is the first column the time?")
    keep = np.concatenate([[True], order > 0.0]) & (time >= np.maximum.accumulate(time))
    table, time = table[keep], time[keep]
    if len(time) < 2:
        raise InvalidInput("file", "All lines carry the same time: is the first column the time?")
    step = float(np.median(np.diff(time)))
    time_unit = "s" if layout.clock else layout.time_unit or guess_time_unit(step)
    time = (time - time[0]) * TIME_UNITS[time_unit]
    if layout.time_unit is None and not layout.clock:
        notes.append(f"The file does not say the unit of time; steps of {step:g} were taken for {time_unit}.")
    seconds, steps = float(time[-1]), np.diff(time)
    rate = 1.0 / max(float(np.median(steps)), 1e-12)
    if seconds > _MOST_SECONDS or not np.isfinite(seconds):
        hours = f"The recording lasts {seconds / 3600.0:.3g} h: at most {_MOST_SECONDS / 3600.0:.0f} h are read."
        raise InvalidInput("file", f"{hours} Or is the time's unit wrong?")
    if seconds < _LEAST_SECONDS:
        raise InvalidInput("file", f"The recording lasts {seconds:.1f} s: at least {_LEAST_SECONDS:.0f} s are needed, a minute is better.")
    if not _LEAST_RATE_HZ <= rate <= _MOST_RATE_HZ:
        raise InvalidInput(
            "file", f"{rate:.1f} samples a second cannot be used: set the logger to 100 or more. Or is the time's unit wrong?"
        )
    if float(steps.max()) > _MOST_GAP_S:
        at = int(np.argmax(steps))
        text = f"There is a gap of {steps[at]:.0f} s after {time[at]:.0f} s: cut the file there, and read in the longer part."
        raise InvalidInput("file", text)
    if seconds * rate > _MOST_SAMPLES:
        raise InvalidInput("file", f"{seconds:.0f} s at {rate:.0f} samples a second are too much: record less long, or at fewer a second.")
    axes = table[:, 1 : 1 + len(layout.axes)]
    axis_unit = layout.axis_unit
    if axis_unit is None:
        axis_unit = guess_axis_unit(axes)
        notes.append(f"The file does not say the unit of acceleration; it was taken for {axis_unit}.")
    axes = axes * ACCELERATION_UNITS[axis_unit]
    if (most := float(np.abs(axes).max())) > _MOST_M_S2:
        raise InvalidInput("file", f"An acceleration of {most:.3g} m/s² is in it, which no sensor reads: is that column the right one?")
    speed = None
    if layout.speed is not None:
        speed = _speed(table[:, -1], layout.speed_unit, notes)
    gaps = int((np.diff(time) > 5.0 / rate).sum())
    if gaps:
        notes.append(f"{gaps} gaps in the recording were bridged by straight lines.")
    notes.append(f"{seconds:.0f} s at {rate:.0f} samples a second: frequencies up to {rate / 2.0:.0f} Hz can be seen.")
    return Log(time_s=time, acceleration_m_s2=axes, speed_kmh=speed, notes=notes)


def _speed(column: Field, unit: str | None, notes: list[str]) -> Field | None:
    known = np.isfinite(column)
    if known.sum() < 2:
        return None
    filled: Field = np.interp(np.arange(len(column)), np.flatnonzero(known), column[known])
    if unit is None:
        unit = "m/s" if float(filled.max()) < 60.0 else "km/h"
        notes.append(f"The file does not say the unit of speed; it was taken for {unit}.")
    speed: Field = filled * SPEED_UNITS[unit]
    if (most := float(np.abs(speed).max())) > _MOST_KMH:
        raise InvalidInput("file", f"A road speed of {most:.3g} km/h is in it: is the unit right, and the column?")
    return speed


def evenly(log: Log) -> tuple[Field, float]:
    """The acceleration at even steps of the median rate (samples, axes) [m/s^2], and that rate [Hz]."""
    step = float(np.median(np.diff(log.time_s)))
    at = np.arange(0.0, float(log.time_s[-1]) + step / 2.0, step)
    columns = [np.interp(at, log.time_s, column) for column in log.acceleration_m_s2.T]
    return np.stack(columns, axis=-1), 1.0 / step
