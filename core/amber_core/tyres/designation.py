"""What is written on a tyre's side, as a size; honest about what it does not say."""

from __future__ import annotations

import re
from dataclasses import dataclass
from math import pi
from typing import Literal

from amber_core import checks
from amber_core.verdicts import Reason
from amber_core.words import say

Kind = Literal["metric", "inch", "flotation", "numeric"]
Construction = Literal["radial", "bias"]

MM_PER_INCH = 25.4
LONGEST_TEXT = 60
_SEPARATOR = r"(?P<sep>ZR|SR|HR|VR|TR|R|B|D|-)"
_RIM = r"(?P<rim>\d{1,3}(?:\.\d{1,2})?)(?![\d.])"
_PREFIX = r"^(?:P|LT|ST|T|C)?\s?"
_WITH_ASPECT = re.compile(rf"{_PREFIX}(?P<width>\d{{1,3}}(?:\.\d{{1,2}})?)\s?/\s?(?P<aspect>\d{{1,3}}(?:\.\d)?)\s?{_SEPARATOR}\s?{_RIM}")
_FLOTATION = re.compile(rf"{_PREFIX}(?P<tall>\d{{2,3}}(?:\.\d{{1,2}})?)\s?X\s?(?P<width>\d{{1,2}}(?:\.\d{{1,2}})?)\s?{_SEPARATOR}\s?{_RIM}")
_PLAIN = re.compile(rf"{_PREFIX}(?P<width>\d{{1,4}}(?:\.\d{{1,2}})?)\s?{_SEPARATOR}\s?{_RIM}")
_CLASSIC_INCHES = frozenset(
    (5.0, 5.2, 5.25, 5.5, 5.6, 5.9, 6.0, 6.4, 6.5, 6.7, 7.0, 7.1, 7.5, 7.6, 8.25, 9.0, 10.0, 11.0, 12.0, 13.0, 14.0, 16.0)
)
# rolling circumference over that of the unloaded tyre: usual, least, greatest; typical, a measured roll-out overrides it
ROLLING = {"radial": (0.965, 0.955, 0.975), "bias": (0.95, 0.93, 0.965)}
_LEAST_ASPECT, _GREATEST_ASPECT = 20.0, 110.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TyreText:
    """A designation as it stands on the tyre; with a measured roll-out [mm] over turns, that counts for the circumference."""

    text: str
    rollout_mm: float | None = None
    turns: float = 1.0

    def __post_init__(self) -> None:
        checks.within("rollout_mm", self.rollout_mm, 100.0, 1e6, say("Roll-out must be 0.1 m to 1 km. Give it in millimetres."))
        checks.within("turns", self.turns, 0.25, 1000.0, say("Turns must be a quarter to 1 000."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Tyre:
    """What a designation says.

    Parameters
    ----------
    valid : bool
        Whether it could be read; when not, `reasons` says why and all else is None.
    diameter_mm, diameter_least_mm, diameter_greatest_mm : float
        Unloaded, with its doubt (two standard deviations), [mm].
    circumference_m, circumference_least_m, circumference_greatest_m : float
        Rolling, estimated from the diameter or measured, [m].
    width_mm, aspect_pct, rim_mm : float
        Section width [mm], section height over width [%], rim [mm]; `aspect_assumed` when the designation does not say it.
    measured : bool
        Whether the circumference comes from a roll-out.
    """

    valid: bool
    kind: Kind | None
    construction: Construction | None
    diameter_mm: float | None
    diameter_least_mm: float | None
    diameter_greatest_mm: float | None
    width_mm: float | None
    aspect_pct: float | None
    aspect_assumed: bool
    rim_mm: float | None
    circumference_m: float | None
    circumference_least_m: float | None
    circumference_greatest_m: float | None
    measured: bool
    reasons: list[Reason]


@dataclass(frozen=True)
class _Size:
    kind: Kind
    construction: Construction
    diameter_mm: float
    less: float  # doubt below and above, as shares
    more: float
    width_mm: float
    rim_mm: float
    aspect_pct: float
    assumed: bool


def parse_tyre(given: TyreText) -> Tyre:
    """Read a designation.

    Parameters
    ----------
    given : TyreText
        Such as "265/70R17", "35x12.50R17LT", "7.50-16" or "11R22.5"; what follows the rim is not needed.

    Returns
    -------
    Tyre
        Diameters [mm], rolling circumference [m]; `valid` false with reasons when it cannot be read.

    Raises
    ------
    InvalidInput
        From TyreText, with the field.

    Notes
    -----
    With an aspect: D = rim + 2 width aspect. Flotation: D as written, and real tyres run up to 3 % small. Numeric: the aspect is not
    written; 1.04 on classic rims up to 16 inch, 1.07 on larger, 0.85 on 19.5, 22.5 and 24.5, 0.825 on 17.5, 0.74 on 16.5, else 0.80,
    typical figures with their doubt. Rolling circumference C = pi D k, k 0.965 for radial and 0.95 for bias tyres, typical too.

    Examples
    --------
    >>> round(parse_tyre(TyreText(text="265/70R17")).diameter_mm, 1)
    802.8
    >>> parse_tyre(TyreText(text="L78-15")).valid
    False
    """
    found = _read(given.text)
    if isinstance(found, Reason):
        return _unread(found)
    k, least, greatest = ROLLING[found.construction]
    low, high = found.diameter_mm * (1.0 - found.less), found.diameter_mm * (1.0 + found.more)
    around = (pi * found.diameter_mm * k / 1000.0, pi * low * least / 1000.0, pi * high * greatest / 1000.0)
    reasons = _said(found)
    if given.rollout_mm is not None:
        measured = given.rollout_mm / given.turns / 1000.0
        if not 0.85 * around[1] <= measured <= 1.15 * around[2]:
            text = say(
                "The roll-out gives {measured:.3f} m a turn; this size gives about {value:.3f} m. Check the turns and the length.",
                measured=measured,
                value=around[0],
            )
            reasons.append(Reason(code="rollout_unlike", text=text, field="rollout_mm"))
        around = (measured, measured, measured)
    return Tyre(
        valid=True,
        kind=found.kind,
        construction=found.construction,
        diameter_mm=found.diameter_mm,
        diameter_least_mm=low,
        diameter_greatest_mm=high,
        width_mm=found.width_mm,
        aspect_pct=found.aspect_pct,
        aspect_assumed=found.assumed,
        rim_mm=found.rim_mm,
        circumference_m=around[0],
        circumference_least_m=around[1],
        circumference_greatest_m=around[2],
        measured=given.rollout_mm is not None,
        reasons=reasons,
    )


def _read(text: str) -> _Size | Reason:
    plain = " ".join(text.upper().replace(",", ".").replace("×", "X").replace("–", "-").split())
    if not plain:
        return Reason(code="empty", text=say("Type the size from the tyre sidewall, such as 265/70R17."), field="text")
    if len(plain) > LONGEST_TEXT:
        return Reason(
            code="too_long", text=say("A tyre size can have {longest_text} characters at most.", longest_text=LONGEST_TEXT), field="text"
        )
    for pattern, make in ((_WITH_ASPECT, _with_aspect), (_FLOTATION, _flotation), (_PLAIN, _plain)):
        match = pattern.match(plain)
        if match is not None:
            return make(match)
    text = say(
        "This tyre size cannot be read. Write it like 265/70R17, 35x12.50R17, 7.50-16 or 11R22.5. For a "
        "letter-coded size, measure a roll-out."
    )
    return Reason(code="unknown_form", text=text, field="text")


def _construction(match: re.Match[str], *, sloppy_dash: bool = False) -> Construction:
    if match["sep"].endswith("R") or (sloppy_dash and match["sep"] == "-"):
        return "radial"
    return "bias"


def _with_aspect(match: re.Match[str]) -> _Size | Reason:
    width, aspect, rim = float(match["width"]), float(match["aspect"]), float(match["rim"])
    if not _LEAST_ASPECT <= aspect <= _GREATEST_ASPECT:
        return Reason(code="aspect", text=say("Aspect ratio must be 20 to 110 %, not {aspect:g} %.", aspect=aspect), field="text")
    metric = width >= 100.0
    width_mm = width if metric else width * MM_PER_INCH
    rim_mm = rim if rim >= 100.0 else rim * MM_PER_INCH
    diameter = rim_mm + 2.0 * width_mm * aspect / 100.0
    construction = _construction(match, sloppy_dash=metric)
    return _sane(_Size("metric" if metric else "inch", construction, diameter, 0.015, 0.015, width_mm, rim_mm, aspect, assumed=False))


def _flotation(match: re.Match[str]) -> _Size | Reason:
    tall, width, rim = (float(match[name]) * MM_PER_INCH for name in ("tall", "width", "rim"))
    if rim >= tall:
        return Reason(code="rim", text=say("The rim is as large as the tyre. The order is: diameter x width R rim."), field="text")
    aspect = (tall - rim) / 2.0 / width * 100.0
    return _sane(_Size("flotation", _construction(match), tall, 0.03, 0.0, width, rim, aspect, assumed=False))


def _plain(match: re.Match[str]) -> _Size | Reason:
    width, rim = float(match["width"]), float(match["rim"])
    if 100.0 <= width < 400.0:
        return _metric_without_aspect(match, width, rim)
    if width >= 500.0:
        width /= 100.0
        if width not in _CLASSIC_INCHES:
            return Reason(
                code="width",
                text=say("No tyre has a width of {value}. Write it with its point, like 7.50R16.", value=match["width"]),
                field="text",
            )
    if rim >= 100.0 or not 3.0 <= width <= 40.0:
        return Reason(code="width", text=say("No tyre has a width of {width:g}, in millimetres or in inches.", width=width), field="text")
    share, doubt = _numeric_aspect(width, rim)
    width_mm, rim_mm = width * MM_PER_INCH, rim * MM_PER_INCH
    diameter = rim_mm + 2.0 * width_mm * share
    return _sane(_Size("numeric", _construction(match), diameter, doubt, doubt, width_mm, rim_mm, 100.0 * share, assumed=True))


def _metric_without_aspect(match: re.Match[str], width: float, rim: float) -> _Size | Reason:
    rim_mm = rim if rim >= 100.0 else rim * MM_PER_INCH
    diameter = rim_mm + 2.0 * width * 0.80
    return _sane(_Size("metric", _construction(match), diameter, 0.02, 0.02, width, rim_mm, 80.0, assumed=True))


def _numeric_aspect(width_in: float, rim_in: float) -> tuple[float, float]:
    """Section height over width, typical, and its doubt, [-]."""
    by_rim = {17.5: (0.825, 0.02), 19.5: (0.85, 0.02), 22.5: (0.85, 0.02), 24.5: (0.85, 0.02), 16.5: (0.74, 0.025)}
    if rim_in in by_rim:
        return by_rim[rim_in]
    if width_in in _CLASSIC_INCHES:
        return (1.04, 0.03) if rim_in <= 16.0 else (1.07, 0.035)
    return 0.80, 0.05


def _sane(size: _Size) -> _Size | Reason:
    if not 100.0 <= size.rim_mm <= 1600.0:
        return Reason(code="rim", text=say("Rim size must be 4 to 63 inches."), field="text")
    if size.rim_mm >= size.diameter_mm or size.diameter_mm > 4000.0:
        return Reason(code="diameter", text=say("These figures do not make a tyre. Check the diameter and the rim."), field="text")
    if size.width_mm > 1500.0:
        return Reason(code="width", text=say("No tyre is that wide."), field="text")
    return size


def _said(size: _Size) -> list[Reason]:
    reasons = []
    if size.assumed:
        text = say(
            "This size does not give the aspect ratio. {aspect_pct:g} % is typical, so the diameter may be off "
            "by {value:g} %. Measure a roll-out.",
            aspect_pct=size.aspect_pct,
            value=100.0 * size.more,
        )
        reasons.append(Reason(code="aspect_assumed", text=text, field="text"))
    if size.kind == "flotation":
        reasons.append(Reason(code="runs_small", text=say("Tyres of this kind run up to 3 % smaller than marked."), field="text"))
    return reasons


def _unread(reason: Reason) -> Tyre:
    return Tyre(
        valid=False,
        kind=None,
        construction=None,
        diameter_mm=None,
        diameter_least_mm=None,
        diameter_greatest_mm=None,
        width_mm=None,
        aspect_pct=None,
        aspect_assumed=False,
        rim_mm=None,
        circumference_m=None,
        circumference_least_m=None,
        circumference_greatest_m=None,
        measured=False,
        reasons=[reason],
    )
