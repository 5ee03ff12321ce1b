"""One stack from the drawer for a thickness that another computation asks for."""

from __future__ import annotations

from amber_core.shims.pick import ShimPick, ShimWish, pick_shims
from amber_core.shims.stock import Shims

TOLERANCE_MM = 0.01


def nearest_stack(stock: list[Shims] | None, target_mm: float) -> ShimPick | None:
    """The best stack for a target [mm] within a hundredth; None without a drawer."""
    return None if stock is None else pick_shims(ShimWish(stock=stock, target_mm=target_mm, tolerance_mm=TOLERANCE_MM))
