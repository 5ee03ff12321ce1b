"""What is read at the bench with, how fine it is, and what it is too coarse for."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core.verdicts import SLACK
from amber_core.words import NOTHING, Said, say


@dataclass(frozen=True, slots=True, kw_only=True)
class Gauge:
    """An instrument and its step, [mm]."""

    code: str
    name: Said
    step_mm: float


GAUGES = {
    one.code: one
    for one in (
        Gauge(code="micrometer", name=say("Micrometer"), step_mm=0.01),
        Gauge(code="dial", name=say("Dial indicator"), step_mm=0.01),
        Gauge(code="depth_micrometer", name=say("Depth micrometer"), step_mm=0.01),
        Gauge(code="caliper", name=say("Caliper"), step_mm=0.02),
        Gauge(code="depth_gauge", name=say("Depth gauge"), step_mm=0.02),
        Gauge(code="feeler", name=say("Feeler gauge"), step_mm=0.03),
        Gauge(code="steel_rule", name=say("Steel rule"), step_mm=0.5),
    )
}
"""By code. A feeler gauge tells the step between its leaves."""


def too_coarse(gauge: Gauge, low_mm: float | None, high_mm: float | None) -> Said:
    """Why an instrument cannot judge a window: every reading inside it would be on the edge. Empty where it can.

    Parameters
    ----------
    gauge : Gauge
        With its step [mm].
    low_mm, high_mm : float or None
        The window; a limit alone from above is held against nothing at all, [mm].
    """
    if high_mm is None:
        return NOTHING
    width = high_mm - (low_mm or 0.0)
    if width > 2.0 * gauge.step_mm + SLACK if low_mm is not None else width > gauge.step_mm + SLACK:
        return NOTHING
    return say(
        "{gauge} reads to {step:mm2}, which is too coarse for a window of {width:mm2}. Use a finer one.",
        gauge=gauge.name,
        step=gauge.step_mm,
        width=width,
    )
