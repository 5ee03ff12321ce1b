"""How the lines of a logger's file are written: separator, decimal comma, columns, units; found out from its first lines."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime

import numpy as np
import numpy.typing as npt

from amber_core.errors import InvalidInput
from amber_core.ratios.grade import GRAVITY_M_S2
from amber_core.words import Said, say

Field = npt.NDArray[np.float64]
_SEPARATORS = ("\t", ";", ",", " ")
TIME_UNITS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9}
ACCELERATION_UNITS = {"m/s2": 1.0, "g": GRAVITY_M_S2, "mg": GRAVITY_M_S2 / 1000.0}
SPEED_UNITS = {"km/h": 1.0, "m/s": 3.6, "mph": 1.609344}


@dataclass(slots=True)
class Layout:
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


def split_line(line: str, separator: str) -> list[str]:
    parts = line.split() if separator == " " else line.split(separator)
    return [part.strip().strip('"') for part in parts]


def number_or_nan(text: str) -> float:
    return float(text) if text else float("nan")


def clock_s(text: str) -> float:
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
        clock_s(text)
    except ValueError:
        return False
    return True


def detect(lines: list[str]) -> tuple[Layout, int, list[Said]]:
    """Layout, how many lines stand before the numbers, and what was taken for what."""
    if not any(line.strip() for line in lines):
        raise InvalidInput("file", say("The file is empty."))
    for separator in _SEPARATORS:
        comma = separator in ("\t", ";", " ") and any("," in line and "." not in line for line in lines[:200])
        for skipped, line in enumerate(lines[:60]):
            parts = split_line(line, separator)
            if len(parts) < 2 or not all(_is_number(one, comma=comma) for one in parts[1:] if one):
                continue
            clock = not _is_number(parts[0], comma=comma) and _is_clock(parts[0])
            if not (clock or _is_number(parts[0], comma=comma)) or sum(bool(one) for one in parts) < 2:
                continue
            return _columns(lines, skipped, separator, comma=comma, clock=clock)
    raise InvalidInput(
        "file",
        say("No line of numbers was found. Each line needs a time and one to three accelerations, separated by commas."),
    )


def _columns(lines: list[str], skipped: int, separator: str, *, comma: bool, clock: bool) -> tuple[Layout, int, list[Said]]:
    width = len(split_line(lines[skipped], separator))
    header = next((names for at in range(skipped - 1, -1, -1) if len(names := split_line(lines[at], separator)) == width), None)
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
        raise InvalidInput("file", say("There is a time but no acceleration. Each line needs both."))
    layout = Layout(
        separator=separator,
        comma=comma,
        time=time,
        axes=axes,
        speed=speed,
        time_unit=_unit_in(names[time], TIME_UNITS),
        axis_unit=_unit_in(names[axes[0]], ACCELERATION_UNITS),
        speed_unit=None if speed is None else _unit_in(names[speed], SPEED_UNITS),
        clock=clock,
    )
    shown = [header[at] if header else f"column {at + 1}" for at in (time, *axes)]
    notes = [say("Time from “{value}”, acceleration from {columns}.", value=shown[0], columns=", ".join(f"“{one}”" for one in shown[1:]))]
    if comma:
        notes.append(say("The numbers have a decimal comma."))
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


def guess_time_unit(step: float) -> str:
    """Loggers write 20 to 10 000 samples a second."""
    return next(unit for unit, most in (("s", 0.06), ("ms", 60.0), ("us", 60_000.0), ("ns", float("inf"))) if step <= most)


def guess_axis_unit(axes: Field) -> str:
    """By gravity, where it is in; without it metres per second squared are usual."""
    rest = float(np.linalg.norm(np.median(axes, axis=0)))
    return "g" if 0.8 <= rest <= 1.2 else "mg" if 800.0 <= rest <= 1200.0 else "m/s2"
