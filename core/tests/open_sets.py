"""The open cases of the tooth-contact model, and their sets as the computations take them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

VECTORS: dict[str, Any] = json.loads((Path(__file__).parent / "vectors" / "contact.json").read_text(encoding="utf-8"))


def described(geometry: str, **more: Any) -> dict[str, Any]:
    """The set of an open case, as `gearset.geometry` takes it."""
    spec = VECTORS["geometries"][geometry]["spec"]
    known = {
        "ring_teeth": spec["z2"],
        "pinion_teeth": spec["z1"],
        "ring_outer_diameter_mm": spec["ring_dia"],
        "offset_mm": spec["offset"],
        "pinion_spiral_deg": spec["pinion_spiral_deg"],
        "pressure_angle_deg": spec["pressure_deg"],
        "cutter_radius_mm": spec["cutter_radius"],
        "tooth_form": "tapered" if spec["taper"] == "duplex" else "uniform",
        "blade_groups": spec["blade_groups"],
        "drive_flank": spec["drive_flank"],
    }
    return {**known, **more}
