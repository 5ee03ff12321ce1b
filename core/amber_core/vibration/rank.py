"""How likely each source is, from felt frequencies or from the peaks of a spectrum."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, log, pi

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

Field = npt.NDArray[np.float64]
UNKNOWN = "unknown"
_MOST_CANDIDATES = 400
_SCALE_STEPS = 801
_SCALE_SPAN = 4.0


def spread_words(probability: dict[str, float]) -> dict[str, str]:
    """What is shown instead of bare figures: likely from a half on, possible from a tenth on, else unlikely."""
    return {name: word_for(share) for name, share in probability.items()}


def word_for(probability: float) -> str:
    """One probability in a word."""
    return "likely" if probability >= 0.5 else "possible" if probability >= 0.1 else "unlikely"


def _candidates_ok(field: str, candidates: dict[str, float]) -> None:
    if not 1 <= len(candidates) <= _MOST_CANDIDATES:
        raise InvalidInput(field, say("Give 1 to {most_candidates} sources with their frequencies.", most_candidates=_MOST_CANDIDATES))
    for name, hz in candidates.items():
        checks.within(f"{field}.{name}", hz, 0.0, 1e5, say("Frequency must be 0 to 100 000 Hz."))
        if name == UNKNOWN:
            raise InvalidInput(f"{field}.{name}", say("A source cannot be called “unknown”: that stands for none of the sources."))


def _prior_ok(prior: dict[str, float] | None, names: list[str]) -> None:
    for name, weight in (prior or {}).items():
        if name in names and not 0.0 <= weight < inf:
            raise InvalidInput(f"prior.{name}", say("Weight must be 0 or more."))
    if prior is not None and sum(prior.get(name, 0.0) for name in names) <= 0.0:
        raise InvalidInput("prior", say("At least one source must have a weight."))


def _span_ok(background: float, low: float, high: float) -> None:
    checks.within("background", background, 1e-9, 0.99, say("Share of what is none of the sources must be 0 to 0.99."))
    if not 0.0 <= low < high <= 1e5:
        raise InvalidInput("f_low_hz", say("The span must run from a lower to a higher frequency."))


def _shares(prior: dict[str, float] | None, names: list[str], background: float) -> Field:
    weights = np.array([1.0 if prior is None else prior.get(name, 0.0) for name in names])
    shares: Field = (1.0 - background) * weights / weights.sum()
    return shares


def _log_normal(x: Field, middle: Field, spread: Field | float) -> Field:
    found: Field = -0.5 * ((x - middle) / spread) ** 2 - np.log(spread) - 0.5 * log(2.0 * pi)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Observation:
    """A frequency that was felt or counted and its doubt [Hz], and the sources' frequencies in that test [Hz]."""

    f_hz: float
    candidates: dict[str, float]
    sigma_hz: float = 1.0

    def __post_init__(self) -> None:
        checks.within("f_hz", self.f_hz, 0.1, 1e5, say("Frequency must be 0.1 to 100 000 Hz."))
        checks.within("sigma_hz", self.sigma_hz, 1e-3, 1e4, say("Uncertainty (±) must be more than 0."))
        _candidates_ok("candidates", self.candidates)


@dataclass(frozen=True, slots=True, kw_only=True)
class RankQuestion:
    """Tests, relative doubt of speed times circumference [-], weights of the sources beforehand, share and span of the unknown [Hz]."""

    observations: list[Observation]
    sigma_rel: float = 0.02
    prior: dict[str, float] | None = None
    background: float = 0.05
    f_low_hz: float = 2.0
    f_high_hz: float = 500.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.observations) <= 100:
            raise InvalidInput("observations", say("Give 1 to 100 tests."))
        checks.within("sigma_rel", self.sigma_rel, 0.0, 0.5, say("Relative uncertainty must be 0 to 0.5."))
        _span_ok(self.background, self.f_low_hz, self.f_high_hz)
        _prior_ok(self.prior, self.names())

    def names(self) -> list[str]:
        """Sources of any test."""
        return list(dict.fromkeys(name for one in self.observations for name in one.candidates))


@dataclass(frozen=True, slots=True, kw_only=True)
class Ranked:
    """Most probable source; probabilities, most probable first, with that of none of them; in words."""

    first: str
    probability: dict[str, float]
    words: dict[str, str]


def rank(given: RankQuestion) -> Ranked:
    """Which source fits what was felt.

    Parameters
    ----------
    given : RankQuestion
        f, sigma, f_k [Hz] of each test.

    Returns
    -------
    Ranked
        weight_k = p_k prod N(f; f_k, sqrt(sigma^2 + (sigma_rel f_k)^2)); unknown = background prod 1/(f_high - f_low).

    Raises
    ------
    InvalidInput
        From RankQuestion, with the field.

    Notes
    -----
    Two tests at one road speed in two gears, or coasting in neutral, tell engine from road orders; one does not. A source that a test
    does not name is judged there as the unknown is.

    Examples
    --------
    >>> test = Observation(f_hz=45.2, sigma_hz=1.2, candidates={"tyre_1x": 10.86, "prop_1x": 44.5, "engine_1x": 47.0})
    >>> rank(RankQuestion(observations=[test])).words["prop_1x"]
    'likely'
    """
    names = given.names()
    flat = -log(given.f_high_hz - given.f_low_hz)
    with np.errstate(divide="ignore"):
        logs = np.log(_shares(given.prior, names, given.background))
    unknown = log(given.background)
    for one in given.observations:
        middle = np.array([one.candidates.get(name, np.nan) for name in names])
        spread = np.sqrt(one.sigma_hz**2 + (given.sigma_rel * middle) ** 2)
        fits = _log_normal(np.full(len(names), one.f_hz), middle, spread)
        logs = logs + np.where(np.isnan(middle), flat, fits)
        unknown += flat
    both = np.append(logs, unknown)
    weights = np.exp(both - both.max())
    return _told([*names, UNKNOWN], weights / weights.sum())


def _told(names: list[str], shares: Field) -> Ranked:
    order = np.argsort(-shares, kind="stable")
    probability = {names[index]: float(shares[index]) for index in order}
    return Ranked(first=names[order[0]], probability=probability, words=spread_words(probability))


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectrumRankQuestion:
    """Peaks as frequency [Hz] and amplitude, the sources' frequencies [Hz], doubt of a peak [Hz], relative doubt of the common speed
    scale [-], weights beforehand, share and span of the unknown [Hz]."""

    peaks: list[list[float]]
    candidates: dict[str, float]
    sigma_hz: float = 0.5
    sigma_scale: float = 0.02
    prior: dict[str, float] | None = None
    background: float = 0.05
    f_low_hz: float = 2.0
    f_high_hz: float = 500.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.peaks) <= 200:
            raise InvalidInput("peaks", say("Give 1 to 200 peaks."))
        for index, one in enumerate(self.peaks):
            if len(one) != 2 or not one[0] > 0.0 or not one[1] > 0.0:
                raise InvalidInput(f"peaks[{index}]", say("A peak needs a frequency and an amplitude, both more than 0."))
        checks.within("sigma_hz", self.sigma_hz, 1e-3, 1e4, say("Uncertainty (±) must be more than 0."))
        checks.within("sigma_scale", self.sigma_scale, 1e-6, 0.5, say("Relative uncertainty must be 0 to 0.5."))
        _candidates_ok("candidates", self.candidates)
        _prior_ok(self.prior, list(self.candidates))
        _span_ok(self.background, self.f_low_hz, self.f_high_hz)


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectrumRanked:
    """Source of the largest share; shares of all, largest first; the likeliest source of each peak, in the peaks' order; the common
    scale of frequencies, over 1 when the vehicle goes faster than was said [-]; shares in words."""

    first: str
    score: dict[str, float]
    per_peak: list[str]
    scale: float
    words: dict[str, str]


def rank_spectrum(given: SpectrumRankQuestion) -> SpectrumRanked:
    """Which sources make the peaks of a spectrum, with one unknown error of speed common to all.

    Parameters
    ----------
    given : SpectrumRankQuestion
        f_p [Hz], a_p; f_k [Hz].

    Returns
    -------
    SpectrumRanked
        score_k = sum_p w_p resp_pk / sum_p w_p; scale = sum P(s) s.

    Raises
    ------
    InvalidInput
        From SpectrumRankQuestion, with the field.

    Notes
    -----
    mix_p(s) = sum_k p_k N(f_p; s f_k, sigma) + background/(f_high - f_low);
    P(s) ~ exp(-(s - 1)^2/(2 sigma_scale^2) + sum w_p ln mix_p(s)) on
    801 points over +-4 sigma_scale; w_p = a_p / max a. Amplitude is no measure of how bad a fault is.

    Examples
    --------
    >>> asked = SpectrumRankQuestion(peaks=[[45.5, 1.0], [91.2, 0.5]], candidates={"prop_1x": 44.5, "prop_2x": 89.0, "engine_1x": 36.5})
    >>> rank_spectrum(asked).per_peak
    ['prop_1x', 'prop_2x']
    """
    names = list(given.candidates)
    middle = np.array(list(given.candidates.values()))
    peaks = np.array(given.peaks)
    weight = peaks[:, 1] / peaks[:, 1].max()
    scale = 1.0 + np.linspace(-_SCALE_SPAN, _SCALE_SPAN, _SCALE_STEPS) * given.sigma_scale
    share = _shares(given.prior, names, given.background)
    flat = given.background / (given.f_high_hz - given.f_low_hz)

    def parts(hz: float) -> Field:
        """What each source adds to a peak at every scale, (scale, source)."""
        found: Field = share * np.exp(_log_normal(np.array(hz), scale[:, None] * middle, given.sigma_hz))
        return found

    # peak by peak, twice: all at once would take scales x peaks x sources of memory
    mix = np.stack([parts(hz).sum(axis=1) + flat for hz in peaks[:, 0]], axis=1)
    logs = -((scale - 1.0) ** 2) / (2.0 * given.sigma_scale**2) + np.log(mix) @ weight
    likely = np.exp(logs - logs.max())
    likely /= likely.sum()
    known = [likely @ (parts(hz) / mix[:, index, None]) for index, hz in enumerate(peaks[:, 0])]
    whole = np.column_stack([np.stack(known), likely @ (flat / mix)])
    ranked = _told([*names, UNKNOWN], weight @ whole / weight.sum())
    return SpectrumRanked(
        first=ranked.first,
        score=ranked.probability,
        per_peak=[[*names, UNKNOWN][int(row.argmax())] for row in whole],
        scale=float(likely @ scale),
        words=ranked.words,
    )
