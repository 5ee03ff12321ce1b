"""What must be so before readings count: the list that somebody confirms, and that is kept as it was confirmed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.words import Said, say

_WITHOUT_SEAL = {
    "nothing": say("No seal; no crush sleeve yet, light preload without it"),
    "sleeve": say("No seal; crush sleeve in"),
    "spacer": say("No seal; solid spacer and shims in"),
    "outer_shims": say("No seal; shims under the outer bearing in"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Condition:
    """One thing to look at: a fixed name and the sentence."""

    code: str
    text: Said


def conditions(
    *,
    is_final: bool,
    preload_part: Literal["nothing", "sleeve", "spacer", "outer_shims"],
    bearings: Literal["final", "set_up"],
    carrier: Literal["side_shims", "cover_shims", "adjusters"],
) -> list[Condition]:
    """What somebody looks at before a trial's readings count.

    Parameters
    ----------
    is_final
        The final assembly, with seal and new nut.
    preload_part, bearings, carrier
        What holds the preload, which bearings are in, and what holds the carrier sideways.
    """
    seal = say("Seal, new pinion nut and crush sleeve or solid spacer in") if is_final else _WITHOUT_SEAL[preload_part]
    seated = say("Each adjuster last turned inward") if carrier == "adjusters" else say("Carrier seated on its shims")
    home = say("Set-up bearings in, slinger in place") if bearings == "set_up" else say("Bearings fully home, slinger in place")
    return [
        Condition(code="seal", text=seal),
        Condition(code="bearings", text=home),
        Condition(code="shims", text=say("Shims flat, clean and each measured")),
        Condition(code="caps", text=say("Bearing caps on their own sides, bolts at full torque")),
        Condition(code="play", text=say("No play in the pinion or the carrier")),
        Condition(code="seated", text=seated),
        Condition(code="turned", text=say("Turned several times to seat the bearings")),
    ]
