"""A question that holds for every public computation, to be bent out of shape by the tests of what is refused."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from tests.open_sets import described

_VECTORS = Path(__file__).parent / "vectors"
_SET = described("B1")
_ROUND = [{"angle_deg": 90.0 * k, "value_mm": 0.2 + 0.01 * k} for k in range(4)]
_STOCK = [{"thickness_mm": 1.0 + 0.05 * k, "count": 3} for k in range(8)]
_TUBE = {"outer_mm": 76.2, "wall_mm": 2.1, "length_mm": 1500.0}
_ENGINE = {"idle_rpm": 800.0, "redline_rpm": 4600.0, "torque": [{"rpm": 1000.0, "torque_nm": 180.0}, {"rpm": 3200.0, "torque_nm": 260.0}]}
_LOAD = {"mass_kg": 2400.0}
_DRIVETRAIN = {"circumference_m": 2.3, "axle_ratio": 4.1}
_PATCH = {"u": 0.45, "v": 0.5}

_BY_HAND: dict[str, dict[str, Any]] = {
    "backlash.assess": {"readings": _ROUND, "min_mm": 0.13, "max_mm": 0.25, "max_variation_mm": 0.05},
    "backlash.from_flange": {"ring_teeth": 41, "pinion_teeth": 10, "outer_radius_mm": 101.0, "lash_at_radius_mm": 1.1, "radius_mm": 60.0},
    "carrier.move": {
        "method": "side_shims",
        "backlash_mean_mm": 0.3,
        "target_backlash_mm": 0.18,
        "backlash_per_ring_move": 0.7,
        "ring_side_mm": 5.2,
        "far_side_mm": 5.1,
        "stock": _STOCK,
    },
    "contact.estimate": {
        "set": _SET,
        "observed": {"backlash_mm": {"value": 0.2, "sd": 0.01}, "drive": {**_PATCH, "sd_u": 0.05, "sd_v": 0.06}},
    },
    "contact.simulate": {"set": _SET, "pinion_mm": 0.05, "ring_mm": -0.03},
    "depth.measure": {"reading_mm": 30.0, "nominal_mm": 65.0, "arbor_radius_mm": 25.0, "bar_mm": 10.0, "shim_mm": 1.0},
    "depth.start": {"old_shim_mm": 1.2, "old_mark": 2.0, "new_mark": -1.0, "mark_unit": "hundredths_mm", "shim_place": "under_head"},
    "driveline.analyse": {"members": [[3.0, 0.0], [7.0, 2.0], [3.0, 0.0]], "rpm": 2500.0},
    "driveline.inspect_joint": {},
    "driveline.readings": {
        "output": {"side": {"value_deg": 3.0, "axle_end": "lower"}},
        "shafts": [{"length_mm": 1300.0, "member": {"side": {"value_deg": 7.0, "axle_end": "lower"}}}],
        "pinion": {"side": {"value_deg": 3.0, "axle_end": "lower"}},
    },
    "endplay.shims": {
        "stack_mm": 1.2,
        "school": "free_play",
        "shim_effect": "adds_play",
        "window": {"min": 0.02, "max": 0.08},
        "end_play_mm": 0.3,
        "stock": _STOCK,
    },
    "gearset.geometry": _SET,
    "parts.look": {"build": {"unit": "beam"}, "key": "ring", "findings": ["chip"]},
    "parts.plan": {"build": {"unit": "third", "ends": "float"}, "kind": "third_member", "asked": ["crush"]},
    "preload.assess": {"readings_nm": [2.0, 2.2], "min_nm": 1.5, "max_nm": 2.8},
    "preload.carrier": {
        "pinion_nm": 2.0,
        "total_nm": 3.1,
        "ring_teeth": 41,
        "pinion_teeth": 10,
        "window": {"min": 0.5, "max": 1.6},
        "window_kind": "rise_at_pinion",
    },
    "preload.pull": {"force_n": 40.0, "radius_mm": 60.0},
    "preload.sleeve": {
        "steps": [{"nut_turn_deg": 20.0 * k, "rotating_torque_nm": 0.4 + max(0.0, 0.3 * (k - 3))} for k in range(7)],
        "min_nm": 1.7,
        "max_nm": 2.8,
    },
    "preload.spacer": {"stack_mm": 10.4, "end_play_mm": 0.05, "target_nm": 2.0, "stock": _STOCK},
    "ratio.choose": {
        "gearboxes": [{"name": "five", "gears": [3.9, 2.3, 1.5, 1.0, 0.8]}],
        "axles": [{"pinion_teeth": 10, "ring_teeth": 41}, {"pinion_teeth": 9, "ring_teeth": 41}],
        "circumference_m": 2.3,
        "engine": _ENGINE,
        "load": _LOAD,
        "use": {"cruise_kmh": 90.0, "cruise_rpm_min": 1800.0, "cruise_rpm_max": 2600.0, "hold_grade_pct": 6.0, "hold_kmh": 70.0},
    },
    "ratio.compare": {
        "gearings": [{"name": "now", "circumference_m": 2.3, "gears": [3.9, 2.3, 1.5, 1.0, 0.8], "axle_ratio": 4.1}],
        "engine": _ENGINE,
        "load": _LOAD,
        "cruise_kmh": 90.0,
    },
    "runout.assess": {"readings": [{"angle_deg": 45.0 * k, "value_mm": 0.01 * (k % 3)} for k in range(8)], "max_tir_mm": 0.05},
    "setup.advise": {
        "set": _SET,
        "adjust": {"shim_place": "under_head", "carrier": "side_shims"},
        "window": {"backlash_min_mm": 0.13, "backlash_max_mm": 0.23},
        "trials": [
            {"depth_shim_mm": 1.2, "ring_side_mm": 5.2, "far_side_mm": 5.1, "backlash": {"mean_mm": 0.3}, "drive": _PATCH, "coast": _PATCH}
        ],
        "stock": {"depth": _STOCK, "side": _STOCK},
    },
    "shaft.compare": {"a": _TUBE, "b": {**_TUBE, "outer_mm": 89.0}},
    "shaft.supports": {"mass_kg": 9.5, "shaft_critical_rpm": 5608.0, "support_front_n_per_m": 5e6, "support_rear_n_per_m": 4e6},
    "shims.pick": {"target_mm": 2.3, "tolerance_mm": 0.02, "stock": _STOCK},
    "vibration.felt": {"drivetrain": _DRIVETRAIN, "tests": [{"speed_kmh": 90.0, "f_hz": 44.0}]},
    "vibration.spectrum": {"samples": [float((7 * k) % 5) for k in range(64)], "rate_hz": 100.0},
    "vibration.tell_apart": {"first": "prop_1x", "second": "engine_1x"},
}


def good_questions() -> dict[str, list[dict[str, Any]]]:
    """At least one for each name: the open cases, and these."""
    found: dict[str, list[dict[str, Any]]] = {name: [question] for name, question in _BY_HAND.items()}
    for name in ("driveline", "identify", "ratios", "workshop", "bench"):
        for case in json.loads((_VECTORS / f"{name}.json").read_text(encoding="utf-8"))["cases"]:
            if "error" not in case:
                found.setdefault(case["name"], []).append(case["inputs"])
    return found
