"""The API: one NinjaAPI, a router an area, and one shape for every error."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.db import DataError, IntegrityError, InterfaceError, InternalError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, RawPostDataException, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError
from ninja.parser import Parser
from ninja.security import django_auth
from psycopg.errors import CheckViolation, UniqueViolation

from accounts.api import router as accounts
from amber_core.errors import InvalidInput, UnknownComputation
from amber_core.words import Said, say
from build_sheet.api import router as build_sheet
from compute.api import router as compute
from config.gate import is_away, refusal
from diff_bench.api import router as diff_bench
from driveline_desk.api import router as driveline_desk
from floor.api import router as floor
from glossary.api import router as glossary
from hand_over.api import router as hand_over
from noise_finder.api import router as noise_finder
from parts_wall.api import router as parts_wall
from ratio_desk.api import router as ratio_desk
from setup_bench.api import router as setup_bench
from shared.json_in import read_json
from shared.refusals import Refusal
from shared.validation import said_of
from stores.api import router as stores
from vehicles.api import router as vehicles
from work.api import router as work


class OneParser(Parser):
    """Every body is read like an imported file: NaN, endless numbers and unstorable characters get a sentence."""

    def parse_body(self, request: HttpRequest) -> Any:
        return read_json(request.body)


api = NinjaAPI(title=say("Amber Pinion"), version="1", auth=django_auth, parser=OneParser(), docs_url=None, openapi_url=None)
for router in (
    accounts,
    glossary,
    stores,
    vehicles,
    floor,
    work,
    hand_over,
    ratio_desk,
    driveline_desk,
    noise_finder,
    parts_wall,
    diff_bench,
    setup_bench,
    build_sheet,
    compute,
):
    api.add_router("", router)


_log = logging.getLogger(__name__)


def _refuse(request: HttpRequest, status: int, code: str, message: Said, field: str = "") -> HttpResponse:
    body = {"error": {"code": code, "message": message.told(), "field": field}}
    return api.create_response(request, body, status=status)


@api.exception_handler(Refusal)
def _refusal(request: HttpRequest, wrong: Refusal) -> HttpResponse:
    return api.create_response(request, wrong.as_dict(), status=wrong.status)


@api.exception_handler(InvalidInput)
def _invalid(request: HttpRequest, wrong: InvalidInput) -> HttpResponse:
    return api.create_response(request, wrong.as_dict(), status=404 if isinstance(wrong, UnknownComputation) else 422)


@api.exception_handler(ValidationError)
def _validation(request: HttpRequest, wrong: ValidationError) -> HttpResponse:
    first: dict[str, Any] = wrong.errors[0]
    place = [str(part) for part in first["loc"] if part not in ("body", "data", "path", "query")]
    what = Said.of(place[-1].replace("_", " ").capitalize()) if place else say("The input")
    return _refuse(request, 422, "bad_input", say("{what}: {wrong}", what=what, wrong=said_of(first)), ".".join(place))


@api.exception_handler(AuthenticationError)
def _signed_out(request: HttpRequest, wrong: AuthenticationError) -> HttpResponse:
    return _refuse(request, 401, "signed_out", say("You are signed out. Sign in again; what you typed is kept."))


@api.exception_handler(Http404)
def _missing(request: HttpRequest, wrong: Http404) -> HttpResponse:
    return _refuse(request, 404, "not_found", say("Not found. The address may have been mistyped."))


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, wrong: RequestDataTooBig) -> HttpResponse:
    return _refuse(request, 413, "too_large", say("That is too much text. Nothing was stored."))


@api.exception_handler(Throttled)
def _throttled(request: HttpRequest, wrong: Throttled) -> HttpResponse:
    return _refuse(request, 429, "too_many", say("Too many computations in a short time. Wait a minute and try again."))


@api.exception_handler(MultiPartParserError)
@api.exception_handler(UnreadablePostError)
@api.exception_handler(SuspiciousOperation)
def _unreadable(request: HttpRequest, wrong: Exception) -> HttpResponse:
    return _refuse(request, 400, "bad_request", say("The request was cut off or cannot be read. Nothing was stored."))


@api.exception_handler(RawPostDataException)
def _a_form(request: HttpRequest, wrong: RawPostDataException) -> HttpResponse:
    return _refuse(request, 415, "unsupported", say("This address takes JSON, not a form."))


@api.exception_handler(DataError)
def _no_such_figure(request: HttpRequest, wrong: DataError) -> HttpResponse:
    _log.warning("A figure was refused by the database", exc_info=wrong)
    return _refuse(request, 422, "bad_input", say("A figure or text is too large to be stored."))


@api.exception_handler(IntegrityError)
def _there_already(request: HttpRequest, wrong: IntegrityError) -> HttpResponse:
    """An id that an older row has: it was written before every write had its envelope."""
    rule = getattr(getattr(wrong.__cause__, "diag", None), "constraint_name", None) or ""
    if "client_id" in rule or (isinstance(wrong.__cause__, UniqueViolation) and rule.endswith("_pkey")):  # ids are made by whoever writes
        return _refuse(request, 409, "id_reused", say("This was already stored. Load the page again to see it."))
    if isinstance(wrong.__cause__, CheckViolation):  # what a field's own check let through, the database did not
        _log.warning("%s %s broke %s", request.method, request.path, rule)
        return _refuse(request, 422, "bad_input", say("A field is empty or a figure is out of range. Nothing was stored."))
    return _failed(request, wrong)


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
@api.exception_handler(InternalError)
def _away(request: HttpRequest, wrong: Exception) -> HttpResponse:
    """The database stopped, starts again, or is being switched over: nothing was acknowledged, and the same request may be sent again."""
    if not is_away(wrong):
        return _failed(request, wrong)
    _log.warning("%s %s: %s", request.method, request.path, str(wrong).strip().splitlines()[-1:])
    response = refusal(503)
    response["Retry-After"] = "2"
    return response


@api.exception_handler(Exception)
def _failed(request: HttpRequest, wrong: Exception) -> HttpResponse:
    _log.error("%s %s failed", request.method, request.path, exc_info=wrong)
    return refusal(500)


@api.exception_handler(HttpError)
def _http(request: HttpRequest, wrong: HttpError) -> HttpResponse:
    if isinstance(wrong.__cause__, Refusal):
        return _refusal(request, wrong.__cause__)
    if wrong.status_code == 403:
        return _refuse(request, 403, "stale_page", say("This page is out of date. Load it again; what you typed is kept."))
    message = say("The request was cut off or is not JSON.") if wrong.status_code == 400 else say("This cannot be done.")
    return _refuse(request, wrong.status_code, "bad_request", message)
