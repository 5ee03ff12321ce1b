"""Reads what phone loggers write: lines of time and acceleration, whatever their separators, columns and units, piece by piece."""

from __future__ import annotations

import codecs
import io
import re
from dataclasses import dataclass
from datetime import datetime

import numpy as np
import numpy.typing as npt

from amber_core.errors import InvalidInput
from amber_core.ratios.grade import GRAVITY_M_S2

Field = npt.NDArray[np.float64]
_SEPARATORS = ("\t", ";", ",", " ")
_HEAD_BYTES = 65536
_MOST_BAD = 0.01
_LEAST_SECONDS = 2.0
_LEAST_RATE_HZ = 20.0
_MOST_RATE_HZ = 20000.0
_TIME_UNITS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9}
_ACCELERATION_UNITS = {"m/s2": 1.0, "g": GRAVITY_M_S2, "mg": GRAVITY_M_S2 / 1000.0}
_SPEED_UNITS = {"km/h": 1.0, "m/s": 3.6, "mph": 1.609344}


@dataclass(frozen=True, slots=True, kw_only=True)
class Log:
    """Times from the first sample [s]; acceleration (samples, axes) [m/s^2]; road speed [km/h] where the file has one; in sentences what
    was taken for what."""

    time_s: Field
    acceleration_m_s2: Field
    speed_kmh: Field | None
    notes: list[str]


@dataclass(slots=True)
class _Layout:
    """How the lines are written: separator, decimal comma, columns, units."""

    separator: str
    comma: bool
    time: int
    axes: list[int]
    speed: int | None
    time_unit: str | None
    axis_unit: str | None
    speed_unit: str | None
    clock: bool

    @property
    def columns(self) -> list[int]:
        return [self.time, *self.axes, *([] if self.speed is None else [self.speed])]


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
        self._layout: _Layout | None = None
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
    def _layout_known(self) -> _Layout:
        assert self._layout is not None
        return self._layout

    def _begin(self, text: str) -> str:
        """Find out the layout; what follows the header."""
        lines = text.splitlines()
        self._layout, skipped, notes = _detect(lines)
        self._notes += notes
        self._line = skipped
        return "\n".join(lines[skipped:]) + ("\n" if text.endswith("\n") else "")

    def _take(self, text: str) -> None:
        whole = self._left + text
        cut = max(whole.rfind("\n"), whole.rfind("\r")) + 1
        self._left = whole[cut:]
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
            parts = _split(line, layout.separator)
            try:
                first = _clock_s(parts[layout.time]) if layout.clock else float(parts[layout.time])
                rest = [_number_or_nan(parts[at]) if at == layout.speed else float(parts[at]) for at in layout.columns[1:]]
                rows.append([first, *rest])
            except (ValueError, IndexError):
                self._bad += 1
                if not self._first_bad:
                    self._first_bad = f"line {number}: “{line[:60]}”"
        return np.array(rows).reshape(len(rows), len(layout.columns))


def _split(line: str, separator: str) -> list[str]:
    parts = line.split() if separator == " " else line.split(separator)
    return [part.strip().strip('"') for part in parts]


def _number_or_nan(text: str) -> float:
    return float(text) if text else float("nan")


def _clock_s(text: str) -> float:
    """A time of day or a date with it, in seconds."""
    if re.fullmatch(r"\d{1,2}:\d{2}:\d{2}([.,]\d+)?", text):
        hours, minutes, seconds = text.replace(",", ".").split(":")
        return int(hours) * 3600.0 + int(minutes) * 60.0 + float(seconds)
    return datetime.fromisoformat(text.replace("Z", "+00:00")).timestamp()


def _is_number(text: str, *, comma: bool) -> bool:
    try:
        float(text.replace(",", ".") if comma else text)
    except ValueError:
        return False
    return True


def _is_clock(text: str) -> bool:
    try:
        _clock_s(text)
    except ValueError:
        return False
    return True


def _detect(lines: list[str]) -> tuple[_Layout, int, list[str]]:
    """Layout, how many lines stand before the numbers, and what was taken for what."""
    if not any(line.strip() for line in lines):
        raise InvalidInput("file", "The file is empty.")
    for separator in _SEPARATORS:
        comma = separator in ("\t", ";", " ") and any("," in line and "." not in line for line in lines[:200])
        for skipped, line in enumerate(lines[:60]):
            parts = _split(line, separator)
            if len(parts) < 2 or not all(_is_number(one, comma=comma) for one in parts[1:] if one):
                continue
            clock = not _is_number(parts[0], comma=comma) and _is_clock(parts[0])
            if not (clock or _is_number(parts[0], comma=comma)) or sum(bool(one) for one in parts) < 2:
                continue
            return _columns(lines, skipped, separator, comma=comma, clock=clock)
    raise InvalidInput(
        "file",
        "No line of numbers was found: the file should have a time and one to three accelerations on each line, set apart by commas.",
    )


def _columns(lines: list[str], skipped: int, separator: str, *, comma: bool, clock: bool) -> tuple[_Layout, int, list[str]]:
    width = len(_split(lines[skipped], separator))
    header = next((names for at in range(skipped - 1, -1, -1) if len(names := _split(lines[at], separator)) == width), None)
    names = [name.casefold() for name in header] if header else [""] * width
    time = next((at for at, name in enumerate(names) if re.search(r"time|elapsed|seconds|^t\b|zeit", name)), 0)
    speed = next((at for at, name in enumerate(names) if at != time and re.search(r"speed|velocity", name)), None)
    axes = [
        at for at, name in enumerate(names) if at not in (time, speed) and re.search(r"acc|^(a|lin|g)?[ _-]?[xyz]\b|^[xyz]$|^a[xyz]", name)
    ]
    axes = [at for at in axes if not re.search(r"abs|total|magnitude|gyro|accuracy", names[at])] or [
        at for at in axes if not re.search(r"gyro|accuracy", names[at])
    ]
    if not axes:
        axes = [at for at in range(width) if at not in (time, speed)][:3]
    axes = axes[:3]
    if not axes:
        raise InvalidInput("file", "There is a time but no acceleration beside it: each line needs both.")
    layout = _Layout(
        separator=separator,
        comma=comma,
        time=time,
        axes=axes,
        speed=speed,
        time_unit=_unit_in(names[time], _TIME_UNITS),
        axis_unit=_unit_in(names[axes[0]], _ACCELERATION_UNITS),
        speed_unit=None if speed is None else _unit_in(names[speed], _SPEED_UNITS),
        clock=clock,
    )
    shown = [header[at] if header else f"column {at + 1}" for at in (time, *axes)]
    notes = [f"Time from “{shown[0]}”, acceleration from {', '.join(f'“{one}”' for one in shown[1:])}."]
    if comma:
        notes.append("Numbers are written with a decimal comma.")
    return layout, skipped, notes


def _unit_in(name: str, known: dict[str, float]) -> str | None:
    """A unit in brackets or behind an underscore: "time (ms)", "ax [g]", "acc_x_m/s^2"."""
    plain = name.replace("²", "2").replace("^", "").replace("µ", "u").replace("μ", "u").replace("kmh", "km/h").replace("ms-2", "m/s2")
    plain = plain.replace("milliseconds", "(ms)").replace("nanoseconds", "(ns)").replace("seconds", "(s)")
    found: list[tuple[str, str]] = re.findall(r"[\[(]\s*([^\])]+?)\s*[\])]|[_ ]([a-z/0-9]+)$", plain)
    for pair in found:
        for text in pair:
            if text in known:
                return text
    return None


def _log(table: Field, layout: _Layout, notes: list[str]) -> Log:
    time = table[:, 0]
    order = np.diff(time)
    if (order < 0.0).sum() > _MOST_BAD * len(time):
        raise InvalidInput("file", "Time does not run forward from line to line: is the first column the time?")
    keep = np.concatenate([[True], order > 0.0]) & (time >= np.maximum.accumulate(time))
    table, time = table[keep], time[keep]
    if len(time) < 2:
        raise InvalidInput("file", "All lines carry the same time: is the first column the time?")
    step = float(np.median(np.diff(time)))
    time_unit = "s" if layout.clock else layout.time_unit or _guess_time_unit(step)
    time = (time - time[0]) * _TIME_UNITS[time_unit]
    if layout.time_unit is None and not layout.clock:
        notes.append(f"The file does not say the unit of time; steps of {step:g} were taken for {time_unit}.")
    seconds, rate = float(time[-1]), 1.0 / float(np.median(np.diff(time)))
    if seconds < _LEAST_SECONDS:
        raise InvalidInput("file", f"The recording lasts {seconds:.1f} s: at least {_LEAST_SECONDS:.0f} s are needed, a minute is better.")
    if not _LEAST_RATE_HZ <= rate <= _MOST_RATE_HZ:
        raise InvalidInput(
            "file", f"{rate:.1f} samples a second cannot be used: set the logger to 100 or more. Or is the time's unit wrong?"
        )
    axes = table[:, 1 : 1 + len(layout.axes)]
    axis_unit = layout.axis_unit
    if axis_unit is None:
        axis_unit = _guess_axis_unit(axes)
        notes.append(f"The file does not say the unit of acceleration; it was taken for {axis_unit}.")
    speed = None
    if layout.speed is not None:
        speed = _speed(table[:, -1], layout.speed_unit, notes)
    gaps = int((np.diff(time) > 5.0 / rate).sum())
    if gaps:
        notes.append(f"{gaps} gaps in the recording were bridged by straight lines.")
    notes.append(f"{seconds:.0f} s at {rate:.0f} samples a second: frequencies up to {rate / 2.0:.0f} Hz can be seen.")
    return Log(time_s=time, acceleration_m_s2=axes * _ACCELERATION_UNITS[axis_unit], speed_kmh=speed, notes=notes)


def _guess_time_unit(step: float) -> str:
    """Loggers write 20 to 10 000 samples a second."""
    return next(unit for unit, most in (("s", 0.06), ("ms", 60.0), ("us", 60_000.0), ("ns", float("inf"))) if step <= most)


def _guess_axis_unit(axes: Field) -> str:
    """By gravity, where it is in; without it metres per second squared are usual."""
    rest = float(np.linalg.norm(np.median(axes, axis=0)))
    return "g" if 0.8 <= rest <= 1.2 else "mg" if 800.0 <= rest <= 1200.0 else "m/s2"


def _speed(column: Field, unit: str | None, notes: list[str]) -> Field | None:
    known = np.isfinite(column)
    if known.sum() < 2:
        return None
    filled: Field = np.interp(np.arange(len(column)), np.flatnonzero(known), column[known])
    if unit is None:
        unit = "m/s" if float(filled.max()) < 60.0 else "km/h"
        notes.append(f"The file does not say the unit of speed; it was taken for {unit}.")
    speed: Field = filled * _SPEED_UNITS[unit]
    return speed


def evenly(log: Log) -> tuple[Field, float]:
    """The acceleration at even steps of the median rate (samples, axes) [m/s^2], and that rate [Hz]."""
    step = float(np.median(np.diff(log.time_s)))
    at = np.arange(0.0, float(log.time_s[-1]) + step / 2.0, step)
    columns = [np.interp(at, log.time_s, column) for column in log.acceleration_m_s2.T]
    return np.stack(columns, axis=-1), 1.0 / step
