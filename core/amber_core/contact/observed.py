"""What was seen of a pattern or read of the backlash, with how well it was seen."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class PatchSeen:
    """Middle of a patch, u from toe to heel, v from root to tip, [-], with standard deviations that hold the spread of sets too."""

    u: float
    v: float
    sd_u: float = 0.06
    sd_v: float = 0.08

    def __post_init__(self) -> None:
        checks.within("u", self.u, -0.5, 1.5, say("The middle of a patch must be between toe (0) and heel (1)."))
        checks.within("v", self.v, -0.5, 1.5, say("The middle of a patch must be between root (0) and tip (1)."))
        checks.spread_ok("sd_u", self.sd_u)
        checks.spread_ok("sd_v", self.sd_v)


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """A length that was read, with its standard deviation, [mm]."""

    value: float
    sd: float = 0.02

    def __post_init__(self) -> None:
        checks.within("value", self.value, -5.0, 5.0, say("This length must be within ±5 mm. Give it in millimetres."))
        checks.spread_ok("sd", self.sd)


@dataclass(frozen=True, slots=True, kw_only=True)
class Observed:
    """What is known of one assembly; anything may be missing, but not everything.

    `backlash_mm` is a plunger's reading, `backlash_arc_mm` an arc at the outer diameter, `depth_error_mm` a measured pinion depth less
    the right one, + too shallow, [mm].
    """

    drive: PatchSeen | None = None
    coast: PatchSeen | None = None
    backlash_mm: Read | None = None
    backlash_arc_mm: Read | None = None
    depth_error_mm: Read | None = None

    def __post_init__(self) -> None:
        if not any((self.drive, self.coast, self.backlash_mm, self.backlash_arc_mm, self.depth_error_mm)):
            raise InvalidInput("", say("There is no reading. Give a contact pattern, the backlash or a measured depth."))
        if self.backlash_mm is not None and self.backlash_arc_mm is not None:
            raise InvalidInput("backlash_arc_mm", say("Give the backlash once: as a plunger reading or as an arc."))
