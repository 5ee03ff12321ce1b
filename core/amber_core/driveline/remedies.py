"""The smallest set of workshop changes that brings a driveline into its limits, with what each does and what it costs elsewhere."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations, product
from math import radians, sqrt

import numpy as np

from amber_core.driveline.chain import rad_per_s
from amber_core.driveline.limits import Allowed
from amber_core.driveline.remedy_words import Change, change_of, reasons_of
from amber_core.driveline.variables import Variable, before, score, settings_for
from amber_core.driveline.vehicle import Axle, Field, Vehicle, Worked, work
from amber_core.words import Said

_EFFORT = {"clock": 1, "shim_mm": 2, "wedge_deg": 3, "mount_mm": 4}
_COARSE = 900
_MOST_CHANGES = 3
_TINY_RAD = radians(0.01)


@dataclass(frozen=True, slots=True, kw_only=True)
class Search:
    """A vehicle, what may be changed, shaft speed [rpm], limits, and the other driveline of the same transfer case."""

    vehicle: Vehicle
    variables: list[Variable]
    rpm: float
    allowed: Allowed
    front: Vehicle | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseFigures:
    """One place of the axle: joint angles and equivalent angle [deg], and the greatest share of a limit that is used [-]."""

    name: str
    joint_angle_deg: list[float]
    b_eq_deg: float
    use: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Changes, whether they bring all into the limits, settings [deg, mm], score [deg], every case before and after, other ways."""

    changes: list[Change]
    within: bool
    settings: dict[str, float]
    score_deg: float
    before: list[CaseFigures]
    after: list[CaseFigures]
    others: list[list[str]]
    reasons: list[Said]


def uses(worked: Worked, vehicle: Vehicle, rpm: float, allowed: Allowed) -> Field:
    """Greatest share of a limit used, for every setting at every place (settings, places); over 1 is out, [-].

    The torsional limit is the tolerated one; joints must roll at the place that counts most alone, since a joint may pass through
    straight on its way.
    """
    cases = vehicle.places
    speed = np.array([rad_per_s(rpm if one.rpm is None else one.rpm) for one in cases]) ** 2
    driven = np.abs(np.cumsum(worked.terms, axis=-1)[..., :-1])
    coasting = np.abs(worked.terms.sum(axis=-1)[..., None] - np.cumsum(worked.terms, axis=-1)[..., :-1])
    shares = [
        speed * worked.residual / allowed.torsional_tolerated_rad_s2,
        speed * driven.max(axis=-1) / allowed.inertia_rad_s2,
        speed * coasting.max(axis=-1) / allowed.inertia_rad_s2,
    ]
    halves = np.array([{"cardan": 1.0, "double_cardan": 0.5, "cv": 0.0}[kind] for kind in vehicle.kinds])
    shares.append(np.sqrt(speed) * (worked.beta * halves).max(axis=-1) / sqrt(allowed.inertia_rad_s2))
    if allowed.joint_limit_deg is not None:
        shares.append(np.degrees(worked.beta.max(axis=-1)) / allowed.joint_limit_deg)
    found: Field = np.max(np.stack(shares), axis=0)
    if "end_difference_deg" in allowed.from_maker and vehicle.kinds == ["cardan", "cardan"]:
        difference = np.degrees(np.abs(worked.beta[..., 0] - worked.beta[..., 1]))
        found = np.maximum(found, difference / allowed.end_difference_deg)
    crosses = np.array([kind == "cardan" for kind in vehicle.kinds])
    if crosses.any():
        main = int(np.argmax([one.weight for one in cases]))
        rolling = radians(allowed.running_min_deg) / np.maximum(worked.beta[:, main, crosses], _TINY_RAD)
        found[:, main] = np.maximum(found[:, main], rolling.max(axis=-1))
    return found


def make_plan(search: Search) -> Plan:
    """The fewest changes that bring every case into the limits; of as few, those of least effort; else the best that was found."""
    vehicle, axle = search.vehicle, Axle.of(search.vehicle.places)
    now = before(vehicle, search.variables)
    found: list[tuple[float, Field, tuple[int, ...]]] = [(float(_cost(search, axle, now[None])[0]), now, ())]
    size = 0
    while found[0][0] > 1.0 and size < min(_MOST_CHANGES, len(search.variables)):
        size += 1
        tried = [_best(search, axle, now, chosen) for chosen in combinations(range(len(search.variables)), size)]
        found = sorted([*found, *tried], key=lambda one: (max(one[0], 1.0), _effort(search, one[2]), one[0]))
    least = found[0]
    values = least[1]
    changed = [index for index in least[2] if abs(values[index] - now[index]) > 1e-9]
    others = [[search.variables[index].name for index in one[2]] for one in found[1:] if one[0] <= 1.0 and one[2] and one[2] != least[2]]
    return _told(search, axle, now, values, changed, within=least[0] <= 1.0, others=others[:3])


def _effort(search: Search, chosen: tuple[int, ...]) -> int:
    return sum(_EFFORT["clock" if search.variables[index].shaft else search.variables[index].name] for index in chosen)


def _cost(search: Search, axle: Axle, values: Field) -> Field:
    """1 + excess where a limit is broken, else 1 at most, less for a lower score: one figure to make small."""
    vehicle = search.vehicle
    worked = work(vehicle, settings_for(vehicle, search.variables, values), axle)
    worst = uses(worked, vehicle, search.rpm, search.allowed).max(axis=1)
    if search.front is not None:
        worst = np.maximum(worst, _front_worst(search, values))
    weight = np.array([one.weight for one in vehicle.places])
    found: Field = np.where(worst > 1.0 + 1e-9, worst, 1.0 - 1.0 / (1.0 + score(worked.residual, weight, "rms")))
    return found


def _front_worst(search: Search, values: Field) -> Field:
    """What the other driveline uses of its limits; not counted against a plan that leaves it no worse than it was."""
    names = [one.name for one in search.variables]
    if search.front is None or "mount_mm" not in names:
        return np.zeros(len(values))
    mount = values[:, names.index("mount_mm")]
    worst = _front_uses(search, np.concatenate([[0.0], mount])).max(axis=1)
    return np.where(worst[1:] <= worst[0] + 1e-9, 0.0, worst[1:])


def _front_uses(search: Search, mount_mm: Field) -> Field:
    assert search.front is not None
    front = replace(search.front, mount=search.vehicle.mount)
    lift = Variable(name="mount_mm", low=-150.0, high=150.0)
    worked = work(front, settings_for(front, [lift], mount_mm[:, None]), Axle.of(front.places))
    return uses(worked, front, search.rpm, search.allowed)


def _front_before_and_after(search: Search, mount_mm: float) -> tuple[float, float] | None:
    if search.front is None:
        return None
    before_it, after_it = _front_uses(search, np.array([0.0, mount_mm])).max(axis=1).tolist()
    return before_it, after_it


def _best(search: Search, axle: Axle, now: Field, chosen: tuple[int, ...]) -> tuple[float, Field, tuple[int, ...]]:
    """The best workshop steps of these variables, the others as they are: a coarse grid, then step by step downhill from its best four."""
    ladders = [search.variables[index].ladder() for index in chosen]
    if not all(len(one) for one in ladders):
        return float(_cost(search, axle, now[None])[0]), now, ()
    most = max(3, int(_COARSE ** (1.0 / len(chosen))))
    coarse = [np.unique(np.linspace(0, len(one) - 1, min(most, len(one))).round().astype(int)) for one in ladders]
    places = np.array(list(product(*coarse)))

    def rows(at: Field) -> Field:
        values = np.tile(now, (len(at), 1))
        for column, (index, ladder) in enumerate(zip(chosen, ladders, strict=True)):
            values[:, index] = ladder[at[:, column]]
        return values

    costs = _cost(search, axle, rows(places))
    best: tuple[float, Field] | None = None
    around = np.array(list(product((-1, 0, 1), repeat=len(chosen))))
    tops = np.array([len(one) - 1 for one in ladders])
    for start in places[np.argsort(costs, kind="stable")[:4]]:
        at, least = start, np.inf
        while True:
            near = np.clip(at + around, 0, tops)
            tried = _cost(search, axle, rows(near))
            if tried.min() >= least:
                break
            least, at = float(tried.min()), near[int(tried.argmin())]
        if best is None or least < best[0]:
            best = (least, at)
    assert best is not None
    return best[0], rows(best[1][None])[0], chosen


def _figures(search: Search, axle: Axle, values: Field) -> list[CaseFigures]:
    vehicle = search.vehicle
    worked = work(vehicle, settings_for(vehicle, search.variables, values[None]), axle)
    used = uses(worked, vehicle, search.rpm, search.allowed)[0]
    return [
        CaseFigures(
            name=case.name or f"case {number}",
            joint_angle_deg=np.degrees(worked.beta[0, number - 1]).tolist(),
            b_eq_deg=float(np.degrees(np.sqrt(worked.residual[0, number - 1]))),
            use=float(used[number - 1]),
        )
        for number, case in enumerate(vehicle.places, start=1)
    ]


def _told(search: Search, axle: Axle, now: Field, values: Field, changed: list[int], *, within: bool, others: list[list[str]]) -> Plan:
    weight = np.array([one.weight for one in search.vehicle.places])
    after = work(search.vehicle, settings_for(search.vehicle, search.variables, values[None]), axle)
    return Plan(
        changes=[
            change_of(
                search.vehicle, search.variables, now, values, index, _front_before_and_after(search, float(values[index] - now[index]))
            )
            for index in changed
        ],
        within=within,
        settings={one.name: float(value) for one, value in zip(search.variables, values, strict=True)},
        score_deg=float(score(after.residual, weight, "rms")[0]),
        before=_figures(search, axle, now),
        after=_figures(search, axle, values),
        others=others,
        reasons=list(reasons_of(within, changed, others)),
    )
