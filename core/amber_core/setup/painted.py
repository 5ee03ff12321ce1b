"""A patch that was painted and read once or more: its middle, how well that is known, and whether it lies where it may."""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum, sqrt

from amber_core.setup.noise import USUAL_U, USUAL_V, Noise
from amber_core.setup.question import Edge, Flank, PatchWindow, TrialPatch
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import Said, listed, say

FLANK_WORDS: dict[Flank, Said] = {"drive": say("drive"), "coast": say("coast")}
EDGE_WORDS: dict[Edge, Said] = {"toe": say("toe"), "heel": say("heel"), "root": say("root"), "tip": say("tip")}

EDGE = 2.0
"""The middle of several readings may lie outside by so many of its standard errors and still be on the edge."""
NEAR = 0.005
"""Inside by less than half a per cent of the flank is the edge itself: it reads as the same figure."""


APART = (0.0, 0.0, 4.5, 4.92, 5.17, 5.35, 5.49, 5.6, 5.69, 5.78, 5.85, 5.91, 5.97)
"""So many readings of one patch spread over more than this many of the usual scatter once in seven hundred times: the studentized range,
which grows with their number, so that more good readings never make one wrong."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PatchRead:
    """Middle of all readings of one patch and its standard error [-], how many there were, the edges where it runs off, and
    whether they lie too far apart to be of one patch."""

    u: float
    v: float
    sd_u: float
    sd_v: float
    count: int
    runs_off: list[Edge]
    apart: bool


def patch_read(readings: list[TrialPatch], noise: Noise) -> PatchRead | None:
    """All readings of one patch together; None when there is none.

    Notes
    -----
    The mean, each reading weighed by its reader's scatter. It runs off where at least half of the readings say so.
    """
    if not readings:
        return None
    u, sd_u, apart_u = _middle([one.u for one in readings], [noise.sds(one)[0] for one in readings], USUAL_U)
    v, sd_v, apart_v = _middle([one.v for one in readings], [noise.sds(one)[1] for one in readings], USUAL_V)
    edges: list[Edge] = ["toe", "heel", "root", "tip"]
    return PatchRead(
        u=u,
        v=v,
        sd_u=sd_u,
        sd_v=sd_v,
        count=len(readings),
        apart=apart_u or apart_v,
        runs_off=[edge for edge in edges if 2 * sum(edge in one.runs_off for one in readings) >= len(readings)],
    )


def _middle(places: list[float], sds: list[float], usual: float) -> tuple[float, float, bool]:
    """The weighed mean of one coordinate, its standard error, and whether the readings lie too far apart."""
    weights = [sd**-2 for sd in sds]
    held = fsum(weights)
    spread = APART[min(len(places), len(APART) - 1)] * usual
    return (
        fsum(weight * place for weight, place in zip(weights, places, strict=True)) / held,
        1.0 / sqrt(held),
        max(places) - min(places) > spread,
    )


def running_off(flank: Flank, read: PatchRead) -> list[Edge]:
    """Edges that count as out: a slight fade at the toe of the coast flank does not."""
    return [edge for edge in read.runs_off if not (edge == "toe" and flank == "coast")]


def patch_verdict(flank: Flank, read: PatchRead, allowed: PatchWindow) -> tuple[VerdictWord, list[Reason]]:
    """In, out, on the edge, or unknown while the readings contradict one another.

    Notes
    -----
    A single reading is held against the window as it is, and is on the edge where it reads as the same per cent. The middle of several may
    lie outside by two of its standard errors: on the edge.
    """
    slack_u, slack_v = (EDGE * read.sd_u, EDGE * read.sd_v) if read.count > 1 else (0.0, 0.0)
    reasons = [
        Reason(
            code=f"{flank}_runs_off",
            text=say("The {flank} pattern runs off at the {edge}.", flank=FLANK_WORDS[flank], edge=EDGE_WORDS[edge]),
            field="trials",
        )
        for edge in running_off(flank, read)
    ]
    if read.apart and not reasons:
        text = say(
            "The readings of the {flank} pattern are far apart, so one of them is wrong. Correct it, or read again.",
            flank=FLANK_WORDS[flank],
        )
        return "unknown", [Reason(code=f"{flank}_apart", text=text, field="trials")]
    toward = _toward(read, allowed, 0.0, 0.0)
    if not toward and not reasons:
        near = _toward(read, allowed, -NEAR, -NEAR)
        if not near:
            return "in", []
        text = say(
            "The {flank} pattern is at the edge of its window toward the {where}.",
            flank=FLANK_WORDS[flank],
            where=listed(EDGE_WORDS[one] for one in near),
        )
        return "edge", [Reason(code=f"{flank}_edge", text=text, field="trials")]
    where = listed(EDGE_WORDS[one] for one in toward)
    if reasons or _toward(read, allowed, slack_u, slack_v):
        if toward:
            reasons.insert(
                0,
                Reason(
                    code=f"{flank}_off",
                    text=say("The {flank} pattern is too far toward the {where}.", flank=FLANK_WORDS[flank], where=where),
                    field="trials",
                ),
            )
        return "out", reasons
    text = say(
        "The {flank} pattern is at the edge of its window toward the {where}, by the mean of {count} readings.",
        flank=FLANK_WORDS[flank],
        where=where,
        count=read.count,
    )
    return "edge", [Reason(code=f"{flank}_edge", text=text, field="trials")]


def _toward(read: PatchRead, allowed: PatchWindow, slack_u: float, slack_v: float) -> list[Edge]:
    found: list[Edge] = []
    if read.v < allowed.v_min - slack_v or read.v > allowed.v_max + slack_v:
        found.append("root" if read.v < (allowed.v_min + allowed.v_max) / 2.0 else "tip")
    if read.u < allowed.u_min - slack_u or read.u > allowed.u_max + slack_u:
        found.append("toe" if read.u < (allowed.u_min + allowed.u_max) / 2.0 else "heel")
    return found
