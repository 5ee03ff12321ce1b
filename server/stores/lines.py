"""Lines of families' sheets as CSV: limits, fasteners and oils, read by the schema that they are typed in by."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from django.db import models
from ninja import Schema
from pydantic import ValidationError

from amber_core.words import Said, say
from records.writing import Writing
from shared.refusals import Refusal
from shared.validation import said_of
from stores.cells import BadCell, family_in, yes_or_no
from stores.editing import check_line
from stores.models import AxleFamily, SpecFastener, SpecFluid, SpecLimit
from stores.schemas import FastenerIn, FluidIn, LimitIn
from stores.sheets import current_revision

Row = dict[str, Any]


@dataclass(frozen=True)
class Lines:
    """One kind of line: its table, its key within a family, the schema that reads it, and what a revision says of an import."""

    name: str
    model: type[models.Model]
    key: str
    schema: type[Schema]
    reason: Said

    @property
    def columns(self) -> list[str]:
        """Of the list, the family's code first."""
        return ["family", *self.schema.model_fields]

    def rows(self) -> Iterable[Row]:
        """Every line of every family of the workshop."""
        for one in (
            self.model._default_manager.filter(family__in=AxleFamily.objects.owned())
            .select_related("family")
            .order_by("family__code", self.key)
        ):
            yield {name: _cell(getattr(one, name)) for name in self.columns}

    def reader(self) -> Callable[[dict[str, str]], Row]:
        """Reads rows of families that are known once, not for every row."""
        families = {one.code: one for one in AxleFamily.objects.owned()}
        flags = [name for name, one in self.schema.model_fields.items() if one.annotation is bool]

        def read(row: dict[str, str]) -> Row:
            family = family_in(families, row)
            cells: Row = {name: _figure(row[name]) for name in self.schema.model_fields if row[name] and name not in flags}
            try:
                given = self.schema.model_validate({**cells, **{name: yes_or_no(row, name) for name in flags}}).model_dump()
                check_line(self.name, given, "")
            except ValidationError as bad:
                first = bad.errors()[0]
                raise BadCell(str(first["loc"][0]), said_of(first)) from None
            except Refusal as bad:
                raise BadCell(bad.field.lstrip("."), bad.message) from None
            return {"family": family, **given}

        return read

    def keep(self, rows: list[Row], writing: Writing) -> int:
        """Store them, each family's sheet as its next revision; how many are new."""
        latest = {(row["family"].pk, row[self.key]): row for row in rows}  # of a line that stands twice the later counts
        known = set(self.model._default_manager.values_list("family_id", self.key))
        made = [self.model(**row) for row in latest.values()]
        fields = [name for name in self.schema.model_fields if name != self.key]
        self.model._default_manager.bulk_create(made, update_conflicts=True, unique_fields=["family", self.key], update_fields=fields)
        for family in {row["family"].pk: row["family"] for row in rows}.values():
            current_revision(family, writing, self.reason)
        return len(latest.keys() - known)


def _figure(cell: str) -> str:
    """A decimal comma as a point; anything else as it stands."""
    pointed = cell.replace(",", ".", 1)
    return pointed if pointed.lstrip("-").replace(".", "", 1).isdecimal() else cell


def _cell(value: Any) -> Any:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return value.code if isinstance(value, AxleFamily) else "" if value is None else value


LINES = {
    one.name: one
    for one in (
        Lines("limits", SpecLimit, "quantity", LimitIn, say("Limits imported")),
        Lines("fasteners", SpecFastener, "place", FastenerIn, say("Fasteners imported")),
        Lines("fluids", SpecFluid, "oil", FluidIn, say("Oils imported")),
    )
}
