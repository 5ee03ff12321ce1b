"""What the demo's technicians measured with the tools of the Diff bench."""

from __future__ import annotations

from typing import TYPE_CHECKING

from diff_bench.reading import Units, Values
from diff_bench.services import summary
from diff_bench.working import worked
from work.kept import dumped
from work.models import Area

if TYPE_CHECKING:
    from demo_world.world import JobBuilder

BREAKAWAY_AS_FOUND: Values = {"readings_nm": ["31", "28", "36"], "min_nm": "55 Nm", "max_nm": "110 Nm"}
PIN: Values = {
    "shaft_mm": ["21.86 mm", "21.91 mm", "21.97 mm"],
    "bore_mm": ["22.03 mm", "22.06 mm"],
    "min_mm": "0.02 mm",
    "max_mm": "0.12 mm",
}
ROLLERS: Values = {"roller_mm": "2.5 mm", "inner_race_mm": "16.2 mm", "counted": "22"}
OUTPUT: Values = {
    "school": "free_play",
    "shim_effect": "adds_play",
    "trials": [
        {"stack_mm": "0.50 + 0.34 mm", "nut_nm": "40 Nm", "pushed_in_mm": "0.00 mm", "pulled_out_mm": "0.31 mm"},
        {"stack_mm": "0.50 + 0.10 mm", "nut_nm": "40 Nm", "pushed_in_mm": "0.00 mm", "pulled_out_mm": "0.09 mm"},
    ],
    "play_min": "0.05 mm",
    "play_max": "0.15 mm",
    "broken_up": "yes",
}


def measure(builder: JobBuilder, tool: str, title: str, values: Values, *, gauge: str = "", step: str = "") -> None:
    """A kept answer of a tool."""
    found = worked(tool, values, Units("mm", "nm"), gauge)
    typed = {"values": values, "gauge": gauge, "length_unit": "mm", "torque_unit": "nm", "question": dumped(found.question)}
    told = {"step_code": step, "summary": summary(found)}
    builder.keep(Area.DIFF, title, about=tool, inputs=typed, answer=dumped(found.answer), **told)
