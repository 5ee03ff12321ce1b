"""Gearboxes, transfer cases and families' ratios as CSV: out, and in again; a bad row is named, and then nothing is taken."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils.text import slugify

from accounts import policy
from accounts.models import User
from amber_core.errors import InvalidInput
from amber_core.ratios.limits import gears_ok
from shared.refusals import Refusal, TooLarge
from stores.models import AxleFamily, Gearbox, RatioOption, TransferCase

LARGEST_BYTES = 2 * 2**20
MOST_ROWS = 5000
_YES = {"yes": True, "1": True, "true": True, "no": False, "0": False, "false": False, "": False}


class BadCell(Exception):
    """What is wrong with one cell, in one sentence."""

    def __init__(self, column: str, text: str) -> None:
        super().__init__(text)
        self.column, self.text = column, text


@dataclass(frozen=True)
class RowWrong:
    """A row that cannot be taken: its line in the file (from 1), the column, and why."""

    line: int
    column: str
    text: str


@dataclass(frozen=True)
class Catalogue:
    """One kind of list: its columns, how a row is written, and how one is read and stored (True when it was new)."""

    columns: list[str]
    rows: Callable[[], Iterable[dict[str, Any]]]
    read: Callable[[dict[str, str]], dict[str, Any]]
    keep: Callable[[dict[str, Any]], bool]


def exported(kind: str) -> str:
    """The list as CSV with a header."""
    found = _KINDS[kind]
    out = io.StringIO()
    writer = csv.DictWriter(out, found.columns)
    writer.writeheader()
    writer.writerows({name: _inert(value) for name, value in row.items()} for row in found.rows())
    return out.getvalue()


@transaction.atomic
def imported(*, by: User, kind: str, content: bytes) -> dict[str, Any]:
    """Take a list in: rows of a code that is here change it, others are added; with any bad row nothing is taken.

    Raises
    ------
    Refusal, TooLarge
        For a file that is no list of this kind.
    """
    policy.require(by, "edit_stores")
    found = _KINDS[kind]
    rows: list[dict[str, Any]] = []
    wrong: list[RowWrong] = []
    for line, row in _rows(content, found.columns):
        try:
            rows.append(found.read(row))
        except BadCell as bad:
            wrong.append(RowWrong(line, bad.column, bad.text))
    if wrong:
        return {"added": 0, "changed": 0, "wrong": [one.__dict__ for one in wrong]}
    added = sum(found.keep(row) for row in rows)
    return {"added": added, "changed": len(rows) - added, "wrong": []}


def _rows(content: bytes, columns: list[str]) -> Iterable[tuple[int, dict[str, str]]]:
    if len(content) > LARGEST_BYTES:
        raise TooLarge(f"The list has {len(content) / 2**20:.0f} MB; at most {LARGEST_BYTES // 2**20}.", code="too_large", field="file")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("The list is not UTF-8 text: save it as CSV UTF-8.", field="file") from None
    if "\0" in text:
        raise Refusal("This file is no CSV text.", field="file")
    first = text.split("\n", 1)[0]
    delimiter = ";" if first.count(";") > first.count(",") else ","
    reader = csv.DictReader(io.StringIO(text), delimiter=delimiter)
    missing = [name for name in columns if name not in (reader.fieldnames or [])]
    if missing:
        raise Refusal(f"The first line must name the columns {', '.join(columns)}; missing: {', '.join(missing)}.", field="file")
    count = 0
    for row in reader:
        if any((value or "").strip() for value in row.values() if isinstance(value, str)):
            count += 1
            if count > MOST_ROWS:
                raise Refusal(f"At most {MOST_ROWS} rows at a time.", field="file")
            yield reader.line_num, {name: (row.get(name) or "").strip() for name in columns}
    if count == 0:
        raise Refusal("The list has no row.", field="file")


def _inert(value: Any) -> Any:
    """Text that a spreadsheet would run as a formula is made plain."""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") else value


def _number(row: dict[str, str], column: str, low: float, high: float) -> float:
    try:
        value = float(row[column].replace(",", "."))
    except ValueError:
        raise BadCell(column, f"“{row[column]}” is no number.") from None
    if not low <= value <= high:
        raise BadCell(column, f"{value:g} lies outside {low:g} to {high:g}.")
    return value


def _whole(row: dict[str, str], column: str, low: int, high: int) -> int:
    value = _number(row, column, low, high)
    if value != int(value):
        raise BadCell(column, f"{value:g} is no whole number.")
    return int(value)


def _named(row: dict[str, str]) -> dict[str, Any]:
    if not row["name"] or len(row["name"]) > 120:
        raise BadCell("name", "A name of 1 to 120 characters is needed.")
    code = row["code"] or slugify(row["name"])[:60]
    if code != slugify(code) or not 1 <= len(code) <= 60:
        raise BadCell("code", f"“{code}” is no code: small letters, digits and hyphens.")
    if len(row["maker"]) > 120:
        raise BadCell("maker", "A maker has at most 120 characters.")
    return {"code": code, "name": row["name"], "maker": row["maker"]}


def _read_gearbox(row: dict[str, str]) -> dict[str, Any]:
    try:
        gears = [float(one.replace(",", ".")) for one in row["gears"].split()]
    except ValueError:
        raise BadCell(
            "gears", f"“{row['gears']}”: write the gears from first to top with spaces between, as 3.90 2.20 1.40 1.00."
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


def _read_ratio(row: dict[str, str]) -> dict[str, Any]:
    family = AxleFamily.objects.filter(code=row["family"]).first()
    if family is None:
        raise BadCell("family", f"The Stores have no family with the code “{row['family']}”.")
    pinion = _whole(row, "pinion_teeth", 4, 40)
    ring = _whole(row, "ring_teeth", pinion + 1, 120)
    flags = {}
    for column in ("needs_carrier", "needs_thick_ring"):
        if row[column].lower() not in _YES:
            raise BadCell(column, f"“{row[column]}”: write yes or no.")
        flags[column] = _YES[row[column].lower()]
    return {"family": family, "pinion_teeth": pinion, "ring_teeth": ring, **flags}


def _keep_coded(model: type[Gearbox] | type[TransferCase]) -> Callable[[dict[str, Any]], bool]:
    def keep(row: dict[str, Any]) -> bool:
        rest = {name: value for name, value in row.items() if name != "code"}
        _, new = model._default_manager.update_or_create(code=row["code"], defaults={**rest, "is_sample": False})
        return new

    return keep


def _keep_ratio(row: dict[str, Any]) -> bool:
    key = {name: row[name] for name in ("family", "pinion_teeth", "ring_teeth")}
    flags = {name: row[name] for name in ("needs_carrier", "needs_thick_ring")}
    _, new = RatioOption.objects.update_or_create(**key, defaults=flags)
    return new


def _gearbox_rows() -> Iterable[dict[str, Any]]:
    for one in Gearbox.objects.all():
        yield {"code": one.code, "name": one.name, "maker": one.maker, "gears": " ".join(f"{gear:g}" for gear in one.gears)}


def _transfer_rows() -> Iterable[dict[str, Any]]:
    for one in TransferCase.objects.all():
        yield {"code": one.code, "name": one.name, "maker": one.maker, "high": one.high, "low": "" if one.low is None else one.low}


def _ratio_rows() -> Iterable[dict[str, Any]]:
    for one in RatioOption.objects.select_related("family"):
        flags = {name: "yes" if getattr(one, name) else "no" for name in ("needs_carrier", "needs_thick_ring")}
        yield {"family": one.family.code, "pinion_teeth": one.pinion_teeth, "ring_teeth": one.ring_teeth, **flags}


_KINDS: dict[str, Catalogue] = {
    "gearboxes": Catalogue(["code", "name", "maker", "gears"], _gearbox_rows, _read_gearbox, _keep_coded(Gearbox)),
    "transfer-cases": Catalogue(["code", "name", "maker", "high", "low"], _transfer_rows, _read_transfer, _keep_coded(TransferCase)),
    "ratios": Catalogue(
        ["family", "pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring"], _ratio_rows, _read_ratio, _keep_ratio
    ),
}
