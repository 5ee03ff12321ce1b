"""Materials of tubes: typical figures, to be replaced by the maker's."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.words import Said, say

MaterialName = Literal["steel", "aluminium", "carbon"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """Stiffness along the tube E and in shear G [GPa], density [kg/m^3], yield strength [MPa] or, where `shear_mpa` is given, allowable
    shear stress [MPa]; `note` says what the figures are."""

    e_gpa: float
    density_kg_m3: float
    g_gpa: float
    yield_mpa: float
    shear_mpa: float | None = None
    note: Said = say("as entered")

    def __post_init__(self) -> None:
        checks.within("e_gpa", self.e_gpa, 1.0, 1000.0, say("Stiffness must be 1 to 1 000 GPa."))
        checks.within("g_gpa", self.g_gpa, 0.5, 500.0, say("Shear stiffness must be 0.5 to 500 GPa."))
        checks.within("density_kg_m3", self.density_kg_m3, 500.0, 25000.0, say("Density must be 500 to 25 000 kg/m3."))
        checks.within("yield_mpa", self.yield_mpa, 10.0, 4000.0, say("Yield strength must be 10 to 4 000 MPa."))
        checks.within("shear_mpa", self.shear_mpa, 5.0, 3000.0, say("Shear strength must be 5 to 3 000 MPa."))

    @property
    def shear_strength_mpa(self) -> float:
        """Shear stress at yield: yield / sqrt 3 (von Mises), or the allowable one as given, [MPa]."""
        return self.yield_mpa / 3.0**0.5 if self.shear_mpa is None else self.shear_mpa


MATERIALS: dict[MaterialName, Material] = {
    "steel": Material(
        e_gpa=207.0,
        density_kg_m3=7850.0,
        g_gpa=80.0,
        yield_mpa=480.0,
        note=say("typical of cold-drawn low-carbon tube; ordinary welded tube yields at 250 to 350 MPa"),
    ),
    "aluminium": Material(
        e_gpa=69.0,
        density_kg_m3=2700.0,
        g_gpa=26.0,
        yield_mpa=276.0,
        note=say("typical of a heat-treated 6000-series tube; beside a weld only about half of it"),
    ),
    "carbon": Material(
        e_gpa=100.0,
        density_kg_m3=1600.0,
        g_gpa=20.0,
        yield_mpa=173.0,
        shear_mpa=100.0,
        note=say("placeholder only: lay-ups run from 60 to 130 GPa, so use the maker's figures"),
    ),
}
