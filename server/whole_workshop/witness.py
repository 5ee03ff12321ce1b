"""A named moment of the database and what it held then: what a restored copy of that moment is held against."""

from __future__ import annotations

import secrets
from typing import Any

from django.db import connection, connections, transaction
from django.utils import timezone

from whole_workshop.tables import release
from whole_workshop.tally import tally


def take() -> dict[str, Any]:
    """Name a moment in the write-ahead log and tally exactly what was committed by then.

    Every write begins with its envelope, and what a worker reads out of a recording has a table of its own: a lock on these two is a
    moment in which nothing is on its way. The snapshot and the name are taken in it, and the tally afterwards, while work goes on.
    The database's role needs the right to execute pg_create_restore_point.
    """
    name = f"witness-{timezone.now():%Y%m%d-%H%M%S}-{secrets.token_hex(3)}"
    moment = connections.create_connection("default")
    try:
        with transaction.atomic():
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
            with moment.cursor() as locking:
                locking.execute("BEGIN")
                locking.execute("SET LOCAL lock_timeout = '30s'")
                locking.execute("LOCK TABLE records_write, noise_finder_recordingreading IN SHARE MODE")
                with connection.cursor() as cursor:
                    cursor.execute("SELECT 1 FROM records_write LIMIT 1")  # the snapshot is that of the first statement
                locking.execute("SELECT pg_create_restore_point(%s)", [name])
                locking.execute("COMMIT")
            return {"point": name, "at": timezone.now().isoformat(), "release": release(), "tables": tally()}
    finally:
        moment.close()
