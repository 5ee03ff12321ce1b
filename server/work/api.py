"""Jobs and their pieces of work: the card, the map, the gear set, the run sheet."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile

from amber_core.gearset.identify import GearSetClues
from amber_core.words import say
from jobs import services as jobs
from jobs.schemas import AxleFactIn, JobEdit, StationIn
from records.writing import answered, file_hash, write
from shared.pictures import LARGEST_BYTES, kept_picture, picture_in
from shared.refusals import Conflict, Refusal
from shared.schemas import ErrorOut, Written
from vehicles.schemas import PlaceName
from vehicles.services import place_of
from work import services, shaping
from work.models import StepPhoto
from work.present import blocks_out, find_job, find_work, job_out, kinds_out, library_out, visits_out, work_out
from work.schemas import (
    BlockOut,
    GearSetIn,
    JobIn,
    JobOut,
    KindsOut,
    LibraryOut,
    OwnKindIn,
    ShapeIn,
    SheetAdoptIn,
    StepBackIn,
    StepBeginIn,
    StepPassIn,
    StepPhotoIn,
    StepSkipIn,
    VisitOut,
    WayIn,
    WorkEdit,
    WorkIn,
    WorkOut,
)

router = Router(tags=["work"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


def _job_write(
    request: HttpRequest, data: Written, command: str, job_id: UUID, do: Callable[..., Any], *, target: str = "", status: int = 201
) -> HttpResponse:
    """A write answered with the job."""
    shown = {"show": lambda: job_out(find_job(job_id)), "out": JobOut, "status": status}
    return write(request, data, command=command, target=target or job_id, do=do, **shown)  # type: ignore[arg-type]


def _work_write(
    request: HttpRequest, data: Written, command: str, work_id: UUID, do: Callable[..., Any], *, target: str = "", status: int = 201
) -> HttpResponse:
    """A write answered with the piece of work."""
    shown = {"show": lambda: work_out(find_work(work_id)), "out": WorkOut, "status": status}
    return write(request, data, command=command, target=target or work_id, do=do, **shown)  # type: ignore[arg-type]


def _step_write(request: HttpRequest, data: Written, command: str, work_id: UUID, code: str, do: Callable[..., Any]) -> HttpResponse:
    """A write to one step of the run sheet."""
    given = data.fields()
    return _work_write(
        request, data, command, work_id, lambda writing: do(writing, work_id=work_id, code=code, **given), target=f"{work_id} {code}"
    )


@router.post("/jobs", response={201: JobOut, **_REFUSALS}, operation_id="job_create")
def job_create(request: HttpRequest, data: JobIn) -> HttpResponse:
    """A new job with its first piece of work."""
    given = jobs.CardGiven(**{name: getattr(data, name) for name in ("customer", "complaint", "use", "use_note", "promised_on")})
    rest = {name: getattr(data, name) for name in ("vehicle_id", "vehicle", "layout", "odometer", "sure")}
    rest["first"] = _booked(data.id, data)
    rest["more"] = [services.WorkGiven(id=one.id, place=one.place, kind=one.kind, family=one.family) for one in data.more]
    return _job_write(request, data, "job_create", data.id, lambda writing: services.book_job(writing, job_id=data.id, given=given, **rest))


@router.get("/jobs/{uuid:job_id}", response={200: JobOut, 404: ErrorOut}, operation_id="job")
def job(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """All of a job's page."""
    return answered(JobOut, job_out(find_job(job_id)))


@router.patch("/jobs/{uuid:job_id}", response={200: JobOut, **_REFUSALS}, operation_id="job_edit")
def job_edit(request: HttpRequest, job_id: UUID, data: JobEdit) -> HttpResponse:
    """Change the card; 409 with what is stored now when somebody was faster."""
    changes = {field: value for field, value in data.fields("version").items() if value is not None}
    try:
        return _job_write(
            request,
            data,
            "job_edit",
            job_id,
            lambda writing: jobs.edit_job(writing, job_id=job_id, version=data.version, changes=changes),
            status=200,
        )
    except Conflict as conflict:
        if conflict.code == "conflict":
            conflict.extra["current"] = JobOut.model_validate(job_out(find_job(job_id))).model_dump(mode="json")
        raise


@router.put("/jobs/{uuid:job_id}/stations/{place}", response={200: JobOut, **_REFUSALS}, operation_id="station_set")
def station_set(request: HttpRequest, job_id: UUID, place: PlaceName, data: StationIn) -> HttpResponse:
    """How a part of the driveline was found; 409 when somebody else has just said."""
    given = data.fields()
    return _job_write(
        request,
        data,
        "station_set",
        job_id,
        lambda writing: jobs.set_station(writing, job_id=job_id, place=place, **given),
        target=f"{job_id} {place}",
        status=200,
    )


@router.post("/jobs/{uuid:job_id}/axle-facts", response={201: JobOut, **_REFUSALS}, operation_id="axle_fact_record")
def axle_fact_record(request: HttpRequest, job_id: UUID, data: AxleFactIn) -> HttpResponse:
    """What is known of one end of the vehicle: tyre and teeth."""
    given = jobs.EndGiven(**data.fields())
    return _job_write(request, data, "axle_fact_record", job_id, lambda writing: jobs.record_axle_fact(writing, job_id=job_id, given=given))


@router.post("/jobs/{uuid:job_id}/work", response={201: JobOut, **_REFUSALS}, operation_id="work_add")
def work_add(request: HttpRequest, job_id: UUID, data: WorkIn) -> HttpResponse:
    """One more piece of work."""
    given = _booked(data.id, data)
    return _job_write(request, data, "work_add", job_id, lambda writing: services.add_work(writing, job_id=job_id, given=given))


def _booked(work_id: UUID, data: JobIn | WorkIn) -> services.WorkGiven:
    """A piece of work on the place that was given, or on the axle of an end."""
    if (data.place is None) == (data.axle is None):
        raise Refusal(say("Choose the part of the vehicle that the work is on."), field="place")
    place = data.place or place_of(data.axle or "rear")
    return services.WorkGiven(id=work_id, place=place, kind=data.kind, family=data.family, field="place" if data.place else "axle")


@router.get("/kinds", response=KindsOut, operation_id="kinds")
def kinds(request: HttpRequest, complaint: Annotated[str, Query(max_length=2000)] = "") -> dict[str, Any]:
    """The kinds of work that can be booked, and those that a complaint points at."""
    return kinds_out(complaint)


@router.get("/vehicles/{uuid:vehicle_id}/visits", response=list[VisitOut], operation_id="vehicle_visits")
def vehicle_visits(request: HttpRequest, vehicle_id: UUID) -> list[dict[str, Any]]:
    """Every job of a vehicle."""
    return visits_out(vehicle_id)


@router.get("/work/{uuid:work_id}", response={200: WorkOut, 404: ErrorOut}, operation_id="work")
def work(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """One piece of work with its run sheet."""
    return answered(WorkOut, work_out(find_work(work_id)))


@router.patch("/work/{uuid:work_id}", response={200: WorkOut, **_REFUSALS}, operation_id="work_edit")
def work_edit(request: HttpRequest, work_id: UUID, data: WorkEdit) -> HttpResponse:
    """Change what the work is on; 409 when somebody was faster."""
    given = data.fields()
    return _work_write(
        request, data, "work_edit", work_id, lambda writing: services.edit_work(writing, work_id=work_id, **given), status=200
    )


@router.post("/work/{uuid:work_id}/sheet-revision", response={201: WorkOut, **_REFUSALS}, operation_id="sheet_adopt")
def sheet_adopt(request: HttpRequest, work_id: UUID, data: SheetAdoptIn) -> HttpResponse:
    """Judge the work by another revision of its sheet from now on, with a reason."""
    given = data.fields()
    return _work_write(request, data, "sheet_adopt", work_id, lambda writing: services.adopt_sheet(writing, work_id=work_id, **given))


@router.post("/work/{uuid:work_id}/ways", response={201: WorkOut, **_REFUSALS}, operation_id="way_choose")
def way_choose(request: HttpRequest, work_id: UUID, data: WayIn) -> HttpResponse:
    """Which of several ways the work is done in, with the reason."""
    given = data.fields()
    return _work_write(request, data, "way_choose", work_id, lambda writing: services.choose_way(writing, work_id=work_id, **given))


@router.post("/work/{uuid:work_id}/gear-set", response={201: WorkOut, **_REFUSALS}, operation_id="gear_set_record")
def gear_set_record(request: HttpRequest, work_id: UUID, data: GearSetIn) -> HttpResponse:
    """Keep what was counted."""
    teeth: dict[str, Any] = {} if data.by_turns else {"pinion_teeth": data.pinion_teeth, "ring_teeth": data.ring_teeth}
    clues = GearSetClues(**teeth, **data.fields("pinion_teeth", "ring_teeth", "by_turns"))
    chosen = (data.pinion_teeth, data.ring_teeth)
    return _work_write(
        request,
        data,
        "gear_set_record",
        work_id,
        lambda writing: services.record_gear_set(writing, work_id=work_id, clues=clues, chosen=chosen),
    )


@router.get("/kinds/{kind}/library", response={200: LibraryOut, 422: ErrorOut}, operation_id="kind_library")
def kind_library(request: HttpRequest, kind: str) -> dict[str, Any]:
    """The steps of a kind of work, and what the shop adds."""
    return library_out(kind)


@router.get("/blocks", response=list[BlockOut], operation_id="blocks")
def blocks(request: HttpRequest) -> list[dict[str, Any]]:
    """What a kind of work can be put together from."""
    return blocks_out()


@router.put("/kinds/{kind}", response={200: LibraryOut, **_REFUSALS}, operation_id="own_kind")
def own_kind(request: HttpRequest, kind: str, data: OwnKindIn) -> HttpResponse:
    """A kind of the shop's own, put together from blocks; its code begins with own_."""
    return write(
        request,
        data,
        command="own_kind",
        target=kind,
        do=lambda writing: shaping.make_kind(
            writing, code=kind, number=data.number, reason=data.reason, given=data.fields("number", "reason")
        ),
        show=lambda: library_out(kind),
        out=LibraryOut,
        status=200,
    )


@router.put("/kinds/{kind}/library", response={200: LibraryOut, **_REFUSALS}, operation_id="kind_shape")
def kind_shape(request: HttpRequest, kind: str, data: ShapeIn) -> HttpResponse:
    """What the shop adds to a kind from now on; work that was booked keeps the steps that it began with."""
    return write(
        request,
        data,
        command="kind_shape",
        target=kind,
        do=lambda writing: shaping.shape_kind(
            writing, kind=kind, number=data.number, reason=data.reason, content=data.shape.model_dump(mode="json")
        ),
        show=lambda: library_out(kind),
        out=LibraryOut,
        status=200,
    )


@router.post("/work/{uuid:work_id}/steps/{code}/pass", response={201: WorkOut, **_REFUSALS}, operation_id="step_pass")
def step_pass(request: HttpRequest, work_id: UUID, code: str, data: StepPassIn) -> HttpResponse:
    """Pass a step of the run sheet."""
    return _step_write(request, data, "step_pass", work_id, code, services.pass_step)


@router.post("/work/{uuid:work_id}/steps/{code}/begin", response={201: WorkOut, **_REFUSALS}, operation_id="step_begin")
def step_begin(request: HttpRequest, work_id: UUID, code: str, data: StepBeginIn) -> HttpResponse:
    """Start a clock, or park the work."""
    return _step_write(request, data, "step_begin", work_id, code, services.begin_step)


@router.post("/work/{uuid:work_id}/steps/{code}/skip", response={201: WorkOut, **_REFUSALS}, operation_id="step_skip")
def step_skip(request: HttpRequest, work_id: UUID, code: str, data: StepSkipIn) -> HttpResponse:
    """Leave a step out, or cut its clock short."""
    return _step_write(request, data, "step_skip", work_id, code, services.skip_step)


@router.post("/work/{uuid:work_id}/steps/{code}/photos", response={201: WorkOut, 413: ErrorOut, **_REFUSALS}, operation_id="step_photo_add")
def step_photo_add(request: HttpRequest, work_id: UUID, code: str, data: Form[StepPhotoIn], file: File[UploadedFile]) -> HttpResponse:
    """A picture taken at a step."""
    content = file.read(LARGEST_BYTES + 1)
    picture = picture_in(content, "file")
    return write(
        request,
        data,
        command="step_photo_add",
        target=f"{work_id}/{code}",
        do=lambda writing: services.add_photo(writing, work_id=work_id, code=code, picture=picture),
        show=lambda: work_out(find_work(work_id)),
        out=WorkOut,
        more=file_hash(content),
    )


@router.get("/step-photos/{uuid:photo_id}", operation_id="step_photo", include_in_schema=False)
def step_photo(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture itself; it never changes."""
    kept = StepPhoto.objects.filter(client_id=photo_id).first()
    if kept is None:
        raise Http404
    return kept_picture(kept.content, kept.media_type)


@router.post("/work/{uuid:work_id}/steps/{code}/take-back", response={201: WorkOut, **_REFUSALS}, operation_id="step_take_back")
def step_take_back(request: HttpRequest, work_id: UUID, code: str, data: StepBackIn) -> HttpResponse:
    """Take a step back."""
    return _step_write(request, data, "step_take_back", work_id, code, services.take_back_step)
