"""What leaves the wall on paper and as files: the order list by supplier, labels for bags and trays."""

from __future__ import annotations

import csv
import io
from itertools import groupby
from typing import Any

import segno
from django.template.loader import render_to_string

from accounts.models import Shop
from amber_core.words import say
from parts_wall.models import NeedState, PartNeed
from parts_wall.wall import Wall
from shared.csv_out import inert
from shared.money import money
from shared.pdf import pdf_of

COLUMNS = ("supplier", "part", "count", "price_each", "price", "state", "due", "note")


def _total(need: PartNeed) -> int | None:
    """What a line costs, in the smallest unit; None without a price."""
    return None if need.price is None else need.price * need.count


def _by_supplier(wall: Wall) -> list[tuple[str, list[PartNeed]]]:
    rows = sorted(wall.needs, key=lambda one: one.supplier.casefold())
    return [(supplier, list(lines)) for supplier, lines in groupby(rows, key=lambda one: one.supplier)]


def order_csv(wall: Wall) -> str:
    """A line each, suppliers together."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for supplier, lines in _by_supplier(wall):
        for one in lines:
            cells = (
                supplier,
                one.name,
                one.count,
                money(one.price),
                money(_total(one)),
                str(NeedState(one.state).label),
                one.due_on or "",
                one.note,
            )
            writer.writerow([inert(cell) for cell in cells])
    return out.getvalue()


def order_pdf(wall: Wall) -> bytes:
    """The list on paper, a table for each supplier."""
    return pdf_of(render_to_string("parts_wall/order.html", order_context(wall)))


def order_context(wall: Wall) -> dict[str, Any]:
    """What the template shows."""
    suppliers = []
    for supplier, lines in _by_supplier(wall):
        priced = [total for one in lines if (total := _total(one)) is not None]
        suppliers.append(
            {
                "name": supplier or str(say("Supplier not named")),
                "lines": [
                    {
                        "name": one.name,
                        "count": one.count,
                        "each": money(one.price),
                        "total": money(_total(one)),
                        "state": str(NeedState(one.state).label),
                        "due": one.due_on,
                        "note": one.note,
                    }
                    for one in lines
                ],
                "total": money(sum(priced)) if priced else "",
                "unpriced": len(lines) - len(priced),
            }
        )
    return {"shop": Shop.get().name, "job": wall.work.job, "title": wall.work.title, "suppliers": suppliers}


def labels_pdf(wall: Wall, page: str, *, first: int, count: int) -> bytes:
    """Labels on a sheet, 3 across and 8 down, numbered on from `first`."""
    bags = {one.off.bag: one for one in wall.in_order if one.off is not None and one.off.bag}
    labels = []
    for number in range(first, first + count):
        code = segno.make(f"{page}?bag={number}", error="m", micro=False)
        kept = bags.get(str(number))
        labels.append({"number": number, "code": code.svg_inline(border=1, omitsize=True), "part": str(kept.name) if kept else ""})
    context = {"job": wall.work.job, "title": wall.work.title, "labels": labels}
    return pdf_of(render_to_string("parts_wall/labels.html", context))
