"""What the parts list should have: what is used once, what is to be replaced."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core.parts.catalogue import BY_CODE
from amber_core.words import Said, say
from parts_wall.wall import Wall


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A part that has to be got, how many, and why."""

    key: str
    name: Said
    count: int
    why: Said


def proposed(wall: Wall) -> list[Proposal]:
    """Parts that are not on the list yet: used once and coming off in this work or off already, or decided to be replaced."""
    listed = {one.key for one in wall.needs}
    found: dict[str, Proposal] = {}
    for key in dict.fromkeys([*wall.planned, *wall.states]):
        if key in listed:
            continue
        state = wall.states.get(key)
        why = None
        if state is not None and state.look is not None and state.look.decision == "replace":
            why = say("Decided: replace")
        elif (state is None or state.back is None) and wall.one_time(key) == "always":
            why = say("Used once")
        if why is not None:
            found[key] = Proposal(key=key, name=wall.name_of(key), count=wall.count_of(key) or 1, why=why)
    order = {code: place for place, code in enumerate(BY_CODE)}
    return sorted(found.values(), key=lambda one: order.get(one.key.partition(".")[0], len(order)))
