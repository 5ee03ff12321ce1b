"""Addresses: the API, the admin, and one page for every client-side route."""

from django.contrib import admin
from django.urls import path, re_path
from django.views.generic import RedirectView

from config.api import api
from config.page import api_not_found, failed, page

urlpatterns = [
    # one way to sign in: what guards it guards the admin's pages too
    path("admin/login/", RedirectView.as_view(url="/?to=/admin/")),
    path("admin/", admin.site.urls),
    path("api/v1/", api.urls),
    re_path(r"^api/", api_not_found),
    re_path(r"^(?!static/|assets/|admin/).*$", page),
]
handler500 = failed
