"""A made-up language for tests: every sentence in brackets with its vowels accented, so that what no catalogue holds stands out."""

from __future__ import annotations

from pathlib import Path
from string import Formatter

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from amber_core.words.catalogue import TEMPLATE

_ACCENTED = str.maketrans("aeiouAEIOU", "àéïôúÀÉÏÔÚ")


def pseudo(template: str) -> str:
    """A template of the made-up language; its places stay as they are."""
    made = []
    for text, name, spec, _ in Formatter().parse(template):
        made.append(text.translate(_ACCENTED).replace("{", "{{").replace("}", "}}"))
        if name is not None:
            made.append(f"{{{name}:{spec}}}" if spec else f"{{{name}}}")
    return f"⟦{''.join(made)}⟧"


def write_pseudo(path: Path) -> None:
    """Write its catalogue."""
    with TEMPLATE.open("rb") as file:
        known = read_po(file)
    found = Catalog(locale=None)
    for entry in known:
        if entry.id:
            found.add(entry.id, pseudo(str(entry.id)))
    with path.open("wb") as file:
        write_po(file, found)
