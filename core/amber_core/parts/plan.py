"""The parts of an assembly for a piece of work, off and back on, as one public computation."""

from __future__ import annotations

from dataclasses import dataclass, field

from amber_core.errors import InvalidInput
from amber_core.parts.assembly import LOOSEN, TOGETHER, TRAPS, Back, Place, assembly_of
from amber_core.parts.build import Build
from amber_core.parts.catalogue import GROUPS, OneTime
from amber_core.parts.sets import SETS, counted_of, off_of, set_of
from amber_core.words import NOTHING, Said, say

GROUP_NAMES = {one.code: one.name for one in GROUPS}
MOST_ASKED = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class PartsQuestion:
    """A build, a kind of work, and what is to come off beside that.

    Parameters
    ----------
    build : Build
        How the assembly is built.
    kind : str
        The kind of work; empty for the whole assembly.
    asked : list of str
        Groups or codes of parts that come off as well.
    """

    build: Build
    kind: str = ""
    asked: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        if self.kind and self.kind not in {one.kind for one in SETS}:
            raise InvalidInput("kind", say("There is no such kind of work."))
        if len(self.asked) > MOST_ASKED or any(len(one) > 40 for one in self.asked):
            raise InvalidInput("asked", say("Name at most {most} parts.", most=MOST_ASKED))


@dataclass(frozen=True, slots=True, kw_only=True)
class PartOff:
    """A part that comes off: how many (None: as the sheet or a look says), what marks it, and what to look out for."""

    key: str
    name: Said
    side: str
    group: str
    count: int | None
    may_lack: bool
    counted: bool
    faces: bool
    mark: Said
    bagged: bool
    stacked: bool
    one_time: OneTime
    note: Said
    after: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class PartsPlan:
    """What comes off, in an order that works, and what goes back on, in its own; `together` comes away in one handful."""

    off: list[PartOff]
    back: list[Back]
    asked: list[str]
    together: list[list[str]]


def plan_parts(given: PartsQuestion) -> PartsPlan:
    """What a piece of work takes off, and how it goes back.

    Parameters
    ----------
    given : PartsQuestion
        The build, the kind and what is asked for beside it.

    Returns
    -------
    PartsPlan
        Parts in an order that they can come off in. Putting back is its reverse, but where a part goes on before another by rule.

    Raises
    ------
    InvalidInput
        From the build, or for a kind that there is not.

    Notes
    -----
    The order off is a topological order of "must be off before", ties by the order of the table. The order back is one of the reversed
    graph with the exceptions of `assembly.ON_FIRST`, ties by the reverse of the order off. Source: docs/parts.md.

    Examples
    --------
    >>> plan = plan_parts(PartsQuestion(build=Build(unit="prop"), kind="joint"))
    >>> plan.off[0].key, plan.back[-1].key
    ('rbolt', 'rbolt')
    """
    assembly = assembly_of(given.build)
    keys = off_of(given.kind, assembly, given.asked) if given.kind else assembly.order_off(assembly.places)
    counted = counted_of(given.kind, assembly)
    here = set(keys)
    asked = set_of(given.kind, assembly).asked.split() if given.kind else []
    groups = [[key for key in keys if key.partition(".")[0] in one] for one in TOGETHER]
    return PartsPlan(
        off=[part_off(assembly.places[key], key in counted, sorted(assembly.before[key] & here)) for key in keys],
        back=assembly.order_back(keys),
        asked=asked,
        together=[one for one in groups if len(one) > 1],
    )


def part_off(place: Place, counted: bool, after: list[str]) -> PartOff:
    """A place as it comes off."""
    part = place.part
    return PartOff(
        key=place.key,
        name=part.name,
        side=place.side,
        group=part.group,
        count=part.count,
        may_lack=part.may_lack,
        counted=counted,
        faces=part.faces,
        mark=place.mark,
        bagged=part.bagged,
        stacked=part.stacked,
        one_time=part.one_time,
        note=LOOSEN.get(part.code) or TRAPS.get(part.code) or NOTHING,
        after=after,
    )
