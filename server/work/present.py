"""A job with its pieces of work, and a piece of work, as the API shows them."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.apps import apps
from django.db.models import Manager, QuerySet
from django.http import Http404

from amber_core.fasteners.sequence import TorquePlanQuestion, plan_torque
from amber_core.gearset.identify import GearSetClues, identify_gear_set
from amber_core.procedures.kinds import KINDS, complaint_kinds
from amber_core.procedures.making import BLOCKS
from amber_core.procedures.shaping import OWN
from amber_core.procedures.steps import Ask, Step, Way
from amber_core.words import NOTHING, Said, say
from jobs.models import AxleFact, Job
from jobs.present import card_out, stations_out
from shared.gathering import Gathering, Part, rows_of
from stores.models import AxleFamily, FastenerPlace, SheetRevision
from stores.present import fastener_out, fluid_out, limit_out, ratio_out
from stores.sheets import LISTS, Sheet, SheetFastener, sheet_at, without_counts
from vehicles.models import PLACES, SHEET_FOR, Assembly, Place, Vehicle
from work.as_left import lines_of_steps, plain, told
from work.checks import tools_of
from work.habits import minutes_here
from work.match import match_out
from work.models import GearSetRecord, KeptAnswer, Outcome, ProcedureRevision, StepPhoto, StepReading, StepRecord, WayChoice, Work
from work.run_sheet import NUTS_DUE_KM, Judged, RunSheet, before_said, difference
from work.services import newer_sheet
from work.shaping import find_kind, kind_in, own_kinds, shape_of, steps_of

MOST_LINES = 4
"""Lines of a bench tool's answer that a run sheet shows."""


def find_job(job_id: UUID) -> Job:
    """The job with all that its page shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    wanted = ("stations", "station_records", "axle_facts", "works__assembly", "works__sheet_revision", "works__gear_sets")
    job = Job.objects.select_related("vehicle").prefetch_related(*wanted).filter(pk=job_id).first()
    if job is None:
        raise Http404
    return job


def value_of(name: str, work: UUID) -> QuerySet[Work, dict[str, Any]]:
    """One value of a piece of work, as a question within a question."""
    found: QuerySet[Work, dict[str, Any]] = Work.objects.filter(pk=work).order_by().values(name)
    return found[:1]


def _rows(app: str, model: str) -> Manager[Any]:
    """Rows of an area that builds on this one, which only it knows by name."""
    manager: Manager[Any] = apps.get_model(app, model)._default_manager
    return manager


_OF_WORK = Gathering(
    job=Part(lambda work: Job.objects.filter(pk=value_of("job", work)).order_by()),
    vehicle=Part(lambda work: Vehicle.objects.filter(pk=value_of("job__vehicle", work)).order_by()),
    axle_facts=Part(lambda work: AxleFact.objects.filter(job=value_of("job", work)), of="job"),
    works=Part(lambda work: Work.objects.filter(job=value_of("job", work)), of="job"),
    assemblies=Part(lambda work: Assembly.objects.filter(works__job=value_of("job", work)).order_by()),
    sheet_revision=Part(lambda work: SheetRevision.objects.filter(pk=value_of("sheet_revision", work)).order_by().defer("content")),
    procedure=Part(lambda work: ProcedureRevision.objects.filter(pk=value_of("procedure", work)).order_by().defer("content")),
    family=Part(lambda work: AxleFamily.objects.filter(pk=value_of("sheet_revision__family", work)).order_by()),
    gear_sets=Part(lambda work: GearSetRecord.objects.filter(work__job=value_of("job", work)), of="work"),
    step_records=Part(lambda work: StepRecord.objects.filter(work=work), of="work"),
    step_readings=Part(lambda work: StepReading.objects.filter(record__work=work), of="record"),
    step_photos=Part(lambda work: StepPhoto.objects.filter(work=work).defer("content"), of="work"),
    way_choices=Part(lambda work: WayChoice.objects.filter(work=work), of="work"),
    kept_answers=Part(lambda work: KeptAnswer.objects.filter(work=work).defer("inputs", "answer"), of="work"),
    bench_findings=Part(lambda work: _rows("setup_bench", "BenchFinding").filter(work=work), of="work"),
    joint_inspections=Part(lambda work: _rows("driveline_desk", "JointInspection").filter(work=work), of="work"),
)
"""What a run sheet shows and is judged by."""


def _of_works(name: str, vehicle: UUID) -> QuerySet[Work, dict[str, Any]]:
    """What the pieces of work of a vehicle lead to."""
    found: QuerySet[Work, dict[str, Any]] = Work.objects.filter(job__vehicle=vehicle).order_by().values(name)
    return found


_OF_VEHICLE = Gathering(
    vehicle=Part(lambda vehicle: Vehicle.objects.filter(pk=vehicle).order_by()),
    jobs=Part(lambda vehicle: Job.objects.filter(vehicle=vehicle).order_by("-number")),
    works=Part(lambda vehicle: Work.objects.filter(job__vehicle=vehicle), of="job"),
    assemblies=Part(lambda vehicle: Assembly.objects.filter(vehicle=vehicle).order_by()),
    sheet_revisions=Part(
        lambda vehicle: SheetRevision.objects.filter(pk__in=_of_works("sheet_revision", vehicle)).order_by().defer("content")
    ),
    procedures=Part(lambda vehicle: ProcedureRevision.objects.filter(pk__in=_of_works("procedure", vehicle)).order_by().defer("content")),
    families=Part(lambda vehicle: AxleFamily.objects.filter(pk__in=_of_works("sheet_revision__family", vehicle)).order_by()),
    gear_sets=Part(lambda vehicle: GearSetRecord.objects.filter(work__job__vehicle=vehicle).defer("question", "answer"), of="work"),
    step_records=Part(lambda vehicle: StepRecord.objects.filter(work__job__vehicle=vehicle), of="work"),
    step_readings=Part(lambda vehicle: StepReading.objects.filter(record__work__job__vehicle=vehicle), of="record"),
    way_choices=Part(lambda vehicle: WayChoice.objects.filter(work__job__vehicle=vehicle), of="work"),
)
"""Every visit of a vehicle."""


def find_work(work_id: UUID) -> Work:
    """The piece of work with all that its run sheet shows, in one query.

    Raises
    ------
    Http404
        When there is none.
    """
    found = next((one for one in _OF_WORK.read(work_id)["works"] if one.pk == work_id), None)
    if found is None:
        raise Http404
    work: Work = found
    return work


def visits_out(vehicle_id: UUID) -> list[dict[str, Any]]:
    """Every job of a vehicle, the latest first, with what each piece of work measured when it left."""
    return [
        {
            "job_id": job.pk,
            "number": job.number,
            "complaint": job.complaint,
            "state": job.state,
            "state_word": job.get_state_display(),
            "booked": job.created_at,
            "work": [one.title for one in job.works.all()],
            "finals": [text for one in job.works.all() for text in _teeth_in(one)],
            "left": [
                {
                    "work_id": one.pk,
                    "place": one.assembly.place,
                    "label": one.assembly.get_place_display(),
                    "signed_off_at": one.signed_off_at,
                    "lines": told(one.as_left or plain(lines_of_steps(one))),
                }
                for one in job.works.all()
            ],
        }
        for job in _OF_VEHICLE.read(vehicle_id)["jobs"]
    ]


def _teeth_in(work: Work) -> list[Said]:
    teeth = max(work.gear_sets.all(), key=lambda one: one.pk, default=None)
    return [say("Gear set {pinion_teeth}/{ring_teeth}", pinion_teeth=teeth.pinion_teeth, ring_teeth=teeth.ring_teeth)] if teeth else []


def job_out(job: Job) -> dict[str, Any]:
    """Card, map, pieces of work."""
    works = sorted(job.works.all(), key=lambda one: one.number)
    return {
        **card_out(job),
        "stations": stations_out(job, {one.assembly.place for one in works}),
        "works": [_row(one) for one in works],
        "match": match_out(job),
    }


def _row(work: Work) -> dict[str, Any]:
    plain = ("id", "number", "kind", "title", "axle", "on_bench", "state", "next_action", "signed_off_at")
    return {
        **{name: getattr(work, name) for name in plain},
        "place": work.assembly.place,
        "family_name": work.sheet.name,
        "state_word": work.get_state_display(),
    }


def work_out(work: Work) -> dict[str, Any]:
    """What it is judged by, gear set, ways and run sheet."""
    sheet, run_sheet = work.sheet, RunSheet(work)
    newer = newer_sheet(work)
    return {
        **_row(work),
        "job_id": work.job_id,
        "version": work.version,
        "family": sheet.code,
        "family_build": sheet.build,
        "is_sample": sheet.is_sample,
        "sheet_revision": work.sheet_revision.number if work.sheet_revision else None,
        "newer_sheet": _revision_out(newer, sheet) if newer else None,
        "ratios": [ratio_out(one) for one in sheet.ratios],
        "gear_set": _gear_set(work, run_sheet),
        "ways": [{name: getattr(one, name) for name in ("question", "way", "reason", "by_name", "at")} for one in work.way_choices.all()],
        "as_found": found_out(run_sheet),
        "steps": steps_out(run_sheet),
    }


def _revision_out(revision: SheetRevision, mine: Sheet) -> dict[str, Any]:
    plain = {name: getattr(revision, name) for name in ("number", "by_name", "at", "reason")}
    return {**plain, "changes": sheet_changes(mine, sheet_at(revision))}


def sheet_changes(before: Sheet, after: Sheet) -> list[Said]:
    """What differs in a newer sheet, a line each."""
    found: list[Said] = []
    before, after = without_counts(before), without_counts(after)
    old, new = ({one.quantity: one for one in sheet.limits} for sheet in (before, after))
    for quantity in sorted(old.keys() | new.keys()):
        was, now = old.get(quantity), new.get(quantity)
        if was == now:
            continue
        label = (now or was).label  # type: ignore[union-attr]
        found.append(say("{label}: {before}, now {after}", label=label, before=_window(was), after=_window(now)))
    if before.ratios != after.ratios:
        found.append(say("Ratios of this family"))
    for place in FastenerPlace:
        bolts, bolts_now = before.fastener(place), after.fastener(place)
        if bolts != bolts_now:
            found.append(say("{label}: {before}, now {after}", label=place.label, before=_tightened(bolts), after=_tightened(bolts_now)))
    if before.fluids != after.fluids:
        found.append(say("Oils of this family"))
    facts = [name for name in Sheet.__dataclass_fields__ if name not in LISTS and getattr(before, name) != getattr(after, name)]
    return [
        *found,
        *(
            say(
                "{label}: {before}, now {after}",
                label=name.replace("_", " ").capitalize(),
                before=str(getattr(before, name)),
                after=str(getattr(after, name)),
            )
            for name in facts
        ),
    ]


def _window(limit: Any) -> Said:
    if limit is None:
        return say("none")
    if limit.least is None or limit.greatest is None:
        return say("at least {least:g}", least=limit.least) if limit.least is not None else say("up to {most:g}", most=limit.greatest)
    return say("{least:g} to {most:g}", least=limit.least, most=limit.greatest)


def _tightened(one: SheetFastener | None) -> Said:
    if one is None:
        return say("none")
    if one.torque_nm is None:
        return say("{count} bolts", count=one.count)
    if one.angle_deg is None:
        return say("{count} bolts, {torque:Nm0}", count=one.count, torque=one.torque_nm)
    return say("{count} bolts, {torque:Nm0} and {angle:.0f}°", count=one.count, torque=one.torque_nm, angle=one.angle_deg)


def _gear_set(work: Work, sheet: RunSheet) -> dict[str, Any] | None:
    record = sheet.gear_set
    if record is None:
        return None
    teeth = (record.pinion_teeth, record.ring_teeth)
    return {
        "pinion_teeth": record.pinion_teeth,
        "ring_teeth": record.ring_teeth,
        "ratio": record.ring_teeth / record.pinion_teeth,
        "hunting": identify_gear_set(GearSetClues(pinion_teeth=teeth[0], ring_teeth=teeth[1])).hunting,
        "counted_ratio": record.answer.get("counted_ratio"),
        "guess_ratio": record.question.get("guess_ratio"),
        "guess_agrees": record.answer.get("guess_agrees"),
        "in_family": any((one.pinion_teeth, one.ring_teeth) == teeth for one in work.sheet.ratios),
        "by_name": record.by_name,
        "at": record.at,
    }


def steps_out(sheet: RunSheet) -> list[dict[str, Any]]:
    """The run sheet, step by step."""
    upcoming = sheet.open_now
    is_sample = sheet.work.sheet.is_sample
    photos: dict[str, list[StepPhoto]] = {}
    for photo in rows_of(sheet.work, "step_photos"):
        photos.setdefault(photo.step_code, []).append(photo)
    measured: dict[str, list[KeptAnswer]] = {}
    for kept in sheet.work.kept_answers.all():
        if kept.step_code:
            measured.setdefault(kept.step_code, []).append(kept)
    found = []
    for step in sheet.steps:
        held, done = sheet.hold_before(step.code), step.code in sheet.passed
        record = sheet.latest.get(step.code)
        outcome = record.outcome if record else None
        if record is not None and outcome == Outcome.TAKEN_BACK:
            record = None
        by = record or (sheet.gear_set if step.measure == "gear_set" else None)
        plain = (
            "code",
            "group",
            "title",
            "why",
            "act",
            "measure",
            "hold",
            "caution",
            "wait_minutes",
            "minutes",
            "may_skip",
            "photo",
            "aid",
        )
        found.append(
            {
                **{name: getattr(step, name) for name in plain},
                "state": "passed" if done else ("shut" if held else "open"),
                "outcome": outcome,
                "held_by": held.title if held and not done else None,
                "missing": sheet.missing(step),
                "is_next": upcoming is not None and step.code == upcoming.code,
                "asks": [_ask_out(sheet, ask, record) for ask in step.asks],
                "ways": [_way_out(sheet, step, way) for way in step.ways],
                "clock": _clock_out(sheet, step),
                "photos": [{"id": one.client_id, "by_name": one.by_name, "at": one.at} for one in photos.get(step.code, [])],
                "tools": [{"code": code, "title": title} for code, title in tools_of(step)],
                "measured": _measured_out(step, measured.get(step.code, [])),
                "note_asked": step.note,
                "fastener": _fastener_out(sheet, step),
                "fluids": [fluid_out(one, is_sample=is_sample) for one in sheet.work.sheet.fluids] if _fills(step) else [],
                "entered": record.entered if record else "",
                "note": record.note if record else "",
                "due": _due(step, record.value if record else None),
                "by_name": by.by_name if by else None,
                "at": by.at if by else None,
            }
        )
    return found


def _ask_out(sheet: RunSheet, ask: Ask, record: StepRecord | None) -> dict[str, Any]:
    limit = sheet.work.sheet.limit(ask.limit) if ask.limit else None
    read = next((one for one in record.readings.all() if one.name == ask.name), None) if record else None
    here = {one.name: one.value for one in record.readings.all()} if record else {}
    judged = sheet.judged(ask, read.value, here) if read else Judged("unknown", NOTHING)
    before = here.get(ask.beside, sheet.found[ask.beside].value if ask.beside in sheet.found else None) if ask.beside else None
    beside = None
    if before is not None:
        beside = difference(ask, read.value, before) if read else before_said(ask, before)
    return {
        "name": ask.name,
        "what": ask.what,
        "dimension": ask.dimension,
        "unit": ask.unit,
        "limit": limit_out(limit, is_sample=sheet.work.sheet.is_sample) if limit else None,
        "as_found": ask.as_found,
        "may_skip": ask.may_skip,
        "beside": beside,
        "entered": read.entered if read else "",
        "verdict": judged.verdict,
        "text": judged.text,
    }


def _way_out(sheet: RunSheet, step: Step, way: Way) -> dict[str, Any]:
    plain = {name: getattr(way, name) for name in ("code", "title", "fits", "risk")}
    chosen = sheet.ways.get(step.code) == way.code
    return {**plain, "recommended": way.code == sheet.advised(step), "chosen": chosen, "shut": sheet.shut(step.code, way.code)}


def _clock_out(sheet: RunSheet, step: Step) -> dict[str, Any] | None:
    running = sheet.running(step)
    return {"begun_at": running.at, "until": running.until, "minutes_to_go": sheet.to_go(step)} if running else None


def _measured_out(step: Step, measured: list[KeptAnswer]) -> dict[str, Any] | None:
    """What bench tools gave for a step: the latest answer, and the readings of all of them, a later one before an earlier."""
    last = max(measured, key=lambda one: one.pk, default=None)
    if last is None:
        return None
    asked = {ask.name for ask in step.asks}
    lines = told(last.summary["lines"][:MOST_LINES])
    readings = {name: text for one in measured for name, text in one.summary["fills"].items() if name in asked}
    plain = {name: getattr(last, name) for name in ("title", "by_name", "at")}
    return {**plain, "id": last.client_id, "verdict": last.summary["verdict"], "lines": lines, "readings": readings}


def _fills(step: Step) -> bool:
    """Whether oil is poured in this step."""
    return any(ask.limit == "oil" for ask in step.asks)


def _fastener_out(sheet: RunSheet, step: Step) -> dict[str, Any] | None:
    """The bolts or nuts that a step tightens, in tightening order, with the torque of each stage [N m]."""
    one = sheet.work.sheet.fastener(step.limit) if step.limit else None
    if one is None:
        return None
    plan = plan_torque(TorquePlanQuestion(count=one.count, layout=one.layout, target_nm=one.torque_nm or 0.0, stages=_stages(one)))
    stages = [stage.nm for stage in plan.stages] if one.torque_nm is not None else []
    return {**fastener_out(one, is_sample=sheet.work.sheet.is_sample), "sides": one.sides, "order": plan.order, "stages_nm": stages}


def _stages(one: SheetFastener) -> list[float]:
    """Parts of the torque: a single bolt, or one that is turned by angle afterwards, is drawn to its torque at once."""
    return [1.0] if one.count == 1 or one.angle_deg is not None else [0.5, 0.8, 1.0]


def found_out(sheet: RunSheet) -> list[dict[str, Any]]:
    """The as-found book of a piece of work."""
    asks = {ask.name: ask for step in sheet.steps for ask in step.asks}
    since = {ask.beside: sheet.found[ask.name].entered for ask in asks.values() if ask.beside and ask.name in sheet.found}
    return [
        {
            "name": name,
            "what": asks[name].what if name in asks else name.removeprefix("as_found.").replace("_", " "),
            "entered": one.entered,
            "since": since.get(name, ""),
            "by_name": one.by_name,
            "at": one.at,
        }
        for name, one in sheet.found.items()
        if name.startswith("as_found.")
    ]


def library_out(kind: str) -> dict[str, Any]:
    """A kind of work with its steps and what the shop adds.

    Raises
    ------
    InvalidInput
        When there is no such kind.
    """
    known, shape = find_kind(kind), shape_of(kind)
    own, learnt = own_kinds().get(kind), minutes_here(kind)
    plain = ("code", "group", "title", "why", "act", "hold", "caution", "minutes")
    return {
        "kind": kind,
        "title": known.title,
        "made": {**own.content, "number": own.number, "by_name": own.by_name, "reason": own.reason} if own else None,
        "number": shape.number if shape else 0,
        "by_name": shape.by_name if shape else "",
        "reason": shape.reason if shape else "",
        "shape": shape.content if shape else {},
        "steps": [
            {
                **{name: getattr(one.step, name) for name in plain},
                "own": one.step.code.startswith(OWN),
                "needs": one.needs,
                "learnt": learnt.get((kind, one.step.code)),
            }
            for one in steps_of(kind)
        ],
    }


def blocks_out() -> list[dict[str, Any]]:
    """What a kind of work can be put together from."""
    return [
        {
            **{name: getattr(one, name) for name in ("code", "title", "places", "wants")},
            "steps": [step.step.title for step in (*one.opens(), *one.closes())],
        }
        for one in BLOCKS.values()
    ]


def kinds_out(complaint: str) -> dict[str, Any]:
    """Every kind of work, and those that a complaint points at."""
    kinds = [
        {
            "code": one.code,
            "title": one.title,
            "about": one.about,
            "places": list(one.places),
            "bench": one.bench,
            "minutes": sum(step.step.minutes for step in one.steps if not step.needs),
        }
        for one in (*KINDS.values(), *(kind_in(own) for own in own_kinds().values()))
    ]
    places = {
        layout: [{"place": one, "label": Place(one).label, "sheet": SHEET_FOR.get(one, "")} for one in (Place.VEHICLE, *there)]
        for layout, there in PLACES.items()
    }
    return {"kinds": kinds, "places": places, "pointed_at": complaint_kinds(complaint)}


def _due(step: Step, value: float | None) -> Said | None:
    if step.code != "wheel_nuts" or value is None:
        return None
    return say(
        "Torque the wheel nuts again between {from_km:.0f} and {to_km:.0f} km.",
        from_km=value + NUTS_DUE_KM[0],
        to_km=value + NUTS_DUE_KM[1],
    )
