"""Writing what is read beside the backlash: conditions, patterns, torques, depth, sleeve, spacer, instruments. Appended only."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404

from amber_core.bench.conditions import conditions
from amber_core.bench.instrument import DialCheck, check_dial
from amber_core.depth.measure import DepthReading as DepthQuestion
from amber_core.depth.measure import measure_depth
from amber_core.errors import InvalidInput
from amber_core.preload.pull import Pull, torque_from_pull
from amber_core.quantities import Typed, parse
from amber_core.setup.question import MOST_REPEATS
from amber_core.words import say
from records.writing import Writing
from setup_bench.bench import Bench, bench_of, patterns_of
from setup_bench.models import (
    Basis,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    SleeveStep,
    SpacerTry,
    TorqueReading,
    Trial,
)
from setup_bench.preload import followed, standing_steps
from setup_bench.services import add_read, note_verdicts, open_bench, open_trial
from setup_bench.stacks import parse_stack
from shared.pictures import Picture
from shared.refusals import Conflict, Refusal
from stores.models import Quantity

MOST_TORQUE_NM = 200.0
MOST_DRAG_NM = 50.0
MOST_PLAY_MM = 5.0
MOST_BACKLASH_MM = 10.0
RESOLUTIONS_MM = (0.0001, 0.1)


def conditions_of(trial: Trial, carrier: str) -> list[dict[str, str]]:
    """What somebody confirms before this trial's readings count."""
    found = conditions(
        is_final=trial.is_final,
        preload_part=trial.preload_part,  # type: ignore[arg-type]
        bearings=trial.bearings,  # type: ignore[arg-type]
        carrier=carrier,  # type: ignore[arg-type]
    )
    return [{"code": one.code, "text": one.text} for one in found]


@transaction.atomic(savepoint=False)
def confirm_conditions(writing: Writing, *, trial_id: UUID) -> Bench:
    """Somebody looked at the housing: its readings count. What was confirmed is kept as it was shown."""
    trial, bench = open_trial(trial_id, writing)
    if not hasattr(trial, "conditions"):
        points = conditions_of(trial, bench.sheet.carrier_method)
        trial.conditions = ConditionCheck.objects.create(trial=trial, points=points, **writing.row())
        note_verdicts(bench, writing)
    return bench


@dataclass(frozen=True)
class PatchSeen:
    """A patch as it was drawn: middle, length, height [-], lean [deg], and where it runs off."""

    flank: str
    u: float
    v: float
    length: float
    height: float
    tilt_deg: float
    runs_off: list[str]
    photo: UUID | None
    photo_place: dict[str, float] | None
    note: str
    replaces: UUID | None


@transaction.atomic(savepoint=False)
def record_pattern(writing: Writing, *, trial_id: UUID, seen: PatchSeen) -> Bench:
    """A painted patch as somebody reads it."""
    trial, bench = open_trial(trial_id, writing)
    photo = None
    if seen.photo is not None:
        photo = PatternPhoto.objects.filter(client_id=seen.photo, trial__work=bench.work).defer("content").first()
        if photo is None:
            raise Refusal(say("The photo of this pattern has not arrived. Add it again."), field="photo")
    replaced = None
    if seen.replaces is not None:
        replaced = next((one for one in patterns_of(trial, seen.flank) if one.client_id == seen.replaces), None)
        if replaced is None:
            raise Conflict(say("This reading was already corrected. Look at the pattern again."), code="newer_pattern")
    elif len(patterns_of(trial, seen.flank)) >= MOST_REPEATS:
        raise Refusal(
            say(
                "This pattern already has {most_repeats} readings, which is enough. Correct one of them instead.",
                most_repeats=MOST_REPEATS,
            ),
            field="flank",
        )
    fields = {**asdict(seen), "photo": photo, "replaces": replaced, "runs_off": sorted(set(seen.runs_off))}
    add_read(trial, "patterns", PatternReading.objects.create(trial=trial, **fields, **writing.row()))
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def add_photo(writing: Writing, *, trial_id: UUID, flank: str, picture: Picture) -> PatternPhoto:
    """Keep a picture of a painted tooth."""
    trial, _ = open_trial(trial_id, writing)
    fields = {"flank": flank, "content": picture.content, "media_type": picture.media_type}
    return PatternPhoto.objects.create(trial=trial, **fields, **writing.row())


@dataclass(frozen=True)
class TorqueTyped:
    """A torque as it was typed: as such, or as a force on a string or lever with its radius."""

    what: str
    typed: str
    radius: str
    bearings: str
    seal: str
    seal_drag: str


@transaction.atomic(savepoint=False)
def record_torque(writing: Writing, *, trial_id: UUID, given: TorqueTyped) -> Bench:
    """The rotating torque, turning steadily."""
    trial, bench = open_trial(trial_id, writing)
    read, radius = _torque(given.typed, given.radius, writing)
    drag = None
    if given.seal_drag:
        drag = parse(given.seal_drag, dimension="torque", unit=writing.torque_unit, field="seal_drag").value
        if not 0.0 <= drag <= MOST_DRAG_NM:
            raise Refusal(
                say(
                    "Seal drag must be 0 to {most_drag_nm:Nm0}; this would be {drag:Nm0}. Check the unit.",
                    most_drag_nm=MOST_DRAG_NM,
                    drag=drag,
                ),
                field="seal_drag",
            )
    fields = {"what": given.what, "bearings": given.bearings, "seal": given.seal, "seal_drag_nm": drag, "radius_mm": radius}
    row = TorqueReading.objects.create(trial=trial, value_nm=read.value, typed=read.text, unit=read.unit, **fields, **writing.row())
    add_read(trial, "torques", row)
    note_verdicts(bench, writing)
    return bench


def _torque(typed: str, radius: str, writing: Writing, field: str = "typed") -> tuple[Typed, float | None]:
    """A torque, and the radius it was pulled at [mm].

    Raises
    ------
    Refusal, InvalidInput
        For what no axle turns with.
    """
    if not radius:
        read, arm = parse(typed, dimension="torque", unit=writing.torque_unit, field=field), None
    else:
        force = parse(typed, dimension="force", unit="n", field=field)
        arm = parse(radius, dimension="length", unit="mm", field="radius").value
        pulled = torque_from_pull(Pull(force_n=force.value, radius_mm=arm)).torque_nm
        read = Typed(value=pulled, number=force.number, unit=force.unit, text=force.text, bare=force.bare)
    if not 0.0 <= read.value <= MOST_TORQUE_NM:
        text = say(
            "{text} would be {value:Nm1}; the most is {most_torque_nm:Nm0}. Check the unit.",
            text=read.text,
            value=read.value,
            most_torque_nm=MOST_TORQUE_NM,
        )
        raise Refusal(text, field=field)
    return read, arm


@transaction.atomic(savepoint=False)
def record_depth(writing: Writing, *, trial_id: UUID, tool: str, given: dict[str, str]) -> Bench:
    """A measured depth: typed lengths of the reading, the bar, the arbor's radius, the reference face and the pinion's mark."""
    trial, bench = open_trial(trial_id, writing)
    nominal = bench.sheet.limit(Quantity.DEPTH)
    typed = {name: parse(text, dimension="length", unit="mm", field=name).value for name, text in given.items() if text}
    if "reading" not in typed:
        raise Refusal(say("Enter the reading of the depth micrometer or the depth tool."), field="reading")
    if "nominal" not in typed:
        if nominal is None or nominal.least is None:
            raise Refusal(say("The spec sheet gives no pinion depth. Enter the nominal distance from the maker's manual."), field="nominal")
        typed["nominal"] = (nominal.least + (nominal.greatest or nominal.least)) / 2.0
    question = DepthQuestion(
        **{f"{name}_mm": value for name, value in typed.items()},
        shim_mm=bench.state.depth_shims_mm()[-1],
        shim_place=bench.sheet.shim_place,
    )
    found = measure_depth(question)
    if abs(found.error_mm) > 5.0:
        raise Refusal(
            say(
                "That would be {error_mm:+mm1} from the right pinion depth. Check the bar, the arbor and the reference face.",
                error_mm=found.error_mm,
            ),
            field="reading",
        )
    fields = {"tool": tool, "question": asdict(question), "distance_mm": found.distance_mm, "error_mm": found.error_mm}
    DepthReading.objects.create(trial=trial, **fields, **writing.row())
    bench = bench_of(bench.work.pk)  # its shims were asked for before the depth was known
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def set_basis(writing: Writing, *, work_id: UUID, fields: dict[str, Any], found_backlash: str) -> Bench:
    """New or used set, which flank drives, in how many places backlash is read, and what a used set was found with."""
    bench = open_bench(work_id, writing)
    read = None
    if found_backlash:
        read = parse(found_backlash, dimension="length", unit=writing.length_unit, field="found_backlash").value
        if not 0.0 <= read <= MOST_BACKLASH_MM:
            text = say(
                "Backlash must be 0 to {most_backlash_mm:mmg}; this would be {read:mmg}. Check the unit.",
                most_backlash_mm=MOST_BACKLASH_MM,
                read=read,
            )
            raise Refusal(text, field="found_backlash")
    Basis.objects.create(work=bench.work, found_backlash_mm=read, **fields, **writing.row())
    bench = bench_of(work_id)
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def sleeve_step(writing: Writing, *, work_id: UUID, sleeve: int, nut_turn_deg: float, typed: str, nut_torque_nm: float | None) -> Bench:
    """A step of the nut on a crush sleeve, and the rotating torque after it; judged before it is stored.

    Raises
    ------
    Refusal
        When the nut would have gone back: a sleeve goes one way.
    InvalidInput
        For a run that cannot be followed.
    """
    bench = open_bench(work_id, writing)
    standing = standing_steps(bench)
    used = max((one.sleeve for one in bench.sleeve_steps), default=0)
    if sleeve not in (max(used, 1), used + 1):
        raise Conflict(say("Somebody else has started another crush sleeve. Look at it again."), code="newer_sleeve")
    last = next((one for one in reversed(standing) if one.sleeve == sleeve), None)
    if last is not None and nut_turn_deg <= last.nut_turn_deg:
        text = say(
            "The last step was at {nut_turn_deg:g}°, and the nut only goes further on. Undo that step if it was mistyped.",
            nut_turn_deg=last.nut_turn_deg,
        )
        raise Refusal(text, field="nut_turn_deg")
    read, _ = _torque(typed, "", writing)
    fields = {"rotating_torque_nm": read.value, "typed": read.text, "unit": read.unit, "nut_torque_nm": nut_torque_nm}
    row = SleeveStep.objects.create(work=bench.work, sleeve=sleeve, nut_turn_deg=nut_turn_deg, **fields, **writing.row())
    bench.sleeve_steps.append(row)
    followed(bench, sleeve)
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def take_back_sleeve_step(writing: Writing, *, work_id: UUID, step_id: UUID, reason: str) -> Bench:
    """Take a mistyped step back, with a reason; both rows stay."""
    bench = open_bench(work_id, writing)
    step = next((one for one in bench.sleeve_steps if one.client_id == step_id and one.takes_back_id is None), None)
    if step is None:
        raise Http404
    if not reason:
        raise Refusal(say("Give a reason for taking back the step."), field="reason")
    if all(one.takes_back_id != step.pk for one in bench.sleeve_steps):
        fields = {name: getattr(step, name) for name in ("sleeve", "nut_turn_deg", "rotating_torque_nm", "typed", "unit", "nut_torque_nm")}
        bench.sleeve_steps.append(SleeveStep.objects.create(work=bench.work, takes_back=step, reason=reason, **fields, **writing.row()))
        note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def spacer_try(writing: Writing, *, work_id: UUID, stack: str, end_play: str, torque: str) -> Bench:
    """A trial stack with the solid spacer."""
    bench = open_bench(work_id, writing)
    pieces = parse_stack(stack, unit=writing.length_unit, field="stack")
    play = None
    if end_play:
        play = parse(end_play, dimension="length", unit=writing.length_unit, field="end_play").value
        if not 0.0 <= play <= MOST_PLAY_MM:
            text = say(
                "End play must be 0 to {most_play_mm:mmg}; this would be {play:mmg}. Check the unit.",
                most_play_mm=MOST_PLAY_MM,
                play=play,
            )
            raise Refusal(text, field="end_play")
    read = _torque(torque, "", writing, "torque")[0].value if torque else None
    if play is None and read is None:
        raise Refusal(say("Enter the end play or the rotating torque, read at full nut torque."), field="end_play")
    SpacerTry.objects.create(work=bench.work, pieces=pieces, end_play_mm=play, rotating_torque_nm=read, **writing.row())
    bench = bench_of(work_id)
    note_verdicts(bench, writing)
    return bench


@transaction.atomic(savepoint=False)
def check_instrument(
    writing: Writing, *, work_id: UUID, zero: str, block: str, block_read: str, back: str, instrument: str, resolution: str
) -> Bench:
    """One minute before readings: zero, gauge block, back to the mark; and the dial's step, by which readings are judged from now on."""
    bench = open_bench(work_id, writing)
    unit = writing.length_unit
    typed = {"zero": zero, "block": block, "block_read": block_read, "back": back}
    read = {name: parse(text, dimension="length", unit=unit, field=name).value for name, text in typed.items()}
    step = parse(resolution, dimension="length", unit=unit, field="resolution").value if resolution else bench.resolution_mm
    if not RESOLUTIONS_MM[0] <= step <= RESOLUTIONS_MM[1]:
        raise Refusal(
            say(
                "Dial step must be {least:mmg-} to {most:mmg}; this would be {step:mmg}. Check the unit.",
                least=RESOLUTIONS_MM[0],
                most=RESOLUTIONS_MM[1],
                step=step,
            ),
            field="resolution",
        )
    try:
        given = DialCheck(
            zero_mm=read["zero"], block_mm=read["block"], block_read_mm=read["block_read"], return_mm=read["back"], resolution_mm=step
        )
    except InvalidInput as wrong:
        field = {"zero_mm": "zero", "block_mm": "block", "block_read_mm": "block_read", "return_mm": "back"}.get(wrong.field, wrong.field)
        raise Refusal(wrong.message, field=field) from None
    fields = {name: getattr(given, name) for name in ("zero_mm", "block_mm", "block_read_mm", "return_mm", "resolution_mm")}
    row = InstrumentCheck.objects.create(work=bench.work, good=check_dial(given).good, instrument=instrument, **fields, **writing.row())
    bench.instrument = row
    note_verdicts(bench, writing)
    return bench
