"""Every computation of the core's registry as POST /compute/<name>, described from the core's own dataclasses."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Router
from ninja.throttling import AuthRateThrottle
from pydantic import TypeAdapter

from amber_core import registry
from amber_core.errors import InvalidInput, UnknownComputation
from amber_core.words import say
from records.allowance import take
from shared.json_in import read_json
from shared.refusals import Refusal
from shared.schemas import ErrorOut


class SharedRate(AuthRateThrottle):
    """So many computations for each login, counted over every worker and web server together."""

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether this one more is within the rate."""
        key = self.get_cache_key(request)
        return key is None or self.num_requests is None or take(key, most=self.num_requests, span_s=self.duration or 60)

    def wait(self) -> float | None:
        """The whole span, at most."""
        return self.duration


RATE = SharedRate(settings.COMPUTE_RATE)
OF_THE_SCREENS = {
    "gearset.identify",
    "driveline.inspect_joint",
    "depth.start",
    "torque.plan",
    "heat.judge",
    "speed.check",
    "quote.compare",
    "parts.look",
    "clutchpack.order",
    "clutchpack.shims",
    "locker.gap",
    "runout.assess",
    "endplay.shims",
    "fit.press",
    "fit.clearance",
    "fit.land",
    "bearing.compare",
    "bearing.full_complement",
    "halfshaft.home",
    "shaft.engagement",
    "tube.register",
    "nut.castle",
    "gasket.template",
    "torque.turning",
}
"""What the application's own pages ask for, and its schema therefore describes; docs/computations.openapi.json describes every one."""
router = Router(tags=["compute"], throttle=RATE)


def _answer(request: HttpRequest, name: str) -> HttpResponse:
    try:
        payload = read_json(request.body)
    except Refusal as wrong:
        raise InvalidInput("", say("Send one JSON object with the fields of this computation. {message}", message=wrong.message)) from None
    return JsonResponse(registry.run(name, payload))


def _schema(kind: type[Any]) -> dict[str, Any]:
    """A JSON schema without references, so that it can stand inside the operation."""
    schema = TypeAdapter(kind).json_schema()
    parts = schema.pop("$defs", {})

    def inline(node: Any) -> Any:
        if isinstance(node, dict):
            if "$ref" in node:
                return inline(parts[node["$ref"].rsplit("/", 1)[1]])
            return {key: inline(value) for key, value in node.items()}
        return [inline(one) for one in node] if isinstance(node, list) else node

    return dict(inline(schema))


def _operation(name: str) -> Callable[[HttpRequest], HttpResponse]:
    def operation(request: HttpRequest) -> HttpResponse:
        return _answer(request, name)

    operation.__doc__ = (registry.find(name).function.__doc__ or name).split("\n")[0]
    return operation


def _described(name: str) -> dict[str, Any]:
    found = registry.find(name)
    body = {"required": True, "content": {"application/json": {"schema": _schema(found.question)}}}
    reply = {"description": say("The answer"), "content": {"application/json": {"schema": _schema(found.answer)}}}
    return {"requestBody": body, "responses": {200: reply}}


for _name in registry.names():
    router.post(
        f"/compute/{_name}",
        response={422: ErrorOut},
        operation_id=f"compute_{_name.replace('.', '_')}",
        openapi_extra=_described(_name) if _name in OF_THE_SCREENS else None,
        include_in_schema=_name in OF_THE_SCREENS,
    )(_operation(_name))


@router.post("/compute/{name}", response={404: ErrorOut}, operation_id="compute_unknown", include_in_schema=False)
def compute_unknown(request: HttpRequest, name: str) -> HttpResponse:
    """Any other name."""
    raise UnknownComputation(name)
