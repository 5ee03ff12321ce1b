"""Gearboxes, transfer cases and families' ratios as CSV: out, and in again; a bad row is named, and then nothing is taken."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from django.conf import settings
from django.db import transaction
from django.utils.text import slugify

from accounts import policy
from accounts.models import own_shop
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import gears_ok
from amber_core.words import say
from records.writing import Writing
from shared.csv_out import inert
from shared.refusals import Refusal, TooLarge
from stores.cells import BadCell, family_in, yes_or_no
from stores.lines import LINES
from stores.models import AxleFamily, Gearbox, RatioOption, TransferCase
from stores.sheets import current_revision

LARGEST_BYTES = settings.LARGEST_LIST_BYTES
MOST_ROWS = 5000
MOST_WRONG = 200
LONGEST_CELL = 2000


@dataclass(frozen=True)
class RowWrong:
    """A row that cannot be taken: its line in the file (from 1), the column, and why."""

    line: int
    column: str
    text: str


@dataclass(frozen=True)
class Catalogue:
    """One kind of list: its columns, how its rows are written, how one is read, and how many of those read are new once stored."""

    columns: list[str]
    rows: Callable[[], Iterable[dict[str, Any]]]
    reader: Callable[[], Callable[[dict[str, str]], dict[str, Any]]]
    keep: Callable[[list[dict[str, Any]], Writing], int]


def exported(kind: str) -> str:
    """The list as CSV with a header."""
    found = _KINDS[kind]
    out = io.StringIO()
    writer = csv.DictWriter(out, found.columns)
    writer.writeheader()
    writer.writerows({name: inert(value) for name, value in row.items()} for row in found.rows())
    return out.getvalue()


@transaction.atomic
def imported(writing: Writing, *, kind: str, content: bytes) -> dict[str, Any]:
    """Take a list in: rows of a code that is here change it, others are added; with any bad row nothing is taken.

    Raises
    ------
    Refusal, TooLarge
        For a file that is no list of this kind.
    """
    policy.require(writing.by, "edit_stores")
    found = _KINDS[kind]
    rows: list[dict[str, Any]] = []
    wrong: list[RowWrong] = []
    read = found.reader()
    for line, row in _rows(content, found.columns):
        try:
            rows.append(read(row))
        except BadCell as bad:
            wrong.append(RowWrong(line, bad.column, bad.text))
            if len(wrong) == MOST_WRONG:
                break  # whoever reads them mends these first
    if wrong:
        return {"added": 0, "changed": 0, "wrong": [one.__dict__ for one in wrong]}
    added = found.keep(rows, writing)
    return {"added": added, "changed": len(rows) - added, "wrong": []}


def _rows(content: bytes, columns: list[str]) -> Iterable[tuple[int, dict[str, str]]]:
    if len(content) > LARGEST_BYTES:
        raise TooLarge(
            say("The list is {size:.0f} MB; the most is {most:.0f} MB.", size=len(content) / 2**20, most=LARGEST_BYTES / 2**20),
            code="too_large",
            field="file",
        )
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal(say("The list is not UTF-8 text. Save it as CSV UTF-8."), field="file") from None
    if "\0" in text:
        raise Refusal(say("This file is not CSV text."), field="file")
    text = text.replace("\r\n", "\n").replace("\r", "\n")  # an old desktop's list ends its lines with CR alone
    first = text.split("\n", 1)[0]
    delimiter = ";" if first.count(";") > first.count(",") else ","
    reader = csv.DictReader(io.StringIO(text), delimiter=delimiter)
    yield from _read_rows(reader, columns)


def _read_rows(reader: csv.DictReader[str], columns: list[str]) -> Iterable[tuple[int, dict[str, str]]]:
    try:
        yield from _checked_rows(reader, columns)
    except csv.Error:
        text = say(
            "Line {line} of the list cannot be read: a cell is too long, or a quotation mark is not closed.",
            line=reader.line_num + 1,
        )
        raise Refusal(text, field="file") from None


def _checked_rows(reader: csv.DictReader[str], columns: list[str]) -> Iterable[tuple[int, dict[str, str]]]:
    missing = [name for name in columns if name not in (reader.fieldnames or [])]
    if missing:
        raise Refusal(
            say(
                "The first line must name the columns {columns}. Missing: {missing}.",
                columns=", ".join(columns),
                missing=", ".join(missing),
            ),
            field="file",
        )
    count = 0
    for row in reader:
        if any((value or "").strip() for value in row.values() if isinstance(value, str)):
            count += 1
            if count > MOST_ROWS:
                raise Refusal(say("The most is {most_rows} rows at a time.", most_rows=MOST_ROWS), field="file")
            cells = {name: (row.get(name) or "").strip() for name in columns}
            if any(len(one) > LONGEST_CELL for one in cells.values()):
                raise Refusal(
                    say(
                        "A cell in line {line_num} is longer than {longest_cell} characters.",
                        line_num=reader.line_num,
                        longest_cell=LONGEST_CELL,
                    ),
                    field="file",
                )
            yield reader.line_num, cells
    if count == 0:
        raise Refusal(say("The list has no rows."), field="file")


def _number(row: dict[str, str], column: str, low: float, high: float) -> float:
    try:
        value = float(row[column].replace(",", "."))
    except ValueError:
        raise BadCell(column, say("“{value}” is not a number.", value=row[column][:60])) from None
    if not low <= value <= high:
        raise BadCell(column, say("{value:g} is outside {low:g} to {high:g}.", value=value, low=low, high=high))
    return value


def _whole(row: dict[str, str], column: str, low: int, high: int) -> int:
    value = _number(row, column, low, high)
    if value != int(value):
        raise BadCell(column, say("{value:g} is not a whole number.", value=value))
    return int(value)


def _named(row: dict[str, str]) -> dict[str, Any]:
    if not row["name"] or len(row["name"]) > 120:
        raise BadCell("name", say("Name must be 1 to 120 characters."))
    code = row["code"] or slugify(row["name"])[:60]
    if code != slugify(code) or not 1 <= len(code) <= 60:
        raise BadCell("code", say("“{value}” is not a code. Use lower-case letters, digits and hyphens.", value=code[:60]))
    if len(row["maker"]) > 120:
        raise BadCell("maker", say("Maker can be 120 characters at most."))
    return {"code": code, "name": row["name"], "maker": row["maker"]}


def _read_gearbox(row: dict[str, str]) -> dict[str, Any]:
    try:
        gears = [float(one.replace(",", ".")) for one in row["gears"].split()]
    except ValueError:
        raise BadCell(
            "gears",
            say("“{value}”: write the gears from first to top with spaces, like 3.90 2.20 1.40 1.00.", value=row["gears"][:60]),
        ) from None
    try:
        gears_ok("gears", gears)
    except InvalidInput as bad:
        raise BadCell("gears", bad.message) from None
    return {**_named(row), "gears": gears}


def _read_transfer(row: dict[str, str]) -> dict[str, Any]:
    high = _number(row, "high", 0.5, 5.0)
    low = _number(row, "low", high, 10.0) if row["low"] else None
    return {**_named(row), "high": high, "low": low}


def _ratio_reader() -> Callable[[dict[str, str]], dict[str, Any]]:
    """Reads rows of families that are known once, not for every row."""
    families = {one.code: one for one in AxleFamily.objects.owned()}

    def read(row: dict[str, str]) -> dict[str, Any]:
        family = family_in(families, row)
        pinion = _whole(row, "pinion_teeth", 4, 40)
        ring = _whole(row, "ring_teeth", pinion + 1, 120)
        flags = {column: yes_or_no(row, column) for column in ("needs_carrier", "needs_thick_ring")}
        return {"family": family, "pinion_teeth": pinion, "ring_teeth": ring, **flags}

    return read


def _keep_coded(model: type[Gearbox] | type[TransferCase], fields: list[str]) -> Callable[[list[dict[str, Any]], Writing], int]:
    def keep(rows: list[dict[str, Any]], writing: Writing) -> int:
        latest = {row["code"]: row for row in rows}  # of a code that stands twice the later line counts
        known = dict(model._default_manager.filter(code__in=latest).values_list("code", "shop"))
        if others := sorted(code for code, shop in known.items() if shop != own_shop()):
            text = say("{code} belongs to another workshop. Give yours a code of its own.", code=others[0])
            raise Refusal(text, field="file")
        made: list[Any] = [model(**row, is_sample=False) for row in latest.values()]
        model._default_manager.bulk_create(made, update_conflicts=True, unique_fields=["code"], update_fields=[*fields, "is_sample"])
        return len(latest.keys() - known)

    return keep


def _keep_ratios(rows: list[dict[str, Any]], writing: Writing) -> int:
    latest = {(row["family"].pk, row["pinion_teeth"], row["ring_teeth"]): row for row in rows}
    known = set(RatioOption.objects.values_list("family_id", "pinion_teeth", "ring_teeth"))
    unique = ["family", "pinion_teeth", "ring_teeth"]
    made = [RatioOption(**row) for row in latest.values()]
    RatioOption.objects.bulk_create(made, update_conflicts=True, unique_fields=unique, update_fields=["needs_carrier", "needs_thick_ring"])
    for family in {row["family"].pk: row["family"] for row in rows}.values():
        current_revision(family, writing, say("Ratios imported"))
    return len(latest.keys() - known)


def _gearbox_rows() -> Iterable[dict[str, Any]]:
    for one in Gearbox.objects.all():
        yield {"code": one.code, "name": one.name, "maker": one.maker, "gears": " ".join(f"{gear:g}" for gear in one.gears)}


def _transfer_rows() -> Iterable[dict[str, Any]]:
    for one in TransferCase.objects.all():
        yield {"code": one.code, "name": one.name, "maker": one.maker, "high": one.high, "low": "" if one.low is None else one.low}


def _ratio_rows() -> Iterable[dict[str, Any]]:
    for one in RatioOption.objects.filter(family__in=AxleFamily.objects.owned()).select_related("family"):
        flags = {name: "yes" if getattr(one, name) else "no" for name in ("needs_carrier", "needs_thick_ring")}
        yield {"family": one.family.code, "pinion_teeth": one.pinion_teeth, "ring_teeth": one.ring_teeth, **flags}


_KINDS: dict[str, Catalogue] = {
    "gearboxes": Catalogue(
        ["code", "name", "maker", "gears"], _gearbox_rows, lambda: _read_gearbox, _keep_coded(Gearbox, ["name", "maker", "gears"])
    ),
    "transfer-cases": Catalogue(
        ["code", "name", "maker", "high", "low"],
        _transfer_rows,
        lambda: _read_transfer,
        _keep_coded(TransferCase, ["name", "maker", "high", "low"]),
    ),
    "ratios": Catalogue(
        ["family", "pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring"], _ratio_rows, _ratio_reader, _keep_ratios
    ),
    **{name: Catalogue(one.columns, one.rows, one.reader, one.keep) for name, one in LINES.items()},
}
