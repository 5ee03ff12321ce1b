"""What must be so before readings count: the list that somebody confirms, and that is kept as it was confirmed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

_IN = {"sleeve": "crush sleeve in", "spacer": "spacer and shims in", "outer_shims": "shims under the outer bearing in"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Condition:
    """One thing to look at: a fixed name and the sentence."""

    code: str
    text: str


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
    if is_final:
        seal = "Seal, new nut and sleeve or spacer in"
    else:
        seal = f"No seal; {_IN.get(preload_part, 'no sleeve, a light preload without one')}"
    seated = "Last turn of each adjuster inward" if carrier == "adjusters" else "Carrier seated on its shims"
    home = "Set-up bearings in, slinger in place" if bearings == "set_up" else "Bearings home, slinger in place"
    return [
        Condition(code="seal", text=seal),
        Condition(code="bearings", text=home),
        Condition(code="shims", text="Shims flat, clean, each measured"),
        Condition(code="caps", text="Bearing caps on their own sides, full torque"),
        Condition(code="play", text="No play in pinion or carrier"),
        Condition(code="seated", text=seated),
        Condition(code="turned", text="Turned several times to seat"),
    ]
