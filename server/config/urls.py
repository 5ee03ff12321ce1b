"""Addresses: the API, the admin, and one page for every client-side route."""

from django.contrib import admin
from django.urls import path, re_path

from config.api import api
from config.page import api_not_found, page

urlpatterns = [
    path("admin/", admin.site.urls),
    path("api/v1/", api.urls),
    re_path(r"^api/", api_not_found),
    re_path(r"^(?!static/|assets/|admin/).*$", page),
]
