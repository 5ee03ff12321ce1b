"""The application's addresses, and one endpoint that does nothing but know who asks."""

from django.http import HttpRequest, HttpResponse
from django.urls import path
from ninja import NinjaAPI
from ninja.security import django_auth

from config.urls import urlpatterns as application

empty = NinjaAPI(title="Empty", auth=django_auth, urls_namespace="empty", docs_url=None, openapi_url=None)


@empty.get("/empty")
def empty_get(request: HttpRequest) -> dict[str, str]:
    return {}


@empty.get("/bytes")
def empty_bytes(request: HttpRequest, count: int) -> HttpResponse:
    return HttpResponse(b" " * count, content_type="application/json")


@empty.post("/empty")
def empty_post(request: HttpRequest) -> dict[str, str]:
    return {}


urlpatterns = [path("bench/", empty.urls), *application]
