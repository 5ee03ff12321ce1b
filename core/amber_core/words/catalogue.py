"""Translations: one file a language, in gettext's format, beside this module; English is what the sentences are written in."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from babel.messages.pofile import read_po

FOLDER = Path(__file__).parent / "languages"
TEMPLATE = Path(__file__).parent / "amber.pot"
WRITTEN_IN = "en"


@cache
def languages(folder: Path = FOLDER) -> tuple[str, ...]:
    """The languages there are, the one of the sentences first."""
    return (WRITTEN_IN, *sorted(path.stem for path in folder.glob("*.po")))


@cache
def _sentences(language: str, folder: Path) -> dict[str, str]:
    path = folder / f"{language}.po"
    if not path.is_file():
        return {}
    with path.open("rb") as file:
        entries = read_po(file)
    return {
        entry.id: entry.string
        for entry in entries
        if isinstance(entry.id, str) and isinstance(entry.string, str) and entry.id and entry.string and not entry.fuzzy
    }


def translated(template: str, language: str) -> str:
    """The sentence's template in a language; in English where it has none."""
    if language == WRITTEN_IN:
        return template
    return _sentences(language, FOLDER).get(template, template)
