"""Every tool of the bench, in the order that the screen lists them."""

from __future__ import annotations

from diff_bench.fields import Tool
from diff_bench.tools import bearings, bolts, clutches, gears, proof, shafts, surfaces

TOOLS: dict[str, Tool] = {one.code: one for part in (clutches, gears, bearings, surfaces, shafts, bolts, proof) for one in part.TOOLS}
