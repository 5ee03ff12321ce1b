"""Something typed at every tool, as a technician would."""

from __future__ import annotations

from diff_bench.reading import Values

_STEEL, _FRICTION = {"kind": "steel", "keyed": "case"}, {"kind": "friction", "keyed": "gear"}

TYPED: dict[str, Values] = {
    "clutch_order": {"plates": [_STEEL, _FRICTION, _STEEL, _FRICTION, _STEEL], "as_found": [_STEEL, _FRICTION, _STEEL, _FRICTION, _STEEL]},
    "clutch_shims": {
        "ring_side.stack_mm": "16,21",
        "far_side.stack_mm": "16.34 mm",
        "ring_on": "right",
        "min_mm": "16.7",
        "max_mm": "16.9",
        "stock": [{"thickness_mm": "0.38", "count": "1"}, {"thickness_mm": "0.51", "count": "2"}],
    },
    "breakaway": {"readings_nm": ["62", "66", "71"], "min_nm": "55", "max_nm": "110"},
    "locker_gap": {
        "readings_mm": ["3.92", "3.98"],
        "washers": "fitted",
        "min_mm": "3.7",
        "max_mm": "4.3",
        "ratchet.left_forward": "ratchets",
        "ratchet.left_back": "ratchets",
        "ratchet.right_forward": "ratchets",
        "ratchet.right_back": "ratchets",
    },
    "side_gear": {"plays_mm": ["0.22 mm", "0.27 mm"], "min_mm": "0.05 mm", "max_mm": "0.17 mm", "washer_mm": "1.1"},
    "end_play": {
        "school": "free_play",
        "trials": [{"stack_mm": "0.50 + 0.34", "pushed_in_mm": "0.02 mm", "pulled_out_mm": "0.17 mm", "nut_nm": "30"}],
        "play_min": "0.02 mm",
        "play_max": "0.08 mm",
    },
    "press_fit": {"shaft_mm": "45.035", "bore_mm": "45.00", "length_mm": "22", "hub_outer_mm": "58"},
    "clearance": {"shaft_mm": ["21.97", "21.95"], "bore_mm": ["22.03", "22.06"], "max_mm": "0.15 mm"},
    "bearings": {
        "old.ring_side_mm": ["29.31", "29.33"],
        "old.far_side_mm": ["29.40"],
        "new.ring_side_mm": ["29.42"],
        "new.far_side_mm": ["29.38", "29.36"],
        "ring_side_shim_mm": "1.25 + 0.60",
        "far_side_shim_mm": "2.10",
    },
    "rollers": {"roller_mm": "2.5", "inner_race_mm": "16.2", "counted": "22"},
    "hot_play": {"span_mm": "165", "rise_k": "65", "play_cold_mm": "0.02 mm"},
    "seal_surface": {
        "nominal_mm": "47.75",
        "readings_mm": ["47.60", "47.66"],
        "groove_mm": "0.31",
        "fingernail": "yes",
        "hourly": "96.00",
        "ways": [
            {"way": "polish", "price": "3", "minutes": "25"},
            {"way": "sleeve", "price": "38.90", "minutes": "35", "sleeve_from_mm": "47.55", "sleeve_to_mm": "47.75"},
            {"way": "new_part", "price": "149", "minutes": "40", "wait_days": "4"},
        ],
        "old_length_mm": "84.2",
        "new_length_mm": "84.9",
    },
    "gasket": {
        "outer.diameter_mm": "210",
        "inner.kind": "circle",
        "inner.diameter_mm": "160",
        "holes.count": "8",
        "holes.pitch_circle_mm": "186",
        "hole_mm": "9",
    },
    "half_shaft": {"gap_now_mm": "4.9", "gap_before_mm": "2.0"},
    "engagement": {"engaged_home_mm": "34", "outward_mm": "4", "spline_diameter_mm": "32", "side": "right"},
    "tube_end": {
        "register": ["4.30", "4.51", "4.60", "4.51", "4.30", "4.09", "4.00", "4.09"],
        "min_mm": "5.7",
        "max_mm": "6.4",
        "seat_mm": "6.6",
        "spigot_mm": "4.0",
        "guide_mm": "2.0",
    },
    "bolts": {"count": "10", "target_nm": "90"},
    "turning": {
        "target_nm": "80",
        "steps": [{"turn_deg": str(15 * k), "torque_nm": torque} for k, torque in enumerate(("12", "30", "48", "52"))],
    },
    "torque_estimate": {"diameter_mm": "10", "pitch_mm": "1.5", "grade": "8.8", "lubricated": "yes"},
    "castle_nut": {"play_mm": "0.02 mm", "pitch_mm": "1.5", "slots": "10", "holes": "2", "min_mm": "0.05 mm", "max_mm": "0.15 mm"},
    "runout": {
        "readings": ["0 mm", "0 mm", "0.06 mm", "0 mm", "0 mm", "-0.01 mm", "0 mm", "0 mm"],
        "max_tir_mm": "0.05 mm",
    },
    "air_hold": {"start_kpa": "7.2 bar", "end_kpa": "694", "start_c": "31", "end_c": "22", "minutes": "15", "max_drop_kpa": "10"},
    "heat": {"ambient_c": "15", "places.pinion": "92", "places.left": "41 °C", "places.right": "43"},
}
