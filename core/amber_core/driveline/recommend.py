"""Wedge, shims and clocking that let a driveline run most evenly over all places of its axle."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import product
from typing import Literal

import numpy as np
import numpy.typing as npt

from amber_core.driveline.chain import shaft_rpm_ok
from amber_core.driveline.clocking import teeth_ok
from amber_core.driveline.limits import Allowed
from amber_core.driveline.remedies import Plan, Search, make_plan
from amber_core.driveline.variables import Variable, before, score, settings_for
from amber_core.driveline.vehicle import Axle, Field, Vehicle, work
from amber_core.errors import InvalidInput
from amber_core.words import say

Scores = Callable[[Field], Field]
_GRID = {1: 121, 2: 31, 3: 13}
_STARTS = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Free:
    """What may be changed, each as its least and greatest value: wedge [deg], centre-bearing and tail-mount shim [mm], clocking of
    shafts by their number from the driver [deg]."""

    wedge_deg: list[float] | None = None
    shim_mm: list[float] | None = None
    mount_mm: list[float] | None = None
    clock_deg: dict[str, list[float]] | None = None

    def __post_init__(self) -> None:
        for name, most in (("wedge_deg", 20.0), ("shim_mm", 150.0), ("mount_mm", 150.0)):
            _bounds_ok(name, getattr(self, name), most)
        for shaft, bounds in (self.clock_deg or {}).items():
            _bounds_ok(f"clock_deg.{shaft}", bounds, 90.0)


def _bounds_ok(name: str, bounds: list[float] | None, most: float) -> None:
    if bounds is None:
        return
    if len(bounds) != 2 or not -most <= bounds[0] < bounds[1] <= most:
        raise InvalidInput(name, say("Give the minimum and the maximum, within ±{most:g}.", most=most))


@dataclass(frozen=True, slots=True, kw_only=True)
class RecommendQuestion:
    """What to look for.

    Parameters
    ----------
    vehicle : Vehicle
        With the places of its axle as cases.
    free : Free
        What may be changed, and how far.
    objective : {"rms", "max"}
        Mean square of the torsional acceleration over the cases, or the largest equivalent angle.
    teeth : list of int or None, optional
        Spline teeth of every shaft that can be clocked by them.
    rpm : float
        Shaft speed for the limits, [rpm]; with it a plan in workshop steps is looked for.
    allowed : Allowed
        The limits.
    front : Vehicle, optional
        The other driveline of the same transfer case, which a tail-mount shim moves as well.
    """

    vehicle: Vehicle
    free: Free
    objective: Literal["rms", "max"] = "rms"
    teeth: list[int | None] | None = None
    rpm: float = 0.0
    allowed: Allowed = field(default_factory=Allowed)
    front: Vehicle | None = None

    def __post_init__(self) -> None:
        shafts = self.vehicle.shaft_count
        shaft_rpm_ok("rpm", self.rpm)
        if self.teeth is not None:
            if len(self.teeth) != shafts:
                raise InvalidInput(
                    "teeth", say("Give the spline teeth of every propshaft ({shafts}), null where it cannot be clocked.", shafts=shafts)
                )
            for index, one in enumerate(self.teeth):
                teeth_ok(f"teeth[{index}]", one)
        if self.free.shim_mm is not None and self.vehicle.centre_bearing is None:
            raise InvalidInput("free.shim_mm", say("There is no centre bearing to shim."))
        if self.free.mount_mm is not None and self.vehicle.mount is None:
            raise InvalidInput("free.mount_mm", say("Enter the gearbox mounts first: where it is mounted and what it turns about."))
        for shaft in self.free.clock_deg or {}:
            if not shaft.isdecimal() or not 1 <= int(shaft) <= shafts:
                raise InvalidInput(
                    f"free.clock_deg.{shaft}", say("Propshaft number must be 1 to {shafts}, counted from the gearbox.", shafts=shafts)
                )
        if not self.variables():
            raise InvalidInput("free", say("Choose what may be changed: the wedge, a shim or the clocking."))

    def variables(self) -> list[Variable]:
        """What may be changed, in the order of the settings."""
        found = [
            Variable(name=name, low=bounds[0], high=bounds[1])
            for name in ("wedge_deg", "shim_mm", "mount_mm")
            if (bounds := getattr(self.free, name)) is not None
        ]
        for shaft, (low, high) in sorted((self.free.clock_deg or {}).items()):
            teeth = self.teeth[int(shaft) - 1] if self.teeth is not None else None
            found.append(Variable(name=f"clock_shaft_{shaft}", low=low, high=high, teeth=teeth, base=self.vehicle.clocks[int(shaft) - 1]))
        return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Recommended:
    """Score [deg] at the optimum, as it is, and rounded to what a workshop can make; the settings [deg, mm]; which stand at a bound;
    with a shaft speed also the smallest plan of changes."""

    score_deg: float
    score_before_deg: float
    score_rounded_deg: float
    settings: dict[str, float]
    rounded: dict[str, float]
    at_bound: list[str]
    plan: Plan | None


def recommend(given: RecommendQuestion) -> Recommended:
    """Settings that let a driveline run most evenly, and the smallest set of changes that brings it into its limits.

    Parameters
    ----------
    given : RecommendQuestion
        Vehicle, cases, bounds, limits.

    Returns
    -------
    Recommended
        rms score = (sum w b_eq^4 / sum w)^(1/4), or max b_eq over cases with w > 0, [deg].

    Raises
    ------
    InvalidInput
        From RecommendQuestion, with the field.

    Notes
    -----
    A grid (121 points for one variable, 31 x 31, 13^3, 7^4, 5^5), then a simplex search from the best 8 of its local minima within the
    bounds: parallel and meeting ends are two minima, so the whole range is searched. The optimum is often flat: compare scores, not
    settings. Inertia excitation is not minimised; the plan's limits hold it.

    Examples
    --------
    >>> from amber_core.driveline.vehicle import Vehicle
    >>> car = Vehicle(output_joint_mm=[0, 0, 0], output_axis=[1, 0, -0.07], pinion_joint_mm=[1000, 0, -150], pinion_axis=[1, 0, 0],
    ...     axle_centre_mm=[1300, 0, -150])
    >>> round(recommend(RecommendQuestion(vehicle=car, free=Free(wedge_deg=[-6, 8]))).settings["wedge_deg"], 1)
    4.0
    """
    variables = given.variables()
    vehicle, axle = given.vehicle, Axle.of(given.vehicle.places)
    weight = np.array([one.weight for one in vehicle.places])

    def scores(values: Field) -> Field:
        """Of rows of values, [deg]."""
        return score(work(vehicle, settings_for(vehicle, variables, values), axle).residual, weight, given.objective)

    now = before(vehicle, variables)
    best = _optimum(variables, scores)
    rounded = np.array([one.rounded(value) for one, value in zip(variables, best, strict=True)])
    plan = None
    if given.rpm > 0.0:
        plan = make_plan(Search(vehicle=vehicle, variables=variables, rpm=given.rpm, allowed=given.allowed, front=given.front))
    span = np.array([one.high - one.low for one in variables])
    stuck = np.minimum(best - [one.low for one in variables], [one.high for one in variables] - best) < 1e-3 * span
    names = [one.name for one in variables]
    return Recommended(
        score_deg=float(scores(best[None])[0]),
        score_before_deg=float(scores(now[None])[0]),
        score_rounded_deg=float(scores(rounded[None])[0]),
        settings=dict(zip(names, best.tolist(), strict=True)),
        rounded=dict(zip(names, rounded.tolist(), strict=True)),
        at_bound=[name for name, at in zip(names, stuck, strict=True) if at],
        plan=plan,
    )


def _optimum(variables: list[Variable], scores: Scores) -> Field:
    """Values of the least score within the bounds."""
    from scipy.optimize import minimize

    count = _GRID.get(len(variables), 7 if len(variables) == 4 else 5)
    ladders = [np.linspace(one.low, one.high, count) for one in variables]
    grid = np.array(list(product(*ladders)))
    values = scores(grid)
    bounds = [(one.low, one.high) for one in variables]
    steps = np.array([(one.high - one.low) / (count - 1) for one in variables])
    best: Field = grid[int(values.argmin())]
    least = float(values.min())
    for start in grid[_local_minima(values.reshape([count] * len(variables)))[:_STARTS]]:
        corners = np.vstack([start, start + np.diag(np.where(start + steps <= [high for _, high in bounds], steps, -steps))])
        options = {"xatol": 1e-4, "fatol": 1e-7, "maxfev": 60 + 60 * len(variables), "initial_simplex": corners}
        found = minimize(lambda row: float(scores(row[None])[0]), start, method="Nelder-Mead", bounds=bounds, options=options)
        if found.fun < least:
            best, least = np.array(found.x), float(found.fun)
    return best


def _local_minima(values: Field) -> npt.NDArray[np.intp]:
    """Flat places of a grid no worse than any neighbour, best first."""
    lowest = np.ones(values.shape, dtype=bool)
    for way in range(values.ndim):
        inner = np.diff(values, axis=way)
        ahead = [slice(None)] * values.ndim
        behind = [slice(None)] * values.ndim
        ahead[way], behind[way] = slice(None, -1), slice(1, None)
        lowest[tuple(ahead)] &= inner >= 0.0
        lowest[tuple(behind)] &= inner <= 0.0
    flat = np.flatnonzero(lowest.ravel())
    found: npt.NDArray[np.intp] = flat[np.argsort(values.ravel()[flat], kind="stable")]
    return found
