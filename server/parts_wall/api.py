"""The Parts wall of a piece of work over the API."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import File, Form, Router, UploadedFile

from accounts.models import Shop
from accounts.policy import for_export
from parts_wall import paper, quotes, services
from parts_wall.kept import wall_answer
from parts_wall.models import PartPhoto, QuoteLink
from parts_wall.present import answer_out, wall_out
from parts_wall.schemas import (
    AnnounceIn,
    BackIn,
    BuildIn,
    LookIn,
    NeedAllIn,
    NeedIn,
    OffIn,
    PartPhotoIn,
    PiecesIn,
    QuoteAnswerIn,
    QuoteEndIn,
    QuoteIn,
    QuoteMadeOut,
    SharedQuoteOut,
    UndoIn,
    WallOut,
)
from parts_wall.wall import Wall, find_wall
from records.writing import Writing, answered, bringing, file_hash, write
from shared.links import ToldOnce
from shared.pictures import LARGEST_CAMERA_BYTES, kept_picture, shrunk_picture
from shared.schemas import ErrorOut, Written

router = Router(tags=["parts_wall"])

_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 413: ErrorOut, 422: ErrorOut}
_WALL = {201: WallOut, **_REFUSALS}


def _wall_write(
    request: HttpRequest, data: Written, command: str, work_id: UUID, do: Callable[[Writing], Wall | None], *, more: Any = None
) -> HttpResponse:
    """A write answered with the whole wall, which is read again only where the write did not bring it along."""
    done, wall = bringing(do, lambda: find_wall(work_id))
    return write(request, data, command=command, target=work_id, do=done, show=lambda: wall_out(wall()), out=WallOut, more=more)


@router.get("/work/{uuid:work_id}/parts", response={200: WallOut, 404: ErrorOut}, operation_id="parts_wall")
def parts_wall(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """What is off, what was found, what has to be got, and the way back."""
    return wall_answer(work_id)


@router.post("/work/{uuid:work_id}/parts/build", response=_WALL, operation_id="parts_build")
def parts_build(request: HttpRequest, work_id: UUID, data: BuildIn) -> HttpResponse:
    """How the assembly is built."""
    given = data.fields()
    return _wall_write(request, data, "parts_build", work_id, lambda writing: services.tell_build(writing, work_id=work_id, **given))


@router.post("/work/{uuid:work_id}/parts/off", response=_WALL, operation_id="part_off")
def part_off(request: HttpRequest, work_id: UUID, data: OffIn) -> HttpResponse:
    """A part is off, or what was said of it is corrected."""
    taken = services.Taken(**data.fields("key", "replaces", "sure"))
    return _wall_write(
        request,
        data,
        "part_off",
        work_id,
        lambda writing: services.take_off(writing, work_id=work_id, key=data.key, given=taken, replaces=data.replaces, sure=data.sure),
    )


@router.post("/work/{uuid:work_id}/parts/photos", response=_WALL, operation_id="part_photo_add")
def part_photo_add(request: HttpRequest, work_id: UUID, data: Form[PartPhotoIn], file: File[UploadedFile]) -> HttpResponse:
    """A picture of a part."""
    content = file.read(LARGEST_CAMERA_BYTES + 1)
    picture = shrunk_picture(content)
    return _wall_write(
        request,
        data,
        "part_photo_add",
        work_id,
        lambda writing: services.add_photo(writing, work_id=work_id, key=data.key, picture=picture),
        more=file_hash(content),
    )


@router.post("/work/{uuid:work_id}/parts/looks", response=_WALL, operation_id="part_look")
def part_look(request: HttpRequest, work_id: UUID, data: LookIn) -> HttpResponse:
    """What was found on a part and what is decided."""
    seen = services.Seen(**data.fields("key"))
    return _wall_write(
        request, data, "part_look", work_id, lambda writing: services.look_at(writing, work_id=work_id, key=data.key, seen=seen)
    )


@router.post("/work/{uuid:work_id}/parts/pieces", response=_WALL, operation_id="part_pieces")
def part_pieces(request: HttpRequest, work_id: UUID, data: PiecesIn) -> HttpResponse:
    """How many pieces of a broken part are missing."""
    given = data.fields()
    return _wall_write(request, data, "part_pieces", work_id, lambda writing: services.count_pieces(writing, work_id=work_id, **given))


@router.post("/work/{uuid:work_id}/parts/back", response=_WALL, operation_id="part_back")
def part_back(request: HttpRequest, work_id: UUID, data: BackIn) -> HttpResponse:
    """A part is on again, a new one in its place, or it stays out."""
    given = data.fields()
    return _wall_write(request, data, "part_back", work_id, lambda writing: services.put_back(writing, work_id=work_id, **given))


@router.post("/work/{uuid:work_id}/parts/undo", response=_WALL, operation_id="part_undo")
def part_undo(request: HttpRequest, work_id: UUID, data: UndoIn) -> HttpResponse:
    """A record of this wall is taken back; it stays readable."""
    return _wall_write(request, data, "part_undo", work_id, lambda writing: services.undo(writing, work_id=work_id, record_id=data.record))


@router.post("/work/{uuid:work_id}/parts/needs", response=_WALL, operation_id="part_need")
def part_need(request: HttpRequest, work_id: UUID, data: NeedIn) -> HttpResponse:
    """A line of the parts list, new or changed."""
    wanted = services.Wanted(**data.fields("line", "version"))
    return _wall_write(
        request,
        data,
        "part_need",
        work_id,
        lambda writing: services.want(writing, work_id=work_id, line=data.line, wanted=wanted, version=data.version),
    )


@router.post("/work/{uuid:work_id}/parts/needs/proposed", response=_WALL, operation_id="part_need_all")
def part_need_all(request: HttpRequest, work_id: UUID, data: NeedAllIn) -> HttpResponse:
    """Proposed parts onto the list."""
    return _wall_write(request, data, "part_need_all", work_id, lambda writing: services.want_all(writing, work_id=work_id, keys=data.keys))


@router.post("/work/{uuid:work_id}/parts/announced", response=_WALL, operation_id="parts_announced")
def parts_announced(request: HttpRequest, work_id: UUID, data: AnnounceIn) -> HttpResponse:
    """How many writes of this wall a device still holds."""
    return _wall_write(
        request, data, "parts_announced", work_id, lambda writing: services.announce(writing, work_id=work_id, waiting=data.waiting)
    )


@router.get("/part-photos/{uuid:photo_id}", operation_id="part_photo", include_in_schema=False)
def part_photo(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture; it never changes."""
    return _picture(PartPhoto.objects.filter(client_id=photo_id).defer("small").first())


@router.get("/part-photos/{uuid:photo_id}/small", operation_id="part_photo_small", include_in_schema=False)
def part_photo_small(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture, small."""
    return _picture(PartPhoto.objects.filter(client_id=photo_id).defer("content").first(), small=True)


def _picture(photo: PartPhoto | None, *, small: bool = False) -> HttpResponse:
    if photo is None:
        raise Http404
    return kept_picture(photo.small if small else photo.content, "image/jpeg")


@router.get("/work/{uuid:work_id}/parts/order.csv", operation_id="parts_order_csv", include_in_schema=False, auth=for_export)
def parts_order_csv(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The parts list as CSV, by supplier."""
    wall = find_wall(work_id)
    return _download(paper.order_csv(wall).encode(), "text/csv; charset=utf-8", f"parts-{wall.work.job.number}.csv")


@router.get("/work/{uuid:work_id}/parts/order.pdf", operation_id="parts_order_pdf", include_in_schema=False)
def parts_order_pdf(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The parts list as PDF, by supplier."""
    wall = find_wall(work_id)
    return _download(paper.order_pdf(wall), "application/pdf", f"parts-{wall.work.job.number}.pdf")


@router.get("/work/{uuid:work_id}/parts/labels.pdf", operation_id="parts_labels", include_in_schema=False)
def parts_labels(request: HttpRequest, work_id: UUID, first: int = 1, count: int = 24) -> HttpResponse:
    """Labels for bags and trays, each with its number and a QR code that leads to this wall."""
    wall = find_wall(work_id)
    page = request.build_absolute_uri(f"/jobs/{wall.work.job_id}/work/{wall.work.pk}/parts")
    content = paper.labels_pdf(wall, page, first=min(max(first, 1), 9000), count=min(max(count, 1), 96))
    return _download(content, "application/pdf", f"labels-{wall.work.job.number}.pdf")


def _download(content: bytes, kind: str, name: str) -> HttpResponse:
    return HttpResponse(content, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.post("/work/{uuid:work_id}/parts/quotes", response={201: QuoteMadeOut, **_REFUSALS}, operation_id="quote_make")
def quote_make(request: HttpRequest, work_id: UUID, data: QuoteIn) -> HttpResponse:
    """A link for the customer: what was found, the ways and their prices, yes or no."""
    made = ToldOnce()
    given = data.fields()

    return write(
        request,
        data,
        command="quote_make",
        target=work_id,
        do=lambda writing: made.keep(quotes.make_link(writing, work_id=work_id, **given)),
        show=made.told,
        out=QuoteMadeOut,
    )


@router.post("/quote-links/{uuid:link_id}/end", response=_WALL, operation_id="quote_end")
def quote_end(request: HttpRequest, link_id: UUID, data: QuoteEndIn) -> HttpResponse:
    """A link is called back: from now on it shows nothing."""
    return write(
        request,
        data,
        command="quote_end",
        target=link_id,
        do=lambda writing: quotes.call_back(writing, link_id=link_id),
        show=lambda: wall_out(find_wall(quotes.work_of(link_id))),
        out=WallOut,
    )


@router.get("/shared-quotes/{token}", response={200: SharedQuoteOut, 404: ErrorOut}, operation_id="shared_quote", auth=None)
def shared_quote(request: HttpRequest, token: str) -> HttpResponse:
    """What a link shows, without a login."""
    return answered(SharedQuoteOut, _shared(quotes.lent(token)))


@router.get("/shared-quotes/{token}/photos/{uuid:photo_id}", operation_id="shared_quote_photo", auth=None, include_in_schema=False)
def shared_quote_photo(request: HttpRequest, token: str, photo_id: UUID) -> HttpResponse:
    """A picture that a link shows."""
    return _picture(quotes.lent_photo(token, photo_id))


@router.post("/shared-quotes/{token}/answer", response={201: SharedQuoteOut, **_REFUSALS}, operation_id="shared_quote_answer", auth=None)
def shared_quote_answer(request: HttpRequest, token: str, data: QuoteAnswerIn) -> HttpResponse:
    """Yes or no to each line, once."""
    quotes.answer(token, client_id=data.client_id, answers=data.answers, name=data.name, note=data.note)
    return answered(SharedQuoteOut, _shared(quotes.lent(token)), 201)


def _shared(link: QuoteLink) -> dict[str, Any]:
    job = link.work.job
    return {
        "shop_name": Shop.get().name,
        "vehicle": job.vehicle.name,
        "number": job.number,
        "intro": link.document["intro"],
        "at": link.at,
        "expires_at": link.expires_at,
        "tax_pct": link.document["tax_pct"],
        "lines": link.document["lines"],
        "answer": answer_out(getattr(link, "answer", None)),
    }
