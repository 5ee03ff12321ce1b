"""A recording held against a drivetrain, by the core alone."""

from __future__ import annotations

from typing import Any

from amber_core.errors import InvalidInput
from amber_core.vibration.order_chart import OrderChart
from amber_core.vibration.orders import orders
from amber_core.vibration.rank import UNKNOWN, SpectrumRankQuestion, rank_spectrum
from amber_core.vibration.sources import PRIOR, family_of, words_of
from amber_core.vibration.tell_apart import CheckAdvised, TwoSources, tell_apart
from amber_core.words import Said, say, together
from noise_finder.schemas import LineOut, PeakOut, RecordedAnswer, RecordedInputs, SourceOut

_LEAST_SHARE = 0.01


def hold_against(chart: OrderChart, given: RecordedInputs) -> RecordedAnswer:
    """Which sources make the peaks, and the check that would tell the first two apart.

    Raises
    ------
    InvalidInput
        With the field of the inputs.
    """
    at = orders(given.drivetrain.at(chart.reference_kmh, gear_ratio=given.gear_ratio, engine_rpm=given.engine_rpm))
    hz = at.frequencies_hz
    lines = [
        LineOut(
            name=name,
            words=words_of(name),
            hz_per_kmh=0.0 if given.engine_rpm is not None and family_of(name) == "engine" else value / chart.reference_kmh,
            at_reference_hz=value,
        )
        for name, value in hz.items()
    ]
    whole: dict[str, Any] = {"chart": chart, "lines": lines, "inseparable": at.inseparable}
    if not chart.peaks:
        none = say("No peak stands out, so nothing that turns causes a vibration here. Record at the speed at which it is felt.")
        return RecordedAnswer(**whole, peaks=[], sources=[], unknown=1.0, speed_scale=1.0, next_checks=[], reason=none)
    top = chart.frequency_edges_hz[-1]
    ranked = rank_spectrum(
        SpectrumRankQuestion(
            peaks=chart.peaks,
            candidates=hz,
            sigma_hz=max(0.5, chart.resolution_hz),
            prior={name: PRIOR[family_of(name)] for name in hz},
            f_high_hz=max(500.0, top),
        )
    )
    named = [name for name in ranked.score if name != UNKNOWN]
    checks, reason = _next(named, ranked.score, hz, given.made)
    return RecordedAnswer(
        **whole,
        peaks=[
            PeakOut(hz=peak[0], amplitude=peak[1], source=source, words=say("None of them") if source == UNKNOWN else words_of(source))
            for peak, source in zip(chart.peaks, ranked.per_peak, strict=True)
        ],
        sources=[
            SourceOut(
                name=name,
                words=words_of(name),
                share=ranked.score[name],
                word=ranked.words[name],
                reason=_reason(name, hz[name] * ranked.scale, chart),
            )
            for name in named
            if ranked.score[name] >= _LEAST_SHARE
        ],
        unknown=ranked.score.get(UNKNOWN, 0.0),
        speed_scale=ranked.scale,
        next_checks=checks,
        reason=reason,
    )


def _next(named: list[str], score: dict[str, float], hz: dict[str, float], made: list[str]) -> tuple[list[CheckAdvised], Said]:
    first = named[0]
    second = next((name for name in named[1:] if family_of(name) != family_of(first)), None)
    if second is None:
        return [], say("Only one kind of part is left. Check it.")
    told = tell_apart(TwoSources(first=first, second=second, first_hz=hz[first], second_hz=hz[second], measured=True, made=made))
    reason = told.reason
    if score[second] < _LEAST_SHARE:
        reason = say("The recording leaves little doubt. To be sure before you buy a part: {check}", check=reason)
    return told.checks, reason


def _reason(name: str, hz: float, chart: OrderChart) -> Said:
    """In a sentence what speaks for a source."""
    near = min(chart.peaks, key=lambda peak: abs(peak[0] - hz))
    if abs(near[0] - hz) > 3.0 * max(0.5, chart.resolution_hz):
        return say(
            "It would show at {hz:.1f} Hz at {reference_kmh:kmh0}, but there is no peak there.", hz=hz, reference_kmh=chart.reference_kmh
        )
    found = say(
        "It turns at {hz:.1f} Hz at {reference_kmh:kmh0}, and there is a peak at {peak_hz:.1f} Hz.",
        hz=hz,
        reference_kmh=chart.reference_kmh,
        peak_hz=near[0],
    )
    steady = len(chart.cells) == 1
    return found if steady else together([found, say("It keeps its order over the whole run.")])


def as_chart(stored: dict[str, object]) -> OrderChart:
    """A chart as it was stored.

    Raises
    ------
    InvalidInput
        When it is none.
    """
    try:
        return OrderChart(**stored)  # type: ignore[arg-type]
    except TypeError:
        raise InvalidInput("recording", say("This recording was read by another version. Upload the file again.")) from None
