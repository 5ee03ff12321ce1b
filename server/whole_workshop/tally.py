"""Counting and summing every row, so that two databases can be held against one another."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.apps import apps
from django.db import connection

from whole_workshop.tables import record_tables, written_once

# every row's own text, hashed; their sum does not depend on the order they come in
_SUM = "SELECT count(*), coalesce(sum(hashtextextended({row}, 0)::numeric), 0)::text FROM {table} AS one"
OF_A_PERSON = "to_jsonb(one) - 'password' - 'last_login'"
_PLAIN = "one::text"


def row_text(table: str) -> str:
    """The SQL of a row's text: a person's password and last sign-in are not part of the record."""
    return f"({OF_A_PERSON})::text" if table == "accounts_user" else _PLAIN


def tally() -> dict[str, list[Any]]:
    """Rows and checksum of each table."""
    found: dict[str, list[Any]] = {}
    with connection.cursor() as cursor:
        for table in record_tables():
            cursor.execute(_SUM.format(row=row_text(table), table=table))
            found[table] = list(cursor.fetchone())
    return found


@dataclass(frozen=True)
class Difference:
    """A table whose rows are not the same, or not as many."""

    table: str
    rows: int
    other_rows: int


def differences(one: dict[str, list[Any]], other: dict[str, list[Any]]) -> list[Difference]:
    """What two tallies do not have in common."""
    names = sorted(one.keys() | other.keys())
    nothing: list[Any] = [0, "0"]
    pairs = ((name, one.get(name, nothing), other.get(name, nothing)) for name in names)
    return [Difference(name, mine[0], theirs[0]) for name, mine, theirs in pairs if mine != theirs]


def digests() -> dict[str, dict[str, int]]:
    """The hash of each row of the tables that are written once, by table and key."""
    found: dict[str, dict[str, int]] = {}
    with connection.cursor() as cursor:
        for table in written_once():
            cursor.execute(f"SELECT one.{_key_of(table)}::text, hashtextextended(one::text, 0) FROM {table} AS one")
            found[table] = dict(cursor.fetchall())
    return found


def _key_of(table: str) -> str:
    model = next(model for model in apps.get_models() if model._meta.db_table == table)
    assert model._meta.pk is not None
    return str(model._meta.pk.column)
