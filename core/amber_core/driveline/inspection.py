"""A joint judged by feel and by eye."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import Said, listed, say

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
    cautions: list[Said]


_CAUTIONS = [
    say("A joint cap that will not go home has a needle lying across it. Take it out again; never press harder."),
    say("Circlips fly: wear eye protection. Each circlip must turn in its groove when it is seated."),
    say("Fit the joint cross so that a grease gun reaches the nipple once the propshaft is in."),
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
    Play, a notch or rust dust rule a universal joint out: the needles have marked their races or run dry. A joint that is stiff straight
    after fitting has a needle lying across or its yoke ears bent in. Trade experience; the maker's manual comes first.

    Examples
    --------
    >>> inspect_joint(JointFelt(first_way="free", other_way="notchy", play=False, rust=False)).decision
    'replace'
    """
    ways = (given.first_way, given.other_way)
    ends = [
        (given.play is True, "play", say("It has play: the needles and races are worn. Replace it."), "play"),
        ("notchy" in ways, "notch", say("It is notchy: the needles have marked the races. Replace it."), "first_way"),
        (given.rust is True, "rust", say("Rust dust at a joint cap: it has run dry, however it feels now. Replace it."), "rust"),
    ]
    mends = [
        (
            "stiff" in ways and given.just_fitted,
            "stiff_fitted",
            say(
                "Stiff after fitting: a joint cap is not home, or the yoke ears are bent in. Take it apart and look "
                "for a needle lying across."
            ),
            "first_way",
        ),
        (
            given.clips == "not_seated",
            "clip",
            say("A circlip is not seated in its groove: the joint cap can come out on the road."),
            "clips",
        ),
        (
            given.nipple == "not_reachable",
            "nipple",
            say("The grease nipple cannot be reached. Turn the joint cross round while the propshaft is out."),
            "nipple",
        ),
    ]
    if "stiff" in ways and not given.just_fitted:
        ends.append((True, "stiff", say("Stiff: dry or rusted inside. Replace it."), "first_way"))
    worst = [Reason(code=code, text=text, field=field) for true, code, text, field in ends if true]
    mend = [Reason(code=code, text=text, field=field) for true, code, text, field in mends if true]
    if worst:
        return JointJudged(decision="replace", verdict="out", reasons=[*worst, *mend], cautions=_CAUTIONS)
    if mend:
        return JointJudged(decision="mend", verdict="out", reasons=mend, cautions=_CAUTIONS)
    missing = [
        word
        for word, unknown in (
            (say("free movement both ways"), "not_tried" in ways),
            (say("play"), given.play is None),
            (say("rust at the joint caps"), given.rust is None),
            (say("the circlips"), given.clips is None),
        )
        if unknown
    ]
    if missing:
        text = say("Still to be checked: {names}.", names=listed(missing))
        return JointJudged(decision="look", verdict="unknown", reasons=[Reason(code="not_tried", text=text)], cautions=_CAUTIONS)
    good = Reason(code="good", text=say("Free both ways, no play, no notch, no rust dust, circlips seated: it can be reused."))
    return JointJudged(decision="reuse", verdict="in", reasons=[good], cautions=_CAUTIONS)
