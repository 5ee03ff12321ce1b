"""A job out of its file: all of it, or nothing and one sentence."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import Q
from django.utils import timezone
from pydantic import ValidationError

from accounts import policy
from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.parts.build import Build
from amber_core.procedures import library
from amber_core.words import NOTHING, Said, say, together
from build_sheet.job_file import (
    FIRST_OF_WORKS,
    FORMAT,
    VERSION,
    FamilyPart,
    HandOverPart,
    JobFile,
    OldJobFile,
    WorkPart,
    WorkParts,
    Written,
    content_hash,
    upgraded,
)
from build_sheet.models import Origin, SignOff, SignOffDocument, Withdrawal
from build_sheet.zipped import LARGEST_ZIP_BYTES, Pictures, unpacked
from driveline_desk.models import JointInspection
from hand_over.models import FollowUp, FollowUpEnd, HandOver
from jobs.models import AxleFact, Job, Station, StationRecord
from jobs.services import lock_numbers, next_number, number_in_use, settle
from parts_wall.models import PartNeed, PartPhoto, PartRecord, QuoteAnswer, QuoteLink, QuoteLinkEnd, WallBuild
from records.writing import Writing
from setup_bench.bench import Bench
from setup_bench.models import (
    Basis,
    BenchFinding,
    ConditionCheck,
    DepthReading,
    InstrumentCheck,
    PatternPhoto,
    PatternReading,
    Reading,
    SleeveStep,
    SpacerTry,
    StrikeOut,
    TorqueReading,
    Trial,
)
from shared.json_in import read_json
from shared.links import new_token
from shared.pictures import picture_in, shrunk_picture
from shared.refusals import Conflict, Refusal, TooLarge
from shared.scope import EVERY, in_shop
from shared.validation import said_of
from stores.editing import store_lists
from stores.models import AxleFamily, SheetRevision
from stores.sheets import LISTS, current_revision, file_revision, sheet_in, without_counts
from vehicles.models import PLACES, SHEET_FOR, Assembly, OdometerReading, Place, Vehicle, has_place
from vehicles.services import fit_assemblies
from work.gears import refuse_no_gears
from work.kept import dumped
from work.models import Area, GearSetRecord, KeptAnswer, SheetAdoption, StepPhoto, StepReading, StepRecord, WayChoice, Work
from work.services import kept_procedure, refresh

_OF_TRIALS = ("conditions", "photos", "patterns", "torques", "depths")
_NOTHING = say("Nothing was imported.")
CHANGED = say("This file was changed after it was written: its hash does not match its content.")
NO_HASH = say("This file has no hash, so it is not known whether it was changed.")


def too_large(size: int, *, zipped: bool = False) -> TooLarge | None:
    """What to say to a file over the limit; None for one that is small enough. A zip with pictures may be larger."""
    most = LARGEST_ZIP_BYTES if zipped else settings.LARGEST_IMPORT_BYTES
    if size <= most:
        return None
    return TooLarge(
        say("The file is {size:.0f} MB; the most is {most:.0f} MB. {nothing}", size=size / 2**20, most=most / 2**20, nothing=_NOTHING),
        code="too_large",
    )


def read_file(content: bytes) -> tuple[JobFile, Said]:
    """Check a file before anything is stored; the second is what is to be said of its hash, empty when it fits.

    Raises
    ------
    TooLarge, Refusal
        With one sentence: too large, cut off, of another kind, newer, or a field that does not fit.
    """
    if (large := too_large(len(content))) is not None:
        raise large
    plain = read_json(content, after=_NOTHING)
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise Refusal(say("This is not an Amber Pinion job file. {nothing}", nothing=_NOTHING), code="other_format")
    version = plain.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise Refusal(say("The file does not give its version. {nothing}", nothing=_NOTHING), code="no_version", field="version")
    if version > VERSION:
        text = say(
            "The file is from a newer release (version {version}; this one reads up to {version2}). {nothing}",
            version=version,
            version2=VERSION,
            nothing=_NOTHING,
        )
        raise Refusal(text, code="newer_version", field="version")
    try:
        if version < FIRST_OF_WORKS:
            old = OldJobFile.model_validate(plain)
            _check_references(old, "")
            found, note = upgraded(old), NO_HASH
        else:
            found = JobFile.model_validate(plain)
            note = NOTHING if found.hash == content_hash(plain) else CHANGED
    except ValidationError as wrong:
        first = wrong.errors()[0]
        path = "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in first["loc"]).lstrip(".")
        raise Refusal(
            say("{path}: {wrong} {nothing}", path=path, wrong=said_of(first), nothing=_NOTHING), code="bad_file", field=path
        ) from None
    for index, work in enumerate(found.works):
        _check_work(found, work, f"works[{index}]." if version >= FIRST_OF_WORKS else "")
    return found, note


def _check_references(found: WorkParts, where: str) -> None:
    trials, readings = {one.id for one in found.trials}, {one.id for one in found.readings}
    sign_offs, steps = {one.id for one in found.sign_offs}, {one.id for one in found.sleeve_steps}
    pointers: list[tuple[str, str, Any, set[Any]]] = [
        *(("readings", "trial", one.trial, trials) for one in found.readings),
        *(("strike_outs", "reading", one.reading, readings) for one in found.strike_outs),
        *(("withdrawals", "sign_off", one.sign_off, sign_offs) for one in found.withdrawals),
        *((part, "trial", one.trial, trials) for part in _OF_TRIALS for one in getattr(found, part)),
        *(("patterns", "photo", one.photo, {photo.id for photo in found.photos}) for one in found.patterns if one.photo),
        *(("sleeve_steps", "takes_back", one.takes_back, steps) for one in found.sleeve_steps if one.takes_back),
        *(
            ("patterns", "replaces", one.replaces, {before.id for before in found.patterns[:at] if before.flank == one.flank})
            for at, one in enumerate(found.patterns)
            if one.replaces
        ),
    ]
    for part, field, target, known in pointers:
        if target not in known:
            text = say(
                "An entry of {part} points to a {kind} that is not in the file ({target}). {nothing}",
                part=part,
                kind=field.replace("_", " "),
                target=target,
                nothing=_NOTHING,
            )
            raise Refusal(text, code="missing_reference", field=f"{where}{part}.{field}")


def _check_work(found: JobFile, work: WorkPart, where: str) -> None:
    _check_references(work, where)
    if not has_place(found.vehicle.layout, work.place):
        raise Refusal(
            say("The file has work on an assembly that this kind of vehicle does not have. {nothing}", nothing=_NOTHING),
            code="bad_file",
            field=f"{where}place",
        )
    try:
        library.read(work.procedure or [])
    except (InvalidInput, TypeError, KeyError, ValueError):
        text = say("The run sheet in this file cannot be read. {nothing}", nothing=_NOTHING)
        raise Refusal(text, code="bad_file", field=f"{where}procedure") from None
    if work.sheet is None:
        if work.trials:
            text = say("The file has trials on the bench, but no spec sheet to judge them by. {nothing}", nothing=_NOTHING)
            raise Refusal(text, code="bad_file", field=f"{where}sheet")
        return
    if SHEET_FOR.get(work.place) != work.sheet.part:
        text = say("The spec sheet in this file is for another part than the work. {nothing}", nothing=_NOTHING)
        raise Refusal(text, code="bad_file", field=f"{where}sheet.part")
    adjusters = work.sheet.carrier_method == "adjusters"
    for trial in work.trials:
        notches = None not in (trial.ring_side_notches, trial.far_side_notches)
        stacks = None not in (trial.ring_side_pieces, trial.far_side_pieces)
        if notches is stacks or notches is not adjusters:
            raise Refusal(
                say("Trial {number} does not fit how this axle is adjusted. {nothing}", number=trial.number, nothing=_NOTHING),
                code="bad_file",
                field=f"{where}trials",
            )
    if adjusters and work.sheet.notch_mm is None:
        text = say("The sheet has adjusters but no travel for one notch. {nothing}", nothing=_NOTHING)
        raise Refusal(text, code="bad_file", field=f"{where}sheet.notch_mm")
    for gears in work.gear_sets:
        try:
            refuse_no_gears(sheet_in(work.sheet.model_dump()), gears.pinion_teeth, gears.ring_teeth)
        except InvalidInput as wrong:
            text = say(
                "{pinion_teeth} and {ring_teeth} teeth do not make a gear set for this axle: {message} {nothing}",
                pinion_teeth=gears.pinion_teeth,
                ring_teeth=gears.ring_teeth,
                message=wrong.message,
                nothing=_NOTHING,
            )
            raise Refusal(text, code="bad_file", field=f"{where}gear_sets") from None


def import_job(writing: Writing, *, content: bytes, vehicle: str = "") -> Job:
    """Store a job from its file.

    Parameters
    ----------
    vehicle : str
        Id of the vehicle here that it is of, or ``new``: the answer where one here looks the same.

    Raises
    ------
    NotAllowed, TooLarge, Refusal, Conflict
        With one sentence; nothing half-written remains. `same_vehicle` asks which vehicle it is of.
    """
    policy.require(writing.by, "import_job")
    content, pictures = unpacked(content)
    found, note = read_file(content)
    if Job.objects.filter(pk=found.job.id).exists():
        raise Conflict(say("Job {number} is already here. {nothing}", number=found.job.number, nothing=_NOTHING), code="here_already")
    try:
        with transaction.atomic():
            return _store(found, note, writing, vehicle, pictures)
    except IntegrityError:
        raise Conflict(
            say("Parts of this file are already here, or are in the file twice. {nothing}", nothing=_NOTHING), code="here_already"
        ) from None
    except InvalidInput as wrong:
        raise Refusal(
            say("The content of this file cannot be shown: {message} {nothing}", message=wrong.message, nothing=_NOTHING),
            code="bad_file",
            field=wrong.field,
        ) from None


def _store(found: JobFile, note: str, writing: Writing, vehicle: str, pictures: Pictures) -> Job:
    card, now = found.job, timezone.now()
    lock_numbers()
    number = next_number() if number_in_use(card.number) else card.number
    plain = card.model_dump(exclude={"id", "number", "created_by"})
    imported = {"imported_by_name": str(writing.by), "imported_at": now, "imported_note": note}
    job = Job(
        pk=card.id, number=number, vehicle=_vehicle(found, vehicle), created_by_name=card.created_by, next_action="", **imported, **plain
    )
    job.search = job.searched
    job.save(force_insert=True)
    states = {Place(one.place): one for one in found.stations}
    Station.objects.bulk_create(
        Station(job=job, place=place, state=states[place].state, note=states[place].note)
        if place in states
        else Station(job=job, place=place)
        for place in PLACES[job.vehicle.layout]
    )
    StationRecord.objects.bulk_create(StationRecord(job=job, **_record(one)) for one in found.station_records)
    AxleFact.objects.bulk_create(AxleFact(job=job, **_record(one)) for one in found.axle_facts)
    works = [_store_work(job, part, pictures) for part in found.works]
    _store_part_records(found, works)
    _store_odometer(found, job)
    for part in found.hand_overs:
        _store_hand_over(part, job)
    for work in works:
        refresh(work)
    job = Job.objects.get(pk=job.pk)
    settle(job)
    Job.objects.filter(pk=job.pk).update(updated_at=card.updated_at)
    job.refresh_from_db()
    return job


def _store_odometer(found: JobFile, job: Job) -> None:
    """Readings of the odometer that are not here yet: every job of a vehicle carries all of them."""
    here = set(OdometerReading.objects.filter(client_id__in=[one.id for one in found.odometer]).values_list("client_id", flat=True))
    OdometerReading.objects.bulk_create(
        OdometerReading(vehicle=job.vehicle, **_record(one)) for one in found.odometer if one.id not in here
    )


def _store_hand_over(part: HandOverPart, job: Job) -> None:
    text = json.dumps(part.page, ensure_ascii=False)
    given = HandOver.objects.create(job=job, text=text, **_record(part, "page", "follow_ups"))
    for one in part.follow_ups:
        fields = one.model_dump(exclude={"text", "end"})
        due = FollowUp.objects.create(hand_over=given, vehicle=job.vehicle, text=one.text.as_text(), **fields)
        if one.end is not None:
            FollowUpEnd.objects.create(follow_up=due, **_record(one.end))


def _vehicle(found: JobFile, answer: str) -> Vehicle:
    """The vehicle of that id when it is here, or the one that was answered; else it is made from the file.

    Raises
    ------
    Conflict
        When one here looks the same and nobody said whether it is.
    """
    part = found.vehicle
    known = Vehicle.objects.filter(pk=part.id, layout=part.layout).first()
    if known is not None:
        return known
    alike = Q(owner__iexact=part.owner, name__iexact=part.name)
    if part.registration:
        alike |= Q(registration__iexact=part.registration)
    same = list(Vehicle.objects.filter(alike, layout=part.layout).order_by("created_at")[:10])
    if answer not in ("", "new"):
        chosen = next((one for one in same if str(one.pk) == answer), None)
        if chosen is None:
            raise Refusal(say("This vehicle is not one that the file can be of. {nothing}", nothing=_NOTHING), field="vehicle")
        return chosen
    if same and answer != "new":
        plain = ("owner", "name", "registration")
        choices = [{"id": str(one.pk), **{name: getattr(one, name) for name in plain}} for one in same]
        text = say("A vehicle here looks the same: {name}, {owner}. Is it that one?", name=same[0].name, owner=same[0].owner)
        raise Conflict(text, code="same_vehicle", field="vehicle", extra={"current": {"vehicles": choices}})
    fields = part.model_dump(exclude={"id"})
    new = {} if _taken(part.id) else {"pk": part.id}
    vehicle = Vehicle.objects.create(**new, **fields)
    fit_assemblies(vehicle)
    return vehicle


def _taken(vehicle: UUID) -> bool:
    """Whether a vehicle of any workshop of the installation has this id."""
    with in_shop(EVERY):
        return bool(Vehicle.objects.filter(pk=vehicle).exists())


def _store_work(job: Job, part: WorkPart, pictures: Pictures) -> Work:
    revision = _revision(part.sheet) if part.sheet is not None else None
    assembly, _ = Assembly.objects.get_or_create(vehicle=job.vehicle, place=part.place)
    if assembly.family_id is None and revision is not None:
        Assembly.objects.filter(pk=assembly.pk).update(family=revision.family)
    made = {"created_by_name": part.created_by, "created_at": part.created_at}
    begun = bool(part.trials or part.steps or part.gear_sets or part.part_records)
    work = Work.objects.create(
        pk=part.id,
        job=job,
        number=part.number,
        kind=part.kind,
        own_title=part.title,
        assembly=assembly,
        sheet_revision=revision,
        procedure=kept_procedure(part.kind, library.before_acts() if part.procedure is None else part.procedure),
        begun=begun,
        next_action="",
        **made,
    )
    GearSetRecord.objects.bulk_create(GearSetRecord(work=work, **_record(one)) for one in part.gear_sets)
    steps = [StepRecord(work=work, step_code=one.step, **_record(one, "step", "readings")) for one in part.steps]
    StepRecord.objects.bulk_create(steps)
    for photo in part.step_photos:
        picture_in(photo.content)
    StepPhoto.objects.bulk_create(StepPhoto(work=work, step_code=one.step, **_record(one, "step")) for one in part.step_photos)
    StepReading.objects.bulk_create(
        StepReading(record=record, **_record(read)) for record, one in zip(steps, part.steps, strict=True) for read in one.readings
    )
    WayChoice.objects.bulk_create(WayChoice(work=work, **_record(one)) for one in part.ways)
    # which revisions the file's own shop had is not known here: both ends of an adoption are the one that came with it
    if revision is not None:
        SheetAdoption.objects.bulk_create(
            SheetAdoption(work=work, before=revision, after=revision, **_record(one, "before", "after")) for one in part.sheet_adoptions
        )
    trials = {one.id: Trial.objects.create(work=work, **_record(one)) for one in part.trials}
    readings = {one.id: Reading(trial=trials[one.trial], **_record(one, "trial")) for one in part.readings}
    Reading.objects.bulk_create(readings.values())
    StrikeOut.objects.bulk_create(StrikeOut(reading=readings[one.reading], **_record(one, "reading")) for one in part.strike_outs)
    _store_bench(part, work, trials)
    _store_desks(part, work)
    _store_wall(part, work, pictures)
    _store_sign_offs(part, work)
    if not work.on_bench:
        return work
    found = Bench(work).verdicts
    missing = together(one.text for one in found.missing).as_text()
    BenchFinding.objects.create(work=work, backlash=found.backlash, pattern=found.pattern, missing=missing)
    return work


def _store_sign_offs(part: WorkPart, work: Work) -> None:
    """What the file says of sign-offs; none of them is this shop's, so the work stays to be signed here."""
    own = {"document", "document_hash", "core_version", "reconstructed", "origin"}
    for one in part.sign_offs:
        signed = SignOff.objects.create(work=work, origin=Origin.FILE, **_record(one, *own))
        if one.document is not None and one.document_hash is not None:
            kept = {"text": one.document, "text_hash": one.document_hash, "core_version": one.core_version}
            SignOffDocument.objects.create(sign_off=signed, reconstructed=one.reconstructed, **kept)
    for gone in part.withdrawals:
        signed = SignOff.objects.get(client_id=gone.sign_off)
        Withdrawal.objects.create(sign_off=signed, **_record(gone, "sign_off"))


def _store_bench(found: WorkPart, work: Work, trials: dict[UUID, Trial]) -> None:
    """What was read beside the backlash."""
    Basis.objects.bulk_create(Basis(work=work, **_record(one)) for one in found.bases)
    ConditionCheck.objects.bulk_create(ConditionCheck(trial=trials[one.trial], **_record(one, "trial")) for one in found.conditions)
    for one in found.photos:
        picture_in(one.content)
    photos = {one.id: PatternPhoto.objects.create(trial=trials[one.trial], **_record(one, "trial")) for one in found.photos}
    patterns: dict[UUID, PatternReading] = {}
    for read in found.patterns:
        leads = {"photo": photos[read.photo] if read.photo else None, "replaces": patterns.get(read.replaces) if read.replaces else None}
        patterns[read.id] = PatternReading.objects.create(trial=trials[read.trial], **leads, **_record(read, "trial", "photo", "replaces"))
    TorqueReading.objects.bulk_create(TorqueReading(trial=trials[one.trial], **_record(one, "trial")) for one in found.torques)
    DepthReading.objects.bulk_create(DepthReading(trial=trials[one.trial], **_record(one, "trial")) for one in found.depths)
    steps: dict[UUID, SleeveStep] = {}
    for step in found.sleeve_steps:
        before = steps.get(step.takes_back) if step.takes_back else None
        steps[step.id] = SleeveStep.objects.create(work=work, takes_back=before, **_record(step, "takes_back"))
    SpacerTry.objects.bulk_create(SpacerTry(work=work, **_record(one)) for one in found.spacer_tries)
    InstrumentCheck.objects.bulk_create(InstrumentCheck(work=work, **_record(one)) for one in found.instrument_checks)


def _store_desks(found: WorkPart, work: Work) -> None:
    """Kept answers of the desks, inspected joints, and findings of the noise finder; their recordings are not in the file."""
    for part in found.ratio_results:
        _keep(work, Area.RATIO, "", part, part.inputs, part.answer)
    for one in found.driveline_results:
        _keep(work, Area.DRIVELINE, one.shaft, one, one.inputs, one.answer)
    for measured in found.bench_results:
        more = {"step_code": measured.step, "summary": dumped(measured.summary)}
        _keep(work, Area.DIFF, measured.tool, measured, measured.inputs, measured.answer, **more)
    for joint in found.joint_inspections:
        if joint.decision != joint.proposed and not joint.note:
            text = say(
                "The decision for joint {joint} differs from the proposed one, and the file does not say why. {nothing}",
                joint=joint.joint,
                nothing=_NOTHING,
            )
            raise Refusal(text, code="bad_file", field="joint_inspections")
    JointInspection.objects.bulk_create(
        JointInspection(work=work, **_record(one, "felt"), felt=payload.plain(one.felt)) for one in found.joint_inspections
    )
    for finding in found.noise_findings:
        felt = finding.kind == "felt"
        asked, answer = (finding.felt, finding.felt_answer) if felt else (finding.recorded, finding.recorded_answer)
        if asked is None or answer is None:
            text = say("The finding “{title}” has no inputs or no answer. {nothing}", title=finding.title, nothing=_NOTHING)
            raise Refusal(text, code="bad_file", field="noise_findings")
        _keep(work, Area.NOISE, finding.kind, finding, asked, answer)


def _store_wall(found: WorkPart, work: Work, pictures: Pictures) -> None:
    """The Parts wall; of a file without its pictures, what was drawn on them is kept, and the pictures are left out."""
    for told in found.wall_builds:
        Build(**told.facts)  # type: ignore[arg-type]
    WallBuild.objects.bulk_create(WallBuild(work=work, **_record(one)) for one in found.wall_builds)
    for photo in found.part_photos:
        if photo.id in pictures:
            picture = shrunk_picture(pictures[photo.id], f"pictures/{photo.id}.jpg")
            PartPhoto.objects.create(work=work, content=picture.content, small=picture.small, **_record(photo))
    PartNeed.objects.bulk_create(PartNeed(work=work, **_record(one)) for one in found.part_needs)
    for quote in found.quotes:
        link = QuoteLink.objects.create(work=work, token_hash=new_token(1)[1], **_record(quote, "end", "answer"))
        if quote.end is not None:
            QuoteLinkEnd.objects.create(link=link, **_record(quote.end))
        if quote.answer is not None:
            said = quote.answer.model_dump(exclude={"id"})
            QuoteAnswer.objects.create(link=link, client_id=quote.answer.id, **said)


def _store_part_records(found: JobFile, works: list[Work]) -> None:
    """What happened to parts, in the order that it happened: works on one assembly share a wall, and undo one another's records."""
    told = [
        (one.at, place, work, one) for work, part in zip(works, found.works, strict=True) for place, one in enumerate(part.part_records)
    ]
    rows: dict[UUID, PartRecord] = {}
    for _, _, work, one in sorted(told, key=lambda row: row[:2]):
        before = rows.get(one.undoes) if one.undoes else None
        if one.undoes and before is None:
            text = say("Something is undone in this file that is not in it. {nothing}", nothing=_NOTHING)
            raise Refusal(text, code="bad_file", field="part_records")
        fields = _record(one, "undoes", "ways") | {"ways": None if one.ways is None else payload.plain(one.ways)}
        rows[one.id] = PartRecord.objects.create(work=work, undoes=before, **fields)


def _keep(work: Work, area: Area, about: str, part: Any, inputs: Any, answer: Any, **more: Any) -> None:
    """A kept answer as the file has it."""
    plain = {"title": part.title, "engine_version": part.engine_version, "inputs": dumped(inputs), "answer": dumped(answer)}
    KeptAnswer.objects.create(work=work, area=area, about=about, client_id=part.id, by_name=part.by, at=part.at, **plain, **more)


def _record(part: Written, *left_out: str) -> dict[str, Any]:
    """The fields of a record; the account stays empty, since a name in a file is no login here."""
    plain = part.model_dump(exclude={"id", "by", "at", *left_out})
    # a picture would come out encoded again, as the file has it
    plain |= {name: getattr(part, name) for name in plain if isinstance(getattr(part, name), bytes)}
    return {"client_id": part.id, "by_name": part.by, "at": part.at, **plain}


def _revision(part: FamilyPart) -> SheetRevision:
    """The sheet as the file has it, below the shop's own family of that code; a family the Stores do not have is made from the file."""
    sheet = sheet_in(part.model_dump())
    family = AxleFamily.objects.coded(part.code)
    if family is not None:
        return file_revision(family, sheet, "Imported job")
    family = AxleFamily.objects.create(**part.model_dump(exclude=set(LISTS)))
    plain = asdict(without_counts(sheet))
    store_lists(family, {name: plain[name] for name in LISTS})
    return current_revision(family)
