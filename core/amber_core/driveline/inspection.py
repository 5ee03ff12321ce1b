"""A joint judged by feel and by eye."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.verdicts import Reason, VerdictWord

Feel = Literal["free", "stiff", "notchy", "not_tried"]
Decision = Literal["reuse", "mend", "replace", "look"]


@dataclass(frozen=True, slots=True, kw_only=True)
class JointFelt:
    """How the joint turns about each arm of its cross; play, rust dust at a cap; clips seated, nipple reachable (none: it has none);
    whether it was fitted just now."""

    first_way: Feel = "not_tried"
    other_way: Feel = "not_tried"
    play: bool | None = None
    rust: bool | None = None
    clips: Literal["seated", "not_seated", "none"] | None = None
    nipple: Literal["reachable", "not_reachable", "none"] | None = None
    just_fitted: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class JointJudged:
    """What to do, the verdict, why, and the cautions of the step."""

    decision: Decision
    verdict: VerdictWord
    reasons: list[Reason]
    cautions: list[str]


_CAUTIONS = [
    "Never let needles drop: if a cap does not go home, a needle lies across it. Take it out again, never press harder.",
    "Clips are sprung: eyes. Each must turn in its groove when it is seated.",
    "Turn the cross so that a grease pump reaches its nipple once the shaft is in.",
]


def inspect_joint(given: JointFelt) -> JointJudged:
    """What a joint that was felt and looked at wants.

    Parameters
    ----------
    given : JointFelt
        What hand and eye say.

    Returns
    -------
    JointJudged
        reuse, mend, replace, or look further, with reasons.

    Raises
    ------
    InvalidInput
        Never by itself; a wrong word is refused when it is read.

    Notes
    -----
    Play, a notch or rust dust end a joint: the needles have marked their races or run dry. A stiff one that was fitted just now has a
    needle across or its forks drawn in. Experience of the trade; the maker's manual rules.

    Examples
    --------
    >>> inspect_joint(JointFelt(first_way="free", other_way="notchy", play=False, rust=False)).decision
    'replace'
    """
    ways = (given.first_way, given.other_way)
    ends = [
        (given.play is True, "play", "It has play: the needles have worn their races.", "play"),
        ("notchy" in ways, "notch", "A notch is felt: the needles have marked their races.", "first_way"),
        (given.rust is True, "rust", "Rust dust at a cap: it ran dry inside, whatever it feels like now.", "rust"),
    ]
    mends = [
        (
            "stiff" in ways and given.just_fitted,
            "stiff_fitted",
            "Stiff after fitting: a cap is not home, or the forks are drawn in. Take it apart and look for a needle across.",
            "first_way",
        ),
        (given.clips == "not_seated", "clip", "A clip does not sit in its groove: the cap can come out on the road.", "clips"),
        (given.nipple == "not_reachable", "nipple", "The nipple cannot be reached: turn the cross while the shaft is out.", "nipple"),
    ]
    if "stiff" in ways and not given.just_fitted:
        ends.append((True, "stiff", "Stiff in use: dry or rusted inside.", "first_way"))
    worst = [Reason(code=code, text=text, field=field) for true, code, text, field in ends if true]
    mend = [Reason(code=code, text=text, field=field) for true, code, text, field in mends if true]
    if worst:
        return JointJudged(decision="replace", verdict="out", reasons=[*worst, *mend], cautions=_CAUTIONS)
    if mend:
        return JointJudged(decision="mend", verdict="out", reasons=mend, cautions=_CAUTIONS)
    missing = [
        word
        for word, unknown in (
            ("both ways by hand", "not_tried" in ways),
            ("play", given.play is None),
            ("rust at the caps", given.rust is None),
            ("the clips", given.clips is None),
        )
        if unknown
    ]
    if missing:
        text = f"Still to be tried: {', '.join(missing)}."
        return JointJudged(decision="look", verdict="unknown", reasons=[Reason(code="not_tried", text=text)], cautions=_CAUTIONS)
    good = Reason(code="good", text="Free both ways, no play, no notch, no rust dust, clips seated: it can stay.")
    return JointJudged(decision="reuse", verdict="in", reasons=[good], cautions=_CAUTIONS)
