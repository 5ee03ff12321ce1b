"""A tube as a propshaft: first bending speed, mass, inertia, torque, and what two tubes are to one another."""

from __future__ import annotations

from dataclasses import dataclass, fields
from math import pi, sqrt

from amber_core import checks
from amber_core.driveline.chain import shaft_rpm_ok
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import circumference_ok, ratio_ok
from amber_core.shafts.material import MATERIALS, Material, MaterialName
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import Said, say

_SHEAR_FACTOR = 0.53
"""Of a thin round tube (Timoshenko), [-]."""
_POISSON = 0.3
_NEAR_HALF = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Tube:
    """Outer diameter and wall [mm], material (typical figures) or its own figures."""

    outer_mm: float
    wall_mm: float
    material: MaterialName | Material = "steel"

    def __post_init__(self) -> None:
        checks.within("outer_mm", self.outer_mm, 10.0, 400.0, say("Tube diameter must be 10 to 400 mm. Give it in millimetres."))
        checks.within("wall_mm", self.wall_mm, 0.3, 50.0, say("Wall thickness must be 0.3 to 50 mm."))
        if 2.0 * self.wall_mm > self.outer_mm:
            raise InvalidInput("wall_mm", say("The wall is thicker than half the tube. Check which figure is which."))

    @property
    def made_of(self) -> Material:
        """Its material's figures."""
        return self.material if isinstance(self.material, Material) else MATERIALS[self.material]

    @property
    def diameters_m(self) -> tuple[float, float]:
        """Outer and inner diameter, [m]."""
        return self.outer_mm / 1000.0, (self.outer_mm - 2.0 * self.wall_mm) / 1000.0

    @property
    def area_m2(self) -> float:
        """pi/4 (do^2 - di^2), [m^2]."""
        outer, inner = self.diameters_m
        return pi / 4.0 * (outer**2 - inner**2)

    @property
    def second_moment_m4(self) -> float:
        """pi/64 (do^4 - di^4), [m^4]."""
        outer, inner = self.diameters_m
        return pi / 64.0 * (outer**4 - inner**4)

    @property
    def bending_n_m2(self) -> float:
        """E I, [N m^2]."""
        return self.made_of.e_gpa * 1e9 * self.second_moment_m4

    @property
    def mass_kg_per_m(self) -> float:
        """rho A, [kg/m]."""
        return self.made_of.density_kg_m3 * self.area_m2

    def critical_rpm(self, length_mm: float) -> float:
        """First bending speed pinned at both ends: (60/2 pi) (pi/L)^2 sqrt(EI / rho A), [rpm]."""
        return 30.0 / pi * (pi / (length_mm / 1000.0)) ** 2 * sqrt(self.bending_n_m2 / self.mass_kg_per_m)

    def critical_with_shear_rpm(self, length_mm: float) -> float:
        """The same with shear and rotary inertia: smallest root of the Timoshenko beam's equation, [rpm]."""
        made, k = self.made_of, pi / (length_mm / 1000.0)
        e, g, rho, moment = made.e_gpa * 1e9, made.g_gpa * 1e9, made.density_kg_m3, self.second_moment_m4
        a = rho**2 * moment / (_SHEAR_FACTOR * g)
        b = self.mass_kg_per_m + rho * moment * (1.0 + e / (_SHEAR_FACTOR * g)) * k**2
        c = e * moment * k**4
        # the smaller root in the form that loses no digits
        return 30.0 / pi * sqrt(2.0 * c / (b + sqrt(b**2 - 4.0 * a * c)))


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftQuestion(Tube):
    """A tube with its length from joint centre to joint centre [mm], share of the bending speed that is allowed [-], rolling
    circumference [m] and all reduction behind the shaft [-], the greatest shaft speed it must stand [rpm]."""

    length_mm: float
    fraction: float = 0.75
    circumference_m: float | None = None
    ratio: float | None = None
    rpm: float | None = None

    def __post_init__(self) -> None:
        Tube.__post_init__(self)
        length_ok(self.length_mm)
        fraction_ok(self.fraction)
        circumference_ok("circumference_m", self.circumference_m)
        if self.ratio is not None:
            ratio_ok("ratio", self.ratio, 100.0)
        shaft_rpm_ok("rpm", self.rpm)


def length_ok(length_mm: float) -> None:
    """Refuse what is no shaft.

    Raises
    ------
    InvalidInput
        On ``length_mm``.
    """
    checks.within("length_mm", length_mm, 50.0, 6000.0, say("Shaft length must be 50 to 6 000 mm. Give it in millimetres."))


def fraction_ok(fraction: float) -> None:
    """Refuse a share of the bending speed that is none.

    Raises
    ------
    InvalidInput
        On ``fraction``.
    """
    checks.within("fraction", fraction, 0.3, 1.0, say("Share of the bending speed must be 0.3 to 1; 0.75 is usual."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Shaft:
    """First bending speed, the same with shear and rotary inertia, and the speed allowed [rpm]; mass [kg], inertia [kg m^2]; torque at
    yield and at which a thin wall would buckle [Nm], twist [deg per kNm]; with tyre and ratio the road speed allowed [km/h] and the
    mass that its inertia is worth at the wheel [kg]; whether it stands `rpm`; the material's note."""

    critical_rpm: float
    critical_with_shear_rpm: float
    allowed_rpm: float
    mass_kg: float
    inertia_kgm2: float
    torque_yield_nm: float
    torque_buckling_nm: float
    twist_deg_per_knm: float
    max_speed_kmh: float | None
    equivalent_mass_kg: float | None
    material_note: Said
    verdict: VerdictWord
    reasons: list[Reason]


def shaft(given: ShaftQuestion) -> Shaft:
    """What a tube of this length stands as a propshaft.

    Parameters
    ----------
    given : ShaftQuestion
        do, t, L [mm]; C [m]; i [-]; n [rpm].

    Returns
    -------
    Shaft
        n_c = (60/2 pi) (pi/L)^2 sqrt(EI / rho A); m = rho A L; J = m (do^2 + di^2)/8; T = tau J_p/(do/2); twist T L/(G J_p).

    Raises
    ------
    InvalidInput
        From ShaftQuestion, with the field.

    Notes
    -----
    Euler-Bernoulli beam pinned at the joints: soft supports lower the figure by some 10 %, hence the 0.75 (a rule of thumb). Thin walls
    buckle at tau = E/(3 sqrt 2 (1 - nu^2)^0.75) (t/r)^1.5. Joints excite twice a turn, so half the bending speed is named when near.
    Source: beam and shell formulas of any strength and vibration textbook.

    Examples
    --------
    >>> round(shaft(ShaftQuestion(outer_mm=76.2, wall_mm=2.1, length_mm=1500)).critical_rpm)
    5637
    """
    made, length = given.made_of, given.length_mm / 1000.0
    outer, inner = given.diameters_m
    polar = 2.0 * given.second_moment_m4
    mass = given.mass_kg_per_m * length
    inertia = mass * (outer**2 + inner**2) / 8.0
    critical = given.critical_rpm(given.length_mm)
    allowed = given.fraction * critical
    radius = (outer + inner) / 4.0
    buckling = made.e_gpa * 1e9 / (3.0 * sqrt(2.0) * (1.0 - _POISSON**2) ** 0.75) * (given.wall_mm / 1000.0 / radius) ** 1.5
    known = given.circumference_m is not None and given.ratio is not None
    around, ratio = given.circumference_m or 1.0, given.ratio or 1.0
    limits = []
    if given.rpm is not None:
        limits.append(
            Limit(value=given.rpm, bound=allowed, side="max", field="rpm", what=say("Maximum propshaft speed"), unit="rpm", digits=0)
        )
    verdict, reasons = judge(limits, 0.02 * allowed)
    return Shaft(
        critical_rpm=critical,
        critical_with_shear_rpm=given.critical_with_shear_rpm(given.length_mm),
        allowed_rpm=allowed,
        mass_kg=mass,
        inertia_kgm2=inertia,
        torque_yield_nm=made.shear_strength_mpa * 1e6 * polar / (outer / 2.0),
        torque_buckling_nm=buckling * polar / radius,
        twist_deg_per_knm=1000.0 * length / (made.g_gpa * 1e9 * polar) * 180.0 / pi,
        max_speed_kmh=allowed / 60.0 * around / ratio * 3.6 if known else None,
        equivalent_mass_kg=inertia * (ratio / (around / (2.0 * pi))) ** 2 if known else None,
        material_note=made.note,
        verdict=verdict,
        reasons=[*reasons, *_near_half(given.rpm, critical)],
    )


def _near_half(rpm: float | None, critical: float) -> list[Reason]:
    if rpm is None or abs(rpm / (critical / 2.0) - 1.0) > _NEAR_HALF:
        return []
    text = say(
        "Universal joints shake twice a turn, and {rpm:.0f} rpm is near half the bending speed ({value:.0f} rpm). Expect a boom there.",
        rpm=rpm,
        value=critical / 2.0,
    )
    return [Reason(code="near_half_critical", text=text, field="rpm")]


@dataclass(frozen=True, slots=True, kw_only=True)
class LengthQuestion(Tube):
    """A tube, the shaft speed it must stand [rpm], and the share of the bending speed that is allowed [-]."""

    rpm: float
    fraction: float = 0.75

    def __post_init__(self) -> None:
        Tube.__post_init__(self)
        shaft_rpm_ok("rpm", self.rpm)
        checks.above_zero("rpm", self.rpm, say("Propshaft speed"))
        fraction_ok(self.fraction)


@dataclass(frozen=True, slots=True, kw_only=True)
class LongestShaft:
    """Longest shaft, joint centre to joint centre, [mm]."""

    max_length_mm: float


def max_length(given: LengthQuestion) -> LongestShaft:
    """How long a shaft of this tube may be at a speed.

    Parameters
    ----------
    given : LengthQuestion
        do, t [mm], n [rpm], q [-].

    Returns
    -------
    LongestShaft
        L = 1 m sqrt(n_c(1 m) q / n), [mm].

    Raises
    ------
    InvalidInput
        From LengthQuestion, with the field.

    Notes
    -----
    n_c falls with the square of the length.

    Examples
    --------
    >>> round(max_length(LengthQuestion(outer_mm=88.9, wall_mm=2.1, rpm=5200)).max_length_mm)
    1464
    """
    return LongestShaft(max_length_mm=1000.0 * sqrt(given.critical_rpm(1000.0) * given.fraction / given.rpm))


@dataclass(frozen=True, slots=True, kw_only=True)
class TubePair:
    """Two tubes as shafts."""

    a: ShaftQuestion
    b: ShaftQuestion


@dataclass(frozen=True, slots=True, kw_only=True)
class TubesCompared:
    """Both shafts, and each figure of b over that of a [-]."""

    a: Shaft
    b: Shaft
    ratios: dict[str, float]


def compare_tubes(given: TubePair) -> TubesCompared:
    """Two tubes side by side.

    Parameters
    ----------
    given : TubePair
        As for `shaft.tube`.

    Returns
    -------
    TubesCompared
        Both answers, and b/a of every figure that both have.

    Raises
    ------
    InvalidInput
        From the tubes, with the field.

    Notes
    -----
    Diameter pays in bending speed and strength; the mass that inertia is worth at the wheel is tiny either way.

    Examples
    --------
    >>> thin, wide = (ShaftQuestion(outer_mm=d, wall_mm=2.1, length_mm=1500) for d in (76.2, 88.9))
    >>> round(compare_tubes(TubePair(a=thin, b=wide)).ratios["critical_rpm"], 2)
    1.17
    """
    a, b = shaft(given.a), shaft(given.b)
    pairs = {one.name: (getattr(a, one.name), getattr(b, one.name)) for one in fields(Shaft)}
    found = {name: y / x for name, (x, y) in pairs.items() if isinstance(x, float) and isinstance(y, float) and x}
    return TubesCompared(a=a, b=b, ratios=found)
