"""Whole sheets as JSON: out, and in again; a bad sheet is named with its field, and then nothing is taken."""

from __future__ import annotations

import json
from typing import Any

from django.db import transaction
from pydantic import ValidationError

from accounts import policy
from amber_core.words import say
from records.writing import Writing, hash_of
from shared.json_in import read_json
from shared.refusals import Refusal, TooLarge
from shared.validation import said_of
from stores.catalogue import LARGEST_BYTES, MOST_WRONG, RowWrong
from stores.editing import check, save_family
from stores.models import AxleFamily
from stores.schemas import SheetInFile
from stores.sheets import LISTS, content_of, newest_revision, sheet_in, sheet_of

FORMAT, VERSION = "amber-pinion.sheets", 1
MOST_SHEETS = 500


def exported() -> str:
    """Every family's sheet as the Stores have it now."""
    sheets = [content_of(sheet_of(one)) for one in AxleFamily.objects.with_sheets()]
    return json.dumps({"format": FORMAT, "version": VERSION, "sheets": sheets}, indent=1, ensure_ascii=False)


@transaction.atomic
def imported(writing: Writing, content: bytes) -> dict[str, Any]:
    """Take sheets in: one of a code that is here becomes its next revision, others are added; with any bad sheet nothing is taken.

    Raises
    ------
    Refusal, TooLarge
        For a file that is no list of sheets.
    """
    policy.require(writing.by, "edit_stores")
    sheets: list[SheetInFile] = []
    wrong: list[RowWrong] = []
    for number, plain in enumerate(_sheets(content), start=1):
        try:
            one = SheetInFile.model_validate(plain)
            check(*parted(one))
        except ValidationError as bad:
            first = bad.errors()[0]
            path = "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in first["loc"]).lstrip(".")
            wrong.append(RowWrong(number, path, said_of(first)))
        except Refusal as bad:
            wrong.append(RowWrong(number, bad.field or "", bad.message))
        else:
            if any(other.code == one.code for other in sheets):
                wrong.append(RowWrong(number, "code", say("{code} stands twice in this list.", code=one.code)))
            sheets.append(one)
        if len(wrong) == MOST_WRONG:
            break
    if wrong:
        return {"added": 0, "changed": 0, "wrong": [vars(one) for one in wrong]}
    known = {one.code: one for one in AxleFamily.objects.owned().with_sheets()}
    changed = 0
    for one in sheets:
        facts, lists = parted(one)
        family = known.get(one.code)
        if family is not None and hash_of(content_of(sheet_of(family))) == hash_of(content_of(sheet_in(one.model_dump()))):
            continue
        last = newest_revision(family.pk) if family is not None else None
        changed += family is not None
        save_family(writing, code=one.code, revision=last.number if last else 0, reason=say("Sheets imported"), facts=facts, lists=lists)
    return {"added": sum(one.code not in known for one in sheets), "changed": changed, "wrong": []}


def parted(sheet: SheetInFile) -> tuple[dict[str, Any], dict[str, list[dict[str, Any]]]]:
    """A sheet's plain facts, and its lists."""
    plain = sheet.model_dump(exclude={"code"})
    lists = {name: plain.pop(name) for name in LISTS}
    return plain, lists


def _sheets(content: bytes) -> list[Any]:
    if len(content) > LARGEST_BYTES:
        text = say("The list is {size:.0f} MB; the most is {most:.0f} MB.", size=len(content) / 2**20, most=LARGEST_BYTES / 2**20)
        raise TooLarge(text, code="too_large", field="file")
    plain = read_json(content)
    if not isinstance(plain, dict) or plain.get("format") != FORMAT or not isinstance(plain.get("sheets"), list):
        raise Refusal(say("This is not an Amber Pinion list of sheets."), field="file")
    if plain.get("version") != VERSION:
        raise Refusal(say("This list of sheets is from another release. This one reads version {version}.", version=VERSION), field="file")
    if not 1 <= len(plain["sheets"]) <= MOST_SHEETS:
        raise Refusal(say("A list has 1 to {most} sheets.", most=MOST_SHEETS), field="file")
    found: list[Any] = plain["sheets"]
    return found
