"""The parts of one assembly as a graph: what must be off before what, and in which order it goes off and back on."""

from __future__ import annotations

import heapq
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache

from amber_core.parts.build import Build
from amber_core.parts.catalogue import BY_CODE, Part, parts_with
from amber_core.words import NOTHING, Said, say

SIDES = {"lr": ("left", "right"), "rf": ("ring", "far"), "fr": ("front", "rear"), "r": ("ring",), "f": ("far",)}
SIDE_WORDS = {
    "left": say("left"),
    "right": say("right"),
    "ring": say("ring side"),
    "far": say("far side"),
    "front": say("front"),
    "rear": say("rear"),
    "centre": say("centre"),
}
_JOINTS = {"one": {"front": "shaft", "rear": "shaft"}, "dc": {"front": "shaft", "centre": "shaft", "rear": "shaft"}}
_JOINTS["two"] = {"front": "fshaft", "centre": "rshaft", "rear": "rshaft"}
"""The joints of a driveline, and the shaft that each belongs to. The two of a double Cardan joint are the front and the centre one."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A place for a part: the part, and the side where there is one for each. `key` is its code, with the side behind a point."""

    part: Part
    side: str

    @property
    def key(self) -> str:
        """What it is known by."""
        return f"{self.part.code}.{self.side}" if len(SIDES.get(self.part.stands, ("", ""))) > 1 and self.side else self.part.code

    @property
    def mark(self) -> Said:
        """The mark to give it, so that it goes back where it was."""
        first = self.side in ("", "left", "ring", "front")
        if self.part.mark == "dots":
            return say("one dot") if first else say("two dots")
        if self.part.mark == "letter":
            return Said.of({"right": "B", "far": "B", "centre": "B", "rear": "C"}.get(self.side, "A"))
        return say("match mark across both parts") if self.part.mark == "match" else NOTHING


@dataclass(frozen=True, slots=True, kw_only=True)
class OnFirst:
    """One part goes on before another: as the reverse has it (same), added to it (more), turned round (swap), or in trials alone."""

    first: tuple[str, ...]
    then: tuple[str, ...]
    how: str
    why: Said


ON_FIRST = (
    OnFirst(first=("drain",), then=("oil",), how="swap", why=say("The drain plug is in and tight before oil goes in.")),
    OnFirst(first=("oil",), then=("fill",), how="same", why=say("Check the oil level before the fill plug goes in.")),
    OnFirst(first=("cover", "tm", "thouse"), then=("oil",), how="same", why=say("Sealant must have cured before oil goes in.")),
    OnFirst(
        first=("pseal", "eseal", "hseal", "hsseal", "tseal", "cart"),
        then=("oil",),
        how="more",
        why=say("All seals are in before oil goes in."),
    ),
    OnFirst(
        first=("retp", "rseal"),
        then=("ebrg",),
        how="same",
        why=say("Retainer and seal go on before the axle bearing: they cannot pass it later."),
    ),
    OnFirst(first=("ebrg",), then=("ering",), how="same", why=say("The axle bearing is home before its ring goes on.")),
    OnFirst(first=("pnut",), then=("shaft", "rshaft"), how="same", why=say("Read the rotating torque before the propshaft goes on.")),
    OnFirst(
        first=("pnut",),
        then=("caliper", "drum", "wheel"),
        how="more",
        why=say("Read the rotating torque with the brakes free: pinion nut first."),
    ),
    OnFirst(
        first=("carr",),
        then=("pnut",),
        how="trial",
        why=say("In trials the carrier goes in with the old nut; new seal and crush sleeve come after the last trial."),
    ),
    OnFirst(
        first=("scone",),
        then=("ring",),
        how="more",
        why=say("Read the flange runout with the carrier on its bearings before the ring gear goes on."),
    ),
    OnFirst(
        first=("tnut",),
        then=("shaft", "fshaft"),
        how="same",
        why=say("The old nut seats the bearings and sets the shims; the new nut is on before the propshaft."),
    ),
    OnFirst(first=("caliper",), then=("hubnut",), how="more", why=say("The brake holds the hub while its nut is tightened.")),
    OnFirst(first=("hubnut",), then=("wheel",), how="more", why=say("Hub nut to its torque before the wheel carries weight.")),
    OnFirst(first=("hsseal", "hclip"), then=("hshaft",), how="same", why=say("New seal and circlip first, the circlip's gap down.")),
    OnFirst(first=("cover",), then=("sensor",), how="more", why=say("Sensors go in last: no hammering after them.")),
)

TOGETHER = (
    ("spider", "spwash"),
    ("sgear", "fplate", "splate", "pkshim"),
    ("carr", "scup", "sshim"),
    ("cross", "needle", "jcap"),
)
"""What comes away in one handful."""

LOOSEN = {
    "wheelnut": say("Crack it loose with the weight on the wheel."),
    "hubnut": say("Crack it loose with the weight on the wheel, then do not roll the vehicle."),
    "taper": say("Free the taper with its nuts backed off and still on."),
    "dtaper": say("Free the taper with its nuts backed off and still on."),
    "bjnut": say("Free the taper with its nut backed off and still on."),
    "covbolt": say("Leave the last bolt in by a few threads until the cover is free."),
    "tmnut": say("Leave the last nuts on by a few threads: the third member is heavy."),
}
AT_THE_END = {"ubolt": say("Tighten these last, at ride height.")}

TRAPS = {
    "sshim": say("Check for a broken shim, and that none is left in the housing."),
    "ishim": say("Check for a broken shim."),
    "tshim": say("Check for a broken shim."),
    "swash": say("Check that no shim washer is left in the case."),
    "pwsh": say("Check that no shim washer is left in the case."),
    "sling": say("Note which way the slinger faces."),
    "isling": say("The inner slinger counts in the pinion depth."),
    "covbolt": say("Longer bolts: note where each belongs."),
    "cbolt": say("Longer bolts: note where each belongs."),
    "ringbolt": say("Some are left-hand: check before you turn."),
    "hnut": say("Some are left-hand: check before you turn."),
    "retnut": say("Some are left-hand: check before you turn."),
    "pin": say("With the cross pin out, turn nothing: the spider washers fall."),
    "aclip": say("Going back, the clip must sit in its groove."),
    "hclip": say("Going back, the circlip must sit in its groove."),
    "jcap": say("A needle across the bottom keeps the joint cap from going home."),
    "cross": say("The grease nipple must be reachable when fitted."),
    "slip": say("One spline off is a vibration."),
    "tshaft": say("Loose rollers fall when the output shaft comes out: catch and count them."),
    "cap": say("Bearing caps fit one place and one way up only."),
    "adjr": say("Start adjusters by hand: a cross-threaded one ruins the cap."),
    "retp": say("The retainer goes on before the axle bearing."),
    "scring": say("Take the old O-ring out: two on top of each other leak."),
    "magnet": say("Goes back in before the cover."),
    "sensor": say("Put it away clean, and keep magnets off it."),
}
"""What goes wrong here most."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Back:
    """A place in the order that parts go back in, and what holds there."""

    key: str
    why: list[Said] = field(default_factory=list)


class Assembly:
    """The graph of one build. Small and never changed; `assembly_of` keeps the last ones."""

    def __init__(self, build: Build) -> None:
        self.build = build
        self.facts = build.facts
        joints = next((_JOINTS[one] for one in _JOINTS if one in self.facts), _JOINTS["one"])
        self._shaft_of = joints
        self.places: dict[str, Place] = {}
        self._of: dict[str, list[Place]] = {}
        for part in parts_with(self.facts):
            sides: Iterable[str] = tuple(joints) if part.stands == "j" else SIDES.get(part.stands, ("",))
            for side in sides:
                place = Place(part=part, side=side)
                self.places[place.key] = place
                self._of.setdefault(part.code, []).append(place)

    def places_of(self, code: str) -> Sequence[Place]:
        """Where a part stands: once, on both sides, or not at all."""
        return self._of.get(code, ())

    @cached_property
    def rank(self) -> dict[str, int]:
        """Where each place stands in the table."""
        return {key: place for place, key in enumerate(self.places)}

    @cached_property
    def before(self) -> dict[str, frozenset[str]]:
        """What must be off before each place is."""
        return {key: frozenset(self._waits(place)) for key, place in self.places.items()}

    def _waits(self, place: Place) -> Iterable[str]:
        for wait in place.part.waits:
            if wait.counts(self.facts):
                yield from (one.key for one in self._meant(place, wait.code))

    def _meant(self, place: Place, code: str) -> list[Place]:
        """The places of another part that are meant beside this one: of its own side where both have sides, else all."""
        others = self._of.get(code, [])
        stands = place.part.stands
        if stands == "j" and code in self._shaft_of.values():
            return [one for one in others if code == self._shaft_of[place.side]]
        if place.part.code == "hyoke" and code == "cross":
            return [one for one in others if one.side in ("front", "centre")]
        same = [one for one in others if one.part.stands == stands and one.side == place.side]
        return same if same and place.side else others

    def closed(self, keys: Iterable[str]) -> set[str]:
        """These places with everything that must be off before them."""
        found: set[str] = set()
        todo = [key for key in keys if key in self.places]
        while todo:
            key = todo.pop()
            if key not in found:
                found.add(key)
                todo.extend(self.before[key])
        return found

    def order_off(self, keys: Iterable[str]) -> list[str]:
        """An order that these can come off in: the table's, as far as it goes."""
        return _sorted(set(keys), self.before, self.rank)

    def order_back(self, off: Sequence[str]) -> list[Back]:
        """The order that these go back in: the reverse of how they came off, with what has to be otherwise.

        Parameters
        ----------
        off : sequence of str
            Keys in the order that they came off; unknown ones keep their place as far as that goes.

        Returns
        -------
        list of Back
            Every key once, with the sentences that hold there.
        """
        rank = {key: place for place, key in enumerate(reversed(dict.fromkeys(off)))}
        here = set(rank)
        return [Back(key=key, why=self._why(key, here)) for key in _sorted(here, self.back_before(here), rank)]

    def back_before(self, off: Iterable[str]) -> dict[str, set[str]]:
        """What must be on again before each of these is: of these alone, through what stayed on too."""
        here = set(off)
        on: dict[str, set[str]] = {key: set() for key in here}
        for key in here & set(self.places):
            for earlier in self._all_before[key] & here:
                on[earlier].add(key)
        for rule, first, then in self.ruled:
            if rule.how != "trial" and first in here and then in here:
                if rule.how == "swap":
                    on[first].discard(then)
                on[then].add(first)
        return on

    @cached_property
    def _all_before(self) -> dict[str, frozenset[str]]:
        """All that must be off before each place, through others too."""
        found: dict[str, frozenset[str]] = {}
        for key in self.order_off(self.places):
            found[key] = self.before[key].union(*(found[one] for one in self.before[key]))
        return found

    @cached_property
    def ruled(self) -> list[tuple[OnFirst, str, str]]:
        """Every rule of what goes on first, for each pair of places that it is about: the rule, the first, the one after it."""
        return [
            (rule, place.key, other.key)
            for rule in ON_FIRST
            for code in rule.first
            for place in self._of.get(code, [])
            for then in rule.then
            for other in self._meant(place, then)
        ]

    @cached_property
    def _said_of(self) -> dict[str, list[tuple[str, Said]]]:
        """What holds where a place goes on, each with the place that must be there for it to hold."""
        found: dict[str, list[tuple[str, Said]]] = {}
        for rule, first, then in self.ruled:
            if rule.how != "trial":
                found.setdefault(then, []).append((first, rule.why))
        return found

    def _why(self, key: str, here: set[str]) -> list[Said]:
        said = list(dict.fromkeys(why for first, why in self._said_of.get(key, ()) if first in here))
        code = key.partition(".")[0]
        return [*said, *([AT_THE_END[code]] if code in AT_THE_END else [])]

    def named(self, key: str) -> Said:
        """A place in words, with its side."""
        return self._names[key]

    @cached_property
    def _names(self) -> dict[str, Said]:
        return {
            key: say("{part}, {side}", part=place.part.name, side=SIDE_WORDS[place.side]) if "." in key else place.part.name
            for key, place in self.places.items()
        }


@lru_cache(maxsize=64)
def assembly_of(build: Build) -> Assembly:
    """The graph of a build."""
    return Assembly(build)


def part_of(key: str) -> Part | None:
    """The part that a key is of; None for one that somebody typed."""
    return BY_CODE.get(key.partition(".")[0])


def _sorted(keys: set[str], before: Mapping[str, Iterable[str]], rank: Mapping[str, int]) -> list[str]:
    """A valid order, by rank as far as it goes.

    Raises
    ------
    ValueError
        When it goes in a circle: the table is wrong.
    """
    waits = {key: set(before.get(key, ())) & keys for key in keys}
    then: dict[str, list[str]] = {}
    for key, first in waits.items():
        for one in first:
            then.setdefault(one, []).append(key)
    free = [(rank[key], key) for key, first in waits.items() if not first]
    heapq.heapify(free)
    found: list[str] = []
    while free:
        _, key = heapq.heappop(free)
        found.append(key)
        for one in then.get(key, ()):
            waits[one].discard(key)
            if not waits[one]:
                heapq.heappush(free, (rank[one], one))
    if len(found) != len(keys):
        raise ValueError(f"goes in a circle: {sorted(keys - set(found))}")
    return found
