"""Cells of a CSV that a spreadsheet must not run."""

from __future__ import annotations

import unicodedata
from typing import Any

_RUNS = ("=", "+", "-", "@", "\t", "\r", "\n")


def inert(value: Any) -> Any:
    """Text that a spreadsheet would run as a formula, also one that begins with a full-width character, gets a leading apostrophe."""
    if not isinstance(value, str) or not value:
        return value
    first = unicodedata.normalize("NFKC", value.lstrip()[:1] or value[:1])[:1]
    return f"'{value}" if first in _RUNS or value[:1] in _RUNS or unicodedata.category(value[0]) == "Cf" else value
