"""The one page that carries the front end, whatever client-side route was asked for."""

from __future__ import annotations

import json
import sys

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie
from django.views.decorators.http import require_safe

from config.gate import is_away, refusal

_NOT_BUILT = "The front end has not been built. Run ./amber demo, or npm run build in web/."


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The built index.html."""
    index = settings.WEB_BUILD / "index.html"
    if not index.is_file():
        return HttpResponse(_NOT_BUILT, status=503, content_type="text/plain")
    return HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")


@csrf_exempt
def api_not_found(request: HttpRequest) -> JsonResponse:
    """Anything below /api/ that is not an endpoint."""
    return refusal(404)


def failed(request: HttpRequest) -> HttpResponse:
    """What nothing else answered: a database that is away is told apart from a fault."""
    shaped = refusal(503 if is_away(sys.exc_info()[1]) else 500)
    if request.path.startswith("/api/"):
        return shaped
    return HttpResponse(json.loads(shaped.content)["error"]["message"], status=shaped.status_code, content_type="text/plain; charset=utf-8")
