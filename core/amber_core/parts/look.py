"""What is seen on a part, thought through: what is usually decided, why, and what else to look at."""

from __future__ import annotations

from dataclasses import dataclass, field

from amber_core.errors import InvalidInput
from amber_core.parts.assembly import assembly_of
from amber_core.parts.build import Build
from amber_core.parts.findings import CLASSES, DECISIONS, FINDINGS, Decision, advised, kind_of, look_at
from amber_core.words import Said, say


@dataclass(frozen=True, slots=True, kw_only=True)
class LookQuestion:
    """A part of a build, and what was found on it.

    Parameters
    ----------
    build : Build
        How the assembly is built.
    key : str
        The part, with its side behind a point.
    findings : list of str
        Codes of what was found; none when it is good.
    """

    build: Build
    key: str
    findings: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        if self.key not in assembly_of(self.build).places:
            raise InvalidInput("key", say("This assembly has no such part."))
        known = CLASSES[kind_of(self.key)].findings
        for index, one in enumerate(self.findings[:50]):
            if one not in known:
                raise InvalidInput(f"findings[{index}]", say("This cannot be found on such a part. Choose from its list."))
        if len(self.findings) > len(set(self.findings)):
            raise InvalidInput("findings", say("Each finding counts once."))


@dataclass(frozen=True, slots=True, kw_only=True)
class LookAt:
    """Another part that a finding makes one look at."""

    key: str
    name: Said


@dataclass(frozen=True, slots=True, kw_only=True)
class Looked:
    """The usual decision with its reason, what a finding asks for, what to look at, and whether pieces are to be found."""

    decision: Decision
    word: Said
    why: Said
    then: list[Said]
    look_at: list[LookAt]
    pieces: bool


def think_through(given: LookQuestion) -> Looked:
    """What findings on a part usually lead to. It advises; the person decides.

    Parameters
    ----------
    given : LookQuestion
        The build, the part, what was found.

    Returns
    -------
    Looked
        The usual decision, and the parts that the findings make one look at, in the order of the table.

    Raises
    ------
    InvalidInput
        For a part that the build has not got, or a finding that is not of its class.

    Notes
    -----
    Rules of the trade, not a computation: the closed list of findings of `findings.FINDINGS`. Source: docs/parts.md.

    Examples
    --------
    >>> looked = think_through(LookQuestion(build=Build(unit="beam"), key="ring", findings=["chip"]))
    >>> looked.decision, looked.pieces
    ('replace', True)
    """
    assembly = assembly_of(given.build)
    decision, why = advised(kind_of(given.key), given.findings)
    found = [FINDINGS[one] for one in given.findings]
    return Looked(
        decision=decision,
        word=DECISIONS[decision],
        why=why,
        then=[one.then for one in found],
        look_at=[LookAt(key=key, name=assembly.named(key)) for key in look_at(given.findings, assembly, given.key)],
        pieces=any(one.pieces for one in found),
    )
