"""Axles as they come through the door: random sets with the spread of real ones, wrong by as much as a first assembly is."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from amber_core.contact.contact_set import contact_set
from amber_core.gearset.description import EaseOff, GearSetDescription
from amber_core.setup.question import SetupWindow
from amber_core.simulated.axle import HiddenAxle

Kind = Literal["bevel", "hypoid", "uniform"]
KINDS: tuple[Kind, ...] = ("bevel", "hypoid", "uniform")
_RATIOS = ((11, 41), (10, 41), (9, 41), (10, 37), (9, 37), (12, 41), (13, 40))
FARTHEST_PINION_MM, FARTHEST_BACKLASH_MM = 0.25, 0.12


def random_set(draw: np.random.Generator, kind: Kind) -> GearSetDescription:
    """What is known of a random set of this kind, and the backlash of its right place."""
    pinion, ring = _RATIOS[int(draw.integers(len(_RATIOS)))]
    diameter = float(draw.uniform(175.0, 255.0))
    offset = 0.0 if kind == "bevel" or (kind == "uniform" and draw.random() < 0.4) else float(draw.uniform(0.10, 0.16)) * diameter
    known = GearSetDescription(
        pinion_teeth=pinion,
        ring_teeth=ring,
        ring_outer_diameter_mm=diameter,
        offset_mm=offset,
        tooth_form="uniform" if kind == "uniform" else "tapered",
        cutter_radius_mm=0.41 * diameter if kind == "uniform" else 0.44 * diameter,
    )
    return replace(known, nominal_backlash_arc_mm=float(draw.uniform(0.13, 0.24)) / contact_set(known).plunger_per_arc)


def random_axle(draw: np.random.Generator, kind: Kind) -> tuple[GearSetDescription, HiddenAxle, SetupWindow]:
    """A set as it is known, the axle as it is, and the window of its sheet.

    Notes
    -----
    The true set differs from the described one: crowning by 30 %, twist by 0.15, the middle of each patch by 0.04 along and
    0.06 across, backlash at the right place by 0.015 mm (one standard deviation each). The pinion stands up to 0.25 mm wrong, the
    backlash up to 0.12 mm.
    """
    known = random_set(draw, kind)
    factor = contact_set(known).plunger_per_arc
    middle = known.nominal_backlash_arc_mm * factor
    crowning, twist = draw.normal(0.0, 0.30, 2), float(draw.normal(0.0, 0.15))
    eases = []
    for _ in range(2):
        u0, v0 = 0.5 + float(draw.normal(0.0, 0.04)), 0.5 + float(draw.normal(0.0, 0.06))
        along, across = 45.0 * float(np.exp(crowning[0])), 15.0 * float(np.exp(crowning[1]))
        eases.append(EaseOff(length_um=along, profile_um=across, bias=float(np.clip(0.45 + twist, -0.5, 0.9)), u0=u0, v0=v0))
    true_arc = max(0.05, middle + float(draw.normal(0.0, 0.015))) / factor
    true = replace(known, ease_drive=eases[0], ease_coast=eases[1], nominal_backlash_arc_mm=true_arc)
    pinion = float(draw.uniform(-FARTHEST_PINION_MM, FARTHEST_PINION_MM))
    read = max(0.03, middle + float(draw.uniform(-FARTHEST_BACKLASH_MM, FARTHEST_BACKLASH_MM)))
    ring = contact_set(true).ring_for_arc_mm(read / factor, pinion_mm=pinion)
    swing, high = float(abs(draw.normal(0.0, 0.006))), float(draw.uniform(0.0, 360.0))
    hidden = HiddenAxle(set=true, pinion_mm=pinion, ring_mm=ring, runout_mm=swing, runout_at_deg=high)
    window = SetupWindow(backlash_min_mm=middle - 0.04, backlash_max_mm=middle + 0.04, variation_max_mm=0.07)
    return known, hidden, window
