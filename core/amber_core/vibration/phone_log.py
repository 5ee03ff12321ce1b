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
from amber_core.words import Said, say

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
    notes: list[Said]


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
        self._notes: list[Said] = []
        self._line = 0
        self._bad = 0
        self._good = 0
        self._first_bad = ""

    def feed(self, chunk: bytes) -> None:
        """Take the next bytes."""
        if b"\x00" in chunk:
            raise InvalidInput("file", say("This is not a text file. Export the recording as CSV and upload that."))
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
            raise InvalidInput("file", say("The file has a header but no numbers below it."))
        if self._bad > max(3, _MOST_BAD * (self._good + self._bad)):
            raise InvalidInput(
                "file", say("{bad} lines cannot be read; the first is {first_bad}.", bad=self._bad, first_bad=self._first_bad)
            )
        if self._bad:
            self._notes.append(
                say("{bad} lines that are no numbers were left out; the first is {first_bad}.", bad=self._bad, first_bad=self._first_bad)
            )
        return _log(np.vstack(self._blocks), self._layout_known, self._notes)

    @property
    def _layout_known(self) -> Layout:
        assert self._layout is not None
        return self._layout

    def _begin(self, text: str) -> str:
        """Find out the layout; what follows the header."""
        lines = text.splitlines()
        if any(len(line) > _LONGEST_LINE for line in lines):
            raise InvalidInput(
                "file",
                say("A line has more than {longest_line} characters. Each line must be one sample.", longest_line=_LONGEST_LINE),
            )
        self._layout, skipped, notes = detect(lines)
        self._notes += notes
        self._line = skipped
        return "\n".join(lines[skipped:]) + ("\n" if text.endswith("\n") else "")

    def _take(self, text: str) -> None:
        whole = self._left + text
        cut = max(whole.rfind("\n"), whole.rfind("\r")) + 1
        self._left = whole[cut:]
        if len(self._left) > _LONGEST_LINE:
            raise InvalidInput(
                "file",
                say("A line has more than {longest_line} characters. Each line must be one sample.", longest_line=_LONGEST_LINE),
            )
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
                    self._first_bad = say("line {number}: “{value}”", number=number, value=line[:60])
        return np.array(rows).reshape(len(rows), len(layout.columns))


def _log(table: Field, layout: Layout, notes: list[Said]) -> Log:
    time = table[:, 0]
    with np.errstate(over="ignore"):
        order = np.diff(time)
    if (order < 0.0).sum() > _MOST_BAD * len(time):
        raise InvalidInput("file", say("Time does not run forward from line to line. Is the first column the time?"))
    keep = np.concatenate([[True], order > 0.0]) & (time >= np.maximum.accumulate(time))
    table, time = table[keep], time[keep]
    if len(time) < 2:
        raise InvalidInput("file", say("All lines have the same time. Is the first column the time?"))
    step = float(np.median(np.diff(time)))
    time_unit = "s" if layout.clock else layout.time_unit or guess_time_unit(step)
    time = (time - time[0]) * TIME_UNITS[time_unit]
    if layout.time_unit is None and not layout.clock:
        notes.append(
            say("The file does not give the unit of time; steps of {step:g} were taken as {time_unit}.", step=step, time_unit=time_unit)
        )
    seconds, steps = float(time[-1]), np.diff(time)
    rate = 1.0 / max(float(np.median(steps)), 1e-12)
    if seconds > _MOST_SECONDS or not np.isfinite(seconds):
        hours = say(
            "The recording is {value:.3g} h long. The most is {value2:.0f} h.", value=seconds / 3600.0, value2=_MOST_SECONDS / 3600.0
        )
        raise InvalidInput("file", say("{hours} Or is the unit of time wrong?", hours=hours))
    if seconds < _LEAST_SECONDS:
        raise InvalidInput(
            "file",
            say(
                "The recording is {seconds:.1f} s long. At least {least_seconds:.0f} s are needed; a minute is better.",
                seconds=seconds,
                least_seconds=_LEAST_SECONDS,
            ),
        )
    if not _LEAST_RATE_HZ <= rate <= _MOST_RATE_HZ:
        raise InvalidInput(
            "file",
            say("{rate:.1f} samples a second cannot be used. Set the logger to 100 or more. Or is the unit of time wrong?", rate=rate),
        )
    if float(steps.max()) > _MOST_GAP_S:
        at = int(np.argmax(steps))
        text = say(
            "There is a gap of {value:.0f} s after {value2:.0f} s. Cut the file there and upload the longer part.",
            value=steps[at],
            value2=time[at],
        )
        raise InvalidInput("file", text)
    if seconds * rate > _MOST_SAMPLES:
        raise InvalidInput(
            "file",
            say(
                "{seconds:.0f} s at {rate:.0f} samples a second is too much. Record for a shorter time, or at fewer samples a second.",
                seconds=seconds,
                rate=rate,
            ),
        )
    axes = table[:, 1 : 1 + len(layout.axes)]
    axis_unit = layout.axis_unit
    if axis_unit is None:
        axis_unit = guess_axis_unit(axes)
        notes.append(say("The file does not give the unit of acceleration; it was taken as {axis_unit}.", axis_unit=axis_unit))
    axes = axes * ACCELERATION_UNITS[axis_unit]
    if (most := float(np.abs(axes).max())) > _MOST_M_S2:
        raise InvalidInput(
            "file", say("The file has an acceleration of {most:.3g} m/s², which no sensor reads. Is that the right column?", most=most)
        )
    speed = None
    if layout.speed is not None:
        speed = _speed(table[:, -1], layout.speed_unit, notes)
    gaps = int((np.diff(time) > 5.0 / rate).sum())
    if gaps:
        notes.append(say("{gaps} gaps in the recording were bridged by straight lines.", gaps=gaps))
    notes.append(
        say(
            "{seconds:.0f} s at {rate:.0f} samples a second, which shows frequencies up to {value:.0f} Hz.",
            seconds=seconds,
            rate=rate,
            value=rate / 2.0,
        )
    )
    return Log(time_s=time, acceleration_m_s2=axes, speed_kmh=speed, notes=notes)


def _speed(column: Field, unit: str | None, notes: list[Said]) -> Field | None:
    known = np.isfinite(column)
    if known.sum() < 2:
        return None
    filled: Field = np.interp(np.arange(len(column)), np.flatnonzero(known), column[known])
    if unit is None:
        unit = "m/s" if float(filled.max()) < 60.0 else "km/h"
        notes.append(say("The file does not give the unit of speed; it was taken as {unit}.", unit=unit))
    speed: Field = filled * SPEED_UNITS[unit]
    if (most := float(np.abs(speed).max())) > _MOST_KMH:
        raise InvalidInput("file", say("The file has a road speed of {most:kmh0}. Check the unit and the column.", most=most))
    return speed


def evenly(log: Log) -> tuple[Field, float]:
    """The acceleration at even steps of the median rate (samples, axes) [m/s^2], and that rate [Hz]."""
    step = float(np.median(np.diff(log.time_s)))
    at = np.arange(0.0, float(log.time_s[-1]) + step / 2.0, step)
    columns = [np.interp(at, log.time_s, column) for column in log.acceleration_m_s2.T]
    return np.stack(columns, axis=-1), 1.0 / step
