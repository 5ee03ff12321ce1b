"""The advice as the API shows it: state, sentence, proposals with their odds, the map, and what the odds were worth so far."""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any
from uuid import UUID

from amber_core.contact.simulate import ContactQuestion, simulate_contact
from amber_core.gearset.description import EaseOff
from amber_core.setup.advise import Proposal, SetupAdvice
from amber_core.setup.posterior import Posterior
from amber_core.setup.question import FLANKS, MOST_REPEATS, Costs, Sides, TrialPatch
from amber_core.setup.set_model import eased
from amber_core.shims.pick import ShimStack
from amber_core.words import NOTHING, Said, say, together
from setup_bench.advice import Estimate, estimate_of
from setup_bench.bench import Bench, counts, trial_state
from setup_bench.habits import costs_here, readers_of
from setup_bench.models import Trial
from setup_bench.present import landed, odds_percent, pieces_out
from setup_bench.stacks import Pieces, stored, total_mm
from shared.scope import within
from stores.models import DrawerPlace
from work.models import Work

WORTH_AN_ORDER = 0.1
_LOOKED_BACK = 200
_WORTH_SAYING = 0.05
_HEADLINES = {
    "finished": say("The set-up is finished. Leave it as it is."),
    "measure": say("Take another reading before you move anything."),
    "read_again": say("Read it again before you move anything."),
    "not_by_shims": say("No shim cures this."),
}
_LOOK_FOR = {
    "variation": [
        say("Take the ring gear off. Look for dirt or a burr under it, or dried thread locker on the flange."),
        say("Measure the runout of the flange itself, with the ring gear off."),
        say("Torque the ring gear bolts crosswise, one by one."),
        say("Check the side bearings: a bearing cup not home, or a bearing cap on the wrong side."),
    ],
    "flanks_oppose": [
        say("Check the match marks and numbers on both gears: are they a pair?"),
        say("Check that the bearing caps are on their own sides and the right way up."),
        say("Check for a bent axle housing or a worn bore: the axes no longer meet where they should."),
    ],
    "runs_off_everywhere": [
        say("Check the match marks and numbers on both gears: are they a pair?"),
        say("Check the tooth counts and the offset on the sheet against the gears in hand."),
        say("Paint thinner and load by hand only. Thick paint marks where nothing touches."),
    ],
}


def advice_out(bench: Bench) -> dict[str, Any]:
    """What to do next on this bench."""
    blocked = _blocked(bench)
    if blocked is not None:
        kind, text = blocked
        return {"kind": kind, "text": text, "advice": None, "chart": None}
    question = bench.question
    assert question is not None
    costs, learnt = costs_here()
    names = {one.by for trial in question.trials for flank in FLANKS for one in trial.seen(flank)}
    estimate = estimate_of(replace(question, costs=costs, readers=readers_of(names, bench.work)))
    found = estimate.advice()
    return {
        "kind": found.state,
        "text": _headline(found),
        "advice": {
            **_advice(bench, found, question.trials[-1].depth_shim_mm),
            "why": _why(found, costs),
            "costs": {**asdict(costs), "learnt": learnt},
        },
        "chart": asdict(estimate.chart()),
    }


def _blocked(bench: Bench) -> tuple[str, Said] | None:
    if not bench.trials:
        return "begin", say("Enter what shims are in now.")
    if not counts(bench.trials[-1]):
        return "conditions", say("Check the conditions first. Readings count once the conditions are confirmed.")
    if bench.state.window is None:
        return "no_window", say("The spec sheet has no backlash window. Enter it in the Stores from the maker's manual.")
    if bench.set_wrong:
        return "identify", say("The recorded gear set cannot be right: {set_wrong} Identify it again.", set_wrong=bench.set_wrong)
    if bench.known_set is None:
        return "identify", say("Identify the gear set first. The moves are worked out from its teeth.")
    return None


def _why(found: SetupAdvice, costs: Costs) -> Said:
    """What speaks for the best act: the odds as it stands, and what the others take."""
    stays = odds_percent(found.stay_odds)
    now = (
        say("{percent} % likely to be in as it stands.", percent=stays)
        if found.stay_odds >= _WORTH_SAYING
        else say("As it stands it is most likely out.")
    )
    times = (
        say(
            "Painting and reading everything again takes {read:.0f} minutes; a move takes {move:.0f} and is "
            "{percent} % likely to bring it in.",
            read=costs.read_minutes,
            move=costs.move_minutes,
            percent=odds_percent(found.proposals[0].odds),
        )
        if found.proposals
        else say(
            "Painting and reading everything again takes {read:.0f} minutes; a move takes {move:.0f}.",
            read=costs.read_minutes,
            move=costs.move_minutes,
        )
    )
    return together([now, times])


def _headline(found: SetupAdvice) -> Said:
    if found.state == "move" and found.proposals:
        return found.proposals[0].text
    return _HEADLINES.get(found.state, found.reasons[0].text if found.reasons else NOTHING)


def _advice(bench: Bench, found: SetupAdvice, now_mm: float) -> dict[str, Any]:
    plain = asdict(found)
    code = found.reasons[0].code if found.reasons else ""
    return {
        "reasons": plain["reasons"],
        "conflicts": plain["conflicts"],
        "estimate": plain["estimate"],
        "stay_percent": odds_percent(found.stay_odds),
        "acts": [{"act": one.act, "minutes": one.minutes, "odds_percent": odds_percent(one.odds)} for one in found.acts],
        "next_reading": plain["next_reading"],
        "look_for": _LOOK_FOR.get(code, []) if found.state == "not_by_shims" else [],
        "proposals": [_proposal(bench, found, one, now_mm) for one in found.proposals],
        "order": _order(bench, found),
    }


def _proposal(bench: Bench, found: SetupAdvice, one: Proposal, now_mm: float) -> dict[str, Any]:
    trial, drawer = bench.trials[-1], bench.has_drawer(DrawerPlace.DEPTH)
    depth = _stack(one.picks.depth if one.picks else None)
    ring, far = (_stack(pick) for pick in ((one.picks.ring_side, one.picks.far_side) if one.picks else (None, None)))
    moved = one.depth_shim_mm != now_mm
    adjust = bench.state.adjust
    place = {
        "pinion_mm": found.estimate.pinion_mm + adjust.pinion_move_mm(one.depth_shim_mm - now_mm),
        "ring_mm": found.estimate.ring_mm + adjust.ring_move_mm(trial_state(trial).sides, _sides(one)),
    }
    return {
        "kind": one.kind,
        "text": one.text,
        "odds_percent": odds_percent(one.odds),
        "expected": asdict(one.expected),
        "place": place,
        "depth_shim_mm": one.depth_shim_mm,
        "depth_changes": moved,
        "depth": pieces_out(depth) if depth is not None else None,
        "typed_depth": (_typed(depth) if depth is not None and drawer else f"{one.depth_shim_mm:g} mm") if moved else "",
        "ring_side_mm": one.ring_side_mm,
        "far_side_mm": one.far_side_mm,
        "ring_side": pieces_out(ring if ring is not None else stored(trial.ring_side_pieces)) if one.ring_side_mm is not None else None,
        "far_side": pieces_out(far if far is not None else stored(trial.far_side_pieces)) if one.far_side_mm is not None else None,
        "typed_ring_side": _typed(ring if ring is not None else stored(trial.ring_side_pieces)),
        "typed_far_side": _typed(far if far is not None else stored(trial.far_side_pieces)),
        "ring_side_notches": one.ring_side_notches,
        "far_side_notches": one.far_side_notches,
        "ring_side_notches_move": one.ring_side_notches_move,
        "far_side_notches_move": one.far_side_notches_move,
        "spacer_change_mm": one.spacer_change_mm,
        "preload_changes_mm": _preload_change(trial, one),
    }


def _sides(one: Proposal) -> Sides:
    """How a proposal sets both sides of the carrier."""
    if one.ring_side_notches is not None and one.far_side_notches is not None:
        return Sides(one.ring_side_notches, one.far_side_notches)
    return Sides(one.ring_side_mm or 0.0, one.far_side_mm or 0.0)


def _preload_change(trial: Trial, one: Proposal) -> float | None:
    """How much both side stacks together grow, [mm]; None for adjusters."""
    if one.ring_side_mm is None or one.far_side_mm is None:
        return None
    return one.ring_side_mm + one.far_side_mm - total_mm(stored(trial.ring_side_pieces)) - total_mm(stored(trial.far_side_pieces))


def _stack(pick: ShimStack | None) -> Pieces | None:
    return None if pick is None else [(one.thickness_mm, one.count) for one in pick.pieces]


def _typed(pieces: Pieces) -> str:
    return " + ".join(f"{thickness:g} mm" for thickness, count in pieces for _ in range(count)) or "none"


def _order(bench: Bench, found: SetupAdvice) -> Said | None:
    """A line for the shim order, when a shim that the shop lacks would raise the odds."""
    if not found.proposals or found.ideal.odds < found.proposals[0].odds + WORTH_AN_ORDER:
        return None
    order = (
        say("Order: depth shim {shim:mm2}, {family}.", shim=found.ideal.depth_shim_mm, family=bench.sheet.name)
        if bench.sheet.carrier_method == "adjusters"
        else say(
            "Order: depth shim {shim:mm2}, and side shims to move the ring gear {ring:mm2}, {family}.",
            shim=found.ideal.depth_shim_mm,
            ring=abs(found.ideal.ring_move_mm),
            family=bench.sheet.name,
        )
    )
    odds = say("With them a move would be about {percent} % likely to bring it in.", percent=odds_percent(found.ideal.odds))
    return together([order, odds])


def contact_out(bench: Bench, *, pinion_mm: float | None, ring_mm: float | None) -> dict[str, Any] | None:
    """The patterns at a place of the map as this set is now thought to be; None while there is no estimate."""
    question = bench.question
    if question is None:
        return None
    estimate: Estimate = estimate_of(question)
    advisor = estimate.advisor
    place = advisor.posterior.last_place
    pinion, ring = (float(place[0]) if pinion_mm is None else pinion_mm), (float(place[1]) if ring_mm is None else ring_mm)
    traits = advisor.outlook.traits
    ready = advisor.posterior.model.ready
    eases: list[EaseOff] = [eased(ease, traits) for ease in (ready.ease_drive, ready.ease_coast)]
    described = _with_relief(question.set, eases)
    found = simulate_contact(ContactQuestion(set=described, pinion_mm=pinion, ring_mm=ring, want_mask=True))
    shifts = {"drive": traits[0:2], "coast": traits[2:4]}
    return {
        "pinion_mm": pinion,
        "ring_mm": ring,
        **{
            name: {
                "u": side.u + float(shift[0]),
                "v": side.v + float(shift[1]),
                "length": side.length,
                "height": side.height,
                "tilt_deg": side.tilt_deg,
                "shift_u": float(shift[0]),
                "shift_v": float(shift[1]),
                "mask": side.mask,
            }
            for name, side, shift in (("drive", found.drive, shifts["drive"]), ("coast", found.coast, shifts["coast"]))
        },
    }


def preview_out(bench: Bench, *, flank: str, u: float, v: float, runs_off: list[str]) -> dict[str, Any] | None:
    """Where the gears would stand if the last trial's patch were read so; None while there is no estimate."""
    question = bench.question
    if question is None:
        return None
    before = question.trials[-1].seen(flank)  # type: ignore[arg-type]
    read = replace(question.trials[-1], **{flank: [*before, TrialPatch(u=u, v=v, runs_off=runs_off)][-MOST_REPEATS:]})  # type: ignore[arg-type]
    posterior = Posterior(replace(question, trials=[*question.trials[:-1], read]))
    pinion, ring = (float(one) for one in posterior.last_place)
    sd = [float(one) ** 0.5 for one in posterior.last_covariance.diagonal()]
    last = len(question.trials) - 1
    wild = next((one for one in posterior.conflicts if one.observation.trial == last and one.observation.reading == flank), None)
    if abs(pinion) < sd[0]:
        text = say("With this reading the pinion is at the right depth, within {sd:mm2}.", sd=sd[0])
    elif pinion > 0:
        text = say("With this reading the pinion is {off:mm2-} ± {sd:mm2} too shallow.", off=pinion, sd=sd[0])
    else:
        text = say("With this reading the pinion is {off:mm2-} ± {sd:mm2} too deep.", off=-pinion, sd=sd[0])
    return {
        "pinion_mm": pinion,
        "pinion_sd_mm": sd[0],
        "ring_mm": ring,
        "ring_sd_mm": sd[1],
        "contradicts": say("This does not fit the other readings. Check it again.") if wild else None,
        "text": text,
    }


def _with_relief(known: Any, eases: list[EaseOff]) -> Any:
    return replace(known, ease_drive=eases[0], ease_coast=eases[1])


def odds_kept() -> list[dict[str, Any]]:
    """What was said of the last moves of this shop, and how many of them landed."""
    rows: dict[int, list[bool]] = {}
    asked: list[tuple[UUID, int, Any]] = list(
        within(Trial.objects.filter(expected__isnull=False), "work__job__shop")
        .order_by("-id")
        .values_list("work_id", "number", "expected")[:_LOOKED_BACK]
    )
    works = Work.objects.with_job().filter(pk__in={work for work, _, _ in asked})
    benches = {work.pk: Bench(work) for work in works}
    for work_id, number, expected in asked:
        bench = benches[work_id]
        found = next(one for trial, one in zip(bench.trials, bench.verdicts.trials, strict=True) if trial.number == number)
        if (good := landed(found)) is not None:
            rows.setdefault(odds_percent(expected["odds"]), []).append(good)
    return [{"percent": percent, "moves": len(found), "landed": sum(found)} for percent, found in sorted(rows.items(), reverse=True)]
