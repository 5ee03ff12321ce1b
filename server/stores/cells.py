"""Cells of a list that comes in as CSV."""

from __future__ import annotations

from amber_core.words import say
from stores.models import AxleFamily

_YES = {"yes": True, "1": True, "true": True, "no": False, "0": False, "false": False, "": False}


class BadCell(Exception):
    """What is wrong with one cell, in one sentence."""

    def __init__(self, column: str, text: str) -> None:
        super().__init__(text)
        self.column, self.text = column, text


def yes_or_no(row: dict[str, str], column: str) -> bool:
    """A flag; an empty cell is a no.

    Raises
    ------
    BadCell
        For anything else.
    """
    if row[column].lower() not in _YES:
        raise BadCell(column, say("“{value}”: write yes or no.", value=row[column][:60]))
    return _YES[row[column].lower()]


def family_in(families: dict[str, AxleFamily], row: dict[str, str]) -> AxleFamily:
    """The family that a row names by its code.

    Raises
    ------
    BadCell
        When the Stores have none of that code.
    """
    if row["family"] not in families:
        raise BadCell("family", say("The Stores have no family with the code “{value}”.", value=row["family"][:60]))
    return families[row["family"]]
