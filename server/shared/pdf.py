"""A page of ours as PDF; nothing is fetched but our own files."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from urllib.parse import urlparse

from django.contrib.staticfiles import finders

_FOLDER = "/static/build_sheet/"


def pdf_of(html: str) -> bytes:
    """The page as PDF.

    Raises
    ------
    ValueError
        When it asks for what is none of our own files.
    """
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    class OwnFiles(URLFetcher):
        def fetch(self, url: str, headers: Any = None) -> URLFetcherResponse:
            path = own_file(url)
            kind = "text/css" if path.suffix == ".css" else "font/woff2"
            return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})

    fetcher = OwnFiles(fail_on_errors=True)
    return bytes(HTML(string=html, base_url="https://sheet.invalid/", url_fetcher=fetcher).write_pdf())


def own_file(url: str) -> Path:
    """Where a file of a sheet lies.

    Raises
    ------
    ValueError
        When it is none of them.
    """
    path = urlparse(url).path
    found = finders.find(path.removeprefix("/static/")) if path.startswith(_FOLDER) else None
    if not isinstance(found, str):
        raise ValueError(f"a sheet shows only its own files, not {url}")
    return Path(found)
