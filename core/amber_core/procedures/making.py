"""A shop's own kind of work, put together from the library's blocks: what is opened is closed in reverse, and no hold point is left out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from amber_core.errors import InvalidInput
from amber_core.procedures import blocks as b
from amber_core.procedures.kinds import ANYWHERE, AXLES, SHAFTS, Kind
from amber_core.procedures.shaping import OWN
from amber_core.procedures.steps import LibraryStep
from amber_core.words import Said, listed, say

Steps = Callable[[], list[LibraryStep]]
_ON_TRANSFER = ("transfer_case",)


def _nothing() -> list[LibraryStep]:
    return []


@dataclass(frozen=True, slots=True, kw_only=True)
class Block:
    """A block that a kind can be put together from.

    Parameters
    ----------
    code, title : str
        A fixed name, and what it does.
    places : tuple of str
        Assemblies that it can be done on.
    opens, closes : callable
        Its steps on the way in, and those on the way back.
    wants : tuple of str
        Blocks that have to come with it.
    """

    code: str
    title: Said
    places: tuple[str, ...] = ANYWHERE
    opens: Steps = _nothing
    closes: Steps = _nothing
    wants: tuple[str, ...] = ()


BLOCKS: dict[str, Block] = {
    one.code: one
    for one in (
        Block(
            code="oil",
            title=say("Oil out, and in again"),
            places=(*AXLES, *_ON_TRANSFER),
            opens=b.fill_first,
            closes=lambda: [*b.breather(), *b.plug_and_fill()],
        ),
        Block(code="as_found_ring", title=say("Ring gear read as found"), places=AXLES, opens=b.as_found_ring),
        Block(code="as_found_nut", title=say("Pinion nut read as found"), places=AXLES, opens=b.as_found_nut),
        Block(
            code="propshaft",
            title=say("Propshaft off and on"),
            places=(*AXLES, *SHAFTS, *_ON_TRANSFER),
            opens=b.propshaft_off,
            closes=b.propshaft_on,
        ),
        Block(code="brakes", title=say("Brakes off and on"), places=AXLES, opens=b.brakes_off, closes=b.brakes_on),
        Block(code="sensors", title=say("Wheel-speed sensors out and in"), places=AXLES, opens=b.sensors_off, closes=b.sensors_on),
        Block(code="cover", title=say("Cover off and on"), places=AXLES, opens=b.cover_off, closes=b.cover_on, wants=("oil",)),
        Block(
            code="axle_shafts",
            title=say("Axle shafts out and in"),
            places=AXLES,
            opens=lambda: [*b.shafts_held(), *b.shafts_out()],
            closes=lambda: [*b.shafts_in(), *b.sensors_on(), *b.brakes_on()],
            wants=("oil", "cover"),
        ),
        Block(
            code="flange",
            title=say("Pinion flange off and on, preload measured"),
            places=AXLES,
            opens=b.pinion_flange_off,
            closes=lambda: b.nut("back_to_mark", "new_sleeve", "spacer"),
            wants=("as_found_nut", "propshaft"),
        ),
        Block(code="shims", title=say("Shims kept by side and order"), places=(*AXLES, *_ON_TRANSFER), opens=b.shims_kept),
        Block(code="inspect", title=say("What lies open inspected"), opens=lambda: b.inspect()[:1]),
        Block(
            code="pieces", title=say("Pieces of a broken part found"), places=(*AXLES, *_ON_TRANSFER), opens=b.pieces_found, wants=("oil",)
        ),
        Block(
            code="press",
            title=say("Bearings out and in"),
            opens=lambda: b.press("press_bearings", say("Bearings out and in, each on its own ring")),
        ),
        Block(code="flange_land", title=say("Seal surface judged"), places=(*AXLES, *_ON_TRANSFER), opens=b.flange_land),
        Block(code="flange_runout", title=say("Carrier flange runout read"), places=AXLES, opens=b.flange_runout),
        Block(code="seal", title=say("New seal in"), places=(*AXLES, *_ON_TRANSFER), opens=lambda: b.seal_in(say("New seal in"))),
    )
}
"""In the order of the work; each kind takes its blocks in this order."""
_WHEELS = ("brakes", "axle_shafts")


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnKind:
    """A kind of work of the shop's own: a code that begins with own_, its name, when it is booked, where, and its blocks."""

    code: str
    title: str
    about: str
    places: list[str]
    blocks: list[str]

    def __post_init__(self) -> None:
        if not self.code.startswith(OWN) or not self.code.replace("_", "").isalnum() or len(self.code) > 40 or not self.code.isascii():
            raise InvalidInput("code", say("The code of an own kind of work begins with “own_” and has letters and digits."))
        if not 1 <= len(self.title.strip()) <= 80:
            raise InvalidInput("title", say("Name this kind of work, in 80 characters at most."))
        if len(self.about) > 200:
            raise InvalidInput("about", say("Say when it is booked in 200 characters at most."))
        if not self.places or any(one not in ANYWHERE for one in self.places) or len(set(self.places)) != len(self.places):
            raise InvalidInput("places", say("Choose the parts of a vehicle that this work is done on."))
        for index, code in enumerate(self.blocks):
            if code not in BLOCKS:
                raise InvalidInput(f"blocks[{index}]", say("There is no block called “{code}”.", code=code[:60]))
            block = BLOCKS[code]
            if any(place not in block.places for place in self.places):
                text = say("“{title}” is not done on every part that you chose. Choose fewer parts, or leave it out.", title=block.title)
                raise InvalidInput(f"blocks[{index}]", text)
            missing = [BLOCKS[one].title for one in block.wants if one not in self.blocks]
            if missing:
                text = say("“{title}” needs these too: {missing}.", title=block.title, missing=listed(missing))
                raise InvalidInput(f"blocks[{index}]", text)
        if not self.blocks or len(set(self.blocks)) != len(self.blocks):
            raise InvalidInput("blocks", say("Choose at least one block, each once."))


def made(kind: OwnKind) -> Kind:
    """The kind of work with its steps.

    Parameters
    ----------
    kind : OwnKind
        Its name, places and blocks.

    Returns
    -------
    Kind
        Taking in, stands, what is opened, what is closed in reverse, proof and hand-over.

    Notes
    -----
    A step that two blocks bring stands once: on the way in where it comes first, on the way back where it comes last.
    """
    chosen = [one for code, one in BLOCKS.items() if code in kind.blocks]
    way_in = _once([*b.take_in(), *b.stands(), *(step for one in chosen for step in one.opens())])
    way_back = _once([step for one in reversed(chosen) for step in one.closes()][::-1])[::-1]
    steps = _once([*way_in, *way_back, *b.ending(wheels=any(code in kind.blocks for code in _WHEELS))])
    return Kind(
        code=kind.code, title=Said.of(kind.title.strip()), about=Said.of(kind.about.strip()), places=tuple(kind.places), steps=steps
    )


def always_held() -> set[tuple[str, ...]]:
    """Hold points that every kind of work has, with what they need."""
    return {(one.step.code, *one.needs) for one in [*b.take_in(), *b.stands()] if one.step.hold}


def _once(steps: list[LibraryStep]) -> list[LibraryStep]:
    seen: set[str] = set()
    return [one for one in steps if one.step.code not in seen and not seen.add(one.step.code)]  # type: ignore[func-returns-value]
