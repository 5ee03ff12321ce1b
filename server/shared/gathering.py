"""Everything that hangs on one thing, read in one round trip: a statement compiled once, its rows as instances that know each other."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from functools import cached_property, lru_cache
from typing import Any
from uuid import UUID

import psycopg
from django.conf import settings
from django.db import DEFAULT_DB_ALIAS, connection, connections, models
from django.db.backends.utils import CursorWrapper
from django.db.models.base import ModelState
from pydantic_core import from_json

from shared.scope import EVERY, in_shop

_KEY = UUID(int=0xA3BE55)
"""Stands for the key while a statement is compiled."""

_READ: dict[str, Callable[[Any], Any]] = {
    "UUIDField": lru_cache(maxsize=8192)(UUID),  # the same few hundred, over and over: to read one takes as long as all else of a row
    "DateTimeField": datetime.fromisoformat,
    "DateField": date.fromisoformat,
    "DecimalField": lambda value: Decimal(str(value)),
    "FloatField": float,
}
"""What JSON has no type of its own for, or none that is sure to come back: 45.0 comes as 45."""


@dataclass(frozen=True)
class Part:
    """Rows of one table.

    Parameters
    ----------
    rows
        The rows for a key; no related rows along with them.
    of
        The field that leads to another part, when these are all the rows that there are of it: that one's list then holds them.
    """

    rows: Callable[[UUID], models.QuerySet[Any]]
    of: str = ""


class _Reader:
    """Makes instances of one part out of plain JSON."""

    def __init__(self, part: Part) -> None:
        with in_shop(EVERY):  # compiled once for every workshop: what hangs on one thing is its own
            query = part.rows(_KEY)
        self.model, self.of = query.model, part.of
        compiler = query.query.get_compiler(connection=connection)
        inner, params = compiler.as_sql()
        if any(param != _KEY for param in params):
            raise TypeError(f"The rows of {self.model.__name__} hang on more than the key.")
        inner %= ("%(key)s",) * len(params)
        self.sql = f"(SELECT json_agg(to_json(gathered_row))::text FROM ({inner}) AS gathered_row)"  # noqa: S608 - out of the ORM, the key its only parameter
        fields = [one[0].target for one in compiler.select if hasattr(one[0], "target")]
        if any(field.get_internal_type() == "BinaryField" for field in fields):
            raise TypeError(f"Defer the bytes of {self.model.__name__}: JSON does not carry them.")
        if any(field.attname != field.column for field in fields):
            raise TypeError(f"A column of {self.model.__name__} is named otherwise than its field.")
        self.read_by = [(field.attname, read) for field in fields if (read := _READ.get(_kind(field))) is not None]
        self.links = [field for field in fields if isinstance(field, models.ForeignKey) and isinstance(field.remote_field.model, type)]

    def read(self, rows: list[dict[str, Any]], using: str) -> list[Any]:
        """The instances, in the order of the query."""
        return [self._instance(row, using) for row in rows]

    def _instance(self, row: dict[str, Any], using: str) -> Any:
        """As `from_db` makes one, without asking every field for its default and signalling twice: it takes a fifth of the time."""
        for name, read in self.read_by:
            if (value := row[name]) is not None:
                row[name] = read(value)
        state = ModelState()
        state.__dict__ = {"adding": False, "db": using, "fields_cache": {}}
        row["_state"] = state
        made: Any = object.__new__(self.model)
        made.__dict__ = row
        return made


def _kind(field: models.Field[Any, Any]) -> str:
    """The type of the column, through a key to what it leads to."""
    return _kind(field.target_field) if isinstance(field, models.ForeignKey) else field.get_internal_type()


class _ReadAlong(models.QuerySet[Any]):
    """Rows that were read along with their parent. They cannot be asked for differently: that would silently ask the whole table."""

    def _chain(self) -> Any:
        raise TypeError("These rows were read along: take them with all().")


class _Prepared(psycopg.Cursor[Any]):
    """Has the server plan a statement once for a connection: over many tables that takes longer than running it."""

    def execute(self, query: Any, params: Any = None, **options: Any) -> Any:
        return super().execute(query, params, **{**options, "prepare": True})


def prepared_cursor(using: str = DEFAULT_DB_ALIAS) -> CursorWrapper:
    """Such a cursor within the transaction of now, seen by whoever counts queries."""
    through = connections[using]
    through.ensure_connection()
    # a plan is left on its connection, which a pooler gives to somebody else
    kind = psycopg.Cursor if settings.POOLED else _Prepared
    cursor: Any = kind(through.connection)
    return through.make_debug_cursor(cursor) if through.queries_logged else through.make_cursor(cursor)


def rows_of(parent: models.Model, name: str) -> list[Any]:
    """The rows of a related list; straight from memory when they were read along, for a manager costs more than the rows do."""
    read = parent.__dict__.get("_prefetched_objects_cache", {}).get(name)
    return list(getattr(parent, name).all()) if read is None or read._result_cache is None else read._result_cache


class Gathering:
    """A statement over several parts.

    Rows of one part are linked to those of another by their foreign keys, and a part that is `of` another stands in its related list, so
    that no instance asks the database again.
    """

    def __init__(self, **parts: Part) -> None:
        self._parts = parts

    @cached_property
    def _readers(self) -> dict[str, _Reader]:
        return {name: _Reader(part) for name, part in self._parts.items()}

    @cached_property
    def _statement(self) -> str:
        return f"SELECT {', '.join(one.sql for one in self._readers.values())}"

    def read(self, key: UUID) -> dict[str, list[Any]]:
        """The rows of every part."""
        return self.made_of(self.asked(key))

    def asked(self, key: UUID) -> tuple[str | None, ...]:
        """The rows of every part as JSON: what is worked out of nothing but these is the same as long as they are."""
        statement = self._statement
        with prepared_cursor() as cursor:
            cursor.execute(statement, {"key": key})
            row = cursor.fetchone()
        return tuple(row or ())

    def made_of(self, rows: tuple[str | None, ...]) -> dict[str, list[Any]]:
        """The rows of every part, out of what was asked."""
        found = {
            name: reader.read(from_json(given) if given else [], connection.alias)
            for (name, reader), given in zip(self._readers.items(), rows, strict=True)
        }
        self._link(found)
        return found

    def _link(self, found: dict[str, list[Any]]) -> None:
        by_key: dict[Any, dict[Any, Any]] = {}
        for name, reader in self._readers.items():
            key = reader.model._meta.pk.attname
            rows = by_key[reader.model] = {row.__dict__[key]: row for row in found[name]}
            found[name] = list(rows.values())  # a join may name a row twice
        for name, reader in self._readers.items():
            for field in reader.links:
                targets = by_key.get(field.remote_field.model, {})
                _lead(found[name], field, targets)
                if field.name == reader.of:
                    _hold(found[name], field, targets)


def _lead(rows: list[Any], field: Any, targets: dict[Any, Any]) -> None:
    """Let the rows know what their foreign key leads to."""
    name, attname = field.name, field.attname
    if not targets:
        return
    last, target = None, None
    for row in rows:
        key = row.__dict__[attname]
        if key is not last:  # most lead where the one before led, and a UUID is slow to look up
            last, target = key, targets.get(key)
        if target is not None:
            row._state.fields_cache[name] = target


def _hold(rows: list[Any], field: Any, parents: dict[Any, Any]) -> None:
    """Let the parents know all the rows that lead to them; one that has none knows that too."""
    name, attname = field.remote_field.get_accessor_name(), field.attname
    if field.one_to_one:
        only = {row.__dict__[attname]: row for row in rows}
        for key, parent in parents.items():
            parent._state.fields_cache[name] = only.get(key)
        return
    held: dict[Any, list[Any]] = {key: [] for key in parents}
    last, mine = None, None
    for row in rows:
        key = row.__dict__[attname]
        if key is not last:
            last, mine = key, held.get(key)
        if mine is not None:
            mine.append(row)
    for key, parent in parents.items():
        read = _ReadAlong(field.model)
        read._result_cache, read._prefetch_done = held[key], True  # type: ignore[attr-defined]
        parent.__dict__.setdefault("_prefetched_objects_cache", {})[name] = read
