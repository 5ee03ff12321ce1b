"""What a shop adds to a kind of work: own steps, cautions, minutes, ways. Nothing of the library can be taken out, so no hold is lost."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.procedures.steps import LibraryStep, Step, Way
from amber_core.words import NOTHING, Said, say, together

OWN = "own_"
"""What the codes of a shop's own steps begin with, so that no later release has the same."""
MOST_OWN = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnStep:
    """A step of the shop's own, after another one; it asks for a yes and a note."""

    code: str
    after: str
    title: str
    why: str
    caution: str = ""
    hold: bool = False
    note: str = ""
    minutes: int = 5

    def __post_init__(self) -> None:
        if not self.code.startswith(OWN) or not self.code.replace("_", "").isalnum() or len(self.code) > 40 or not self.code.isascii():
            raise InvalidInput("code", say("The code of an own step begins with “own_” and has letters and digits."))
        for name, what in (("title", say("What is done")), ("why", say("Why"))):
            if not getattr(self, name).strip():
                raise InvalidInput(name, say("{what} must be written.", what=what))
        checks.within("minutes", self.minutes, 0, 10_000, say("Minutes of a step must be 0 to 10 000."))


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnWay:
    """One more way of answering a question of the library."""

    question: str
    code: str
    title: str
    fits: str = ""
    risk: str = ""

    def __post_init__(self) -> None:
        if not self.code.startswith(OWN) or len(self.code) > 40:
            raise InvalidInput("code", say("The code of an own way begins with “own_”."))
        if not self.title.strip():
            raise InvalidInput("title", say("Name this way."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Shape:
    """What a shop adds to one kind of work; cautions and minutes by the code of the step."""

    steps: list[OwnStep] = field(default_factory=list)
    cautions: dict[str, str] = field(default_factory=dict)
    minutes: dict[str, int] = field(default_factory=dict)
    ways: list[OwnWay] = field(default_factory=list)

    def __post_init__(self) -> None:
        if len(self.steps) + len(self.ways) > MOST_OWN:
            raise InvalidInput("steps", say("A kind of work can have {most} own steps and ways at most.", most=MOST_OWN))
        for code, minutes in self.minutes.items():
            checks.within(f"minutes.{code}", minutes, 0, 10_000, say("Minutes of a step must be 0 to 10 000."))


def shaped(library: list[LibraryStep], shape: Shape) -> list[LibraryStep]:
    """The library with what a shop adds to it.

    Raises
    ------
    InvalidInput
        For a step or a question that the library has not got, for a code that stands twice, and for own steps that come after one another
        in a circle.
    """
    known = {one.step.code for one in library}
    own = _checked(known, shape)
    found: list[LibraryStep] = []
    for one in library:
        found.append(replace(one, step=_changed(one.step, shape)))
        found += _following(one.step, one.needs, own)
    return found


def _checked(known: set[str], shape: Shape) -> dict[str, list[OwnStep]]:
    """Own steps by what they follow.

    Raises
    ------
    InvalidInput
        With the field of the first that does not fit.
    """
    by_code = {one.code: one for one in shape.steps}
    for index, one in enumerate(shape.steps):
        if any(other.code == one.code for other in shape.steps[:index]):
            raise InvalidInput(f"steps[{index}].code", say("Two own steps are called “{code}”. Give each its own code.", code=one.code))
        if one.after not in known and one.after not in by_code:
            raise InvalidInput(f"steps[{index}].after", say("There is no step called “{code}” to come after.", code=one.after))
        trail, at = {one.code}, one.after
        while at in by_code:
            if at in trail:
                names = ", ".join(sorted(trail))
                raise InvalidInput(
                    f"steps[{index}].after", say("These own steps come after one another in a circle: {names}.", names=names)
                )
            trail.add(at)
            at = by_code[at].after
    for name, codes in (("cautions", shape.cautions), ("minutes", shape.minutes)):
        for code in codes:
            if code not in known:
                raise InvalidInput(f"{name}.{code[:60]}", say("There is no step called “{code}”.", code=code))
    follows: dict[str, list[OwnStep]] = {}
    for one in shape.steps:
        follows.setdefault(one.after, []).append(one)
    return follows


def _changed(step: Step, shape: Shape) -> Step:
    ways = [one for one in shape.ways if one.question == step.code]
    if ways and step.act != "choose":
        raise InvalidInput("ways", say("“{title}” is no question, so it has no ways.", title=step.title))
    caution = shape.cautions.get(step.code, "").strip()
    return replace(
        step,
        caution=together([step.caution, _own(caution)]) if caution else step.caution,
        minutes=shape.minutes.get(step.code, step.minutes),
        ways=[*step.ways, *(Way(code=one.code, title=_own(one.title), fits=_own(one.fits), risk=_own(one.risk)) for one in ways)],
    )


def _following(step: Step, needs: list[str], own: dict[str, list[OwnStep]]) -> list[LibraryStep]:
    """Own steps after a step, and those after them; they stand where it stands."""
    found: list[LibraryStep] = []
    for one in own.get(step.code, []):
        made = Step(
            code=one.code,
            group=step.group,
            title=_own(one.title),
            why=_own(one.why),
            caution=_own(one.caution),
            hold=one.hold,
            note=_own(one.note),
            minutes=one.minutes,
        )
        found += [LibraryStep(step=made, needs=needs), *_following(made, needs, own)]
    return found


def _own(text: str) -> Said:
    """Somebody's own words, told as they are."""
    return Said.of(text.strip()) if text.strip() else NOTHING
