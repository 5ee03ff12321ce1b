"""The demo world for a test: worked out once in a run, and copied inside the database from then on.

`python -m test_support.demo N` makes the test databases, with the demo kept aside in each of them, for N processes.
"""

from __future__ import annotations

import os
import sys

import django
from django.core.management import call_command
from django.db import connection, transaction
from django.db.backends.utils import CursorWrapper

RUN = "AMBER_TEST_RUN"
_put_back: list[str] = []


def demo_workshop() -> None:
    """Everything as the demo world makes it, and nothing else."""
    from demo_world import world

    if not _put_back:
        _put_back.extend(_kept_in_this_run())
    if not _put_back and connection.in_atomic_block:  # what is kept aside here would go with the test's transaction
        world.load()
        return
    with transaction.atomic(), connection.cursor() as cursor:
        if not _put_back:
            call_command("flush", interactive=False, verbosity=0)
            world.load()
            _put_back.extend(_kept_aside(cursor, "as_made_"))
            return
        cursor.execute(";".join(_put_back))


def prepare(processes: int) -> None:
    """A test database for each process, migrated, with nothing in it but the demo kept aside."""
    from config.test_runner import CountingRunner
    from demo_world import world

    CountingRunner(verbosity=0, interactive=False, keepdb=True).setup_databases(aliases={"default"})
    with transaction.atomic(), connection.cursor() as cursor:
        as_found = _kept_aside(cursor, "as_found_")
        world.load()
        back = _kept_aside(cursor, "as_made_")
        cursor.execute("DROP TABLE IF EXISTS kept_aside; CREATE TABLE kept_aside (run text, place serial, statement text)")
        cursor.executemany("INSERT INTO kept_aside (run, statement) VALUES (%s, %s)", [(os.environ[RUN], one) for one in back])
        cursor.execute(";".join(as_found))
    with connection.cursor() as cursor:
        cursor.execute("".join(f'DROP TABLE "as_found_{table}";' for table in _tables()))
    for number in range(processes):
        connection.creation.clone_test_db(suffix=str(number + 1), verbosity=0, keepdb=True)


def _kept_in_this_run() -> list[str]:
    """The statements that put back what was made before this process; none if that was another run, on another day or by other code."""
    with connection.cursor() as cursor:
        if RUN not in os.environ or "kept_aside" not in connection.introspection.table_names(cursor):
            return []
        cursor.execute("SELECT statement FROM kept_aside WHERE run = %s ORDER BY place", [os.environ[RUN]])
        return [statement for (statement,) in cursor.fetchall()]


def _tables() -> list[str]:
    return connection.introspection.django_table_names(only_existing=True, include_views=False)


def _kept_aside(cursor: CursorWrapper, beginning: str) -> list[str]:
    """Copies of all tables as they are now; the statements that put back what is in them."""
    tables = _tables()
    # a request of the test before may still be writing: it is waited for; rows that point to one another then go and come in any order
    back = [f"LOCK {', '.join(tables)} IN SHARE ROW EXCLUSIVE MODE", "SET LOCAL session_replication_role = replica"]
    for table in tables:
        copy = beginning + table
        back.append(f'DELETE FROM "{table}"')
        cursor.execute(f'DROP TABLE IF EXISTS "{copy}"; CREATE TABLE "{copy}" AS TABLE "{table}"')
        cursor.execute(f'SELECT count(*) FROM "{table}"')
        if cursor.fetchone() != (0,):
            back.append(f'INSERT INTO "{table}" SELECT * FROM "{copy}"')
    cursor.execute("SELECT now()")
    [made] = cursor.fetchone()
    # a soak that runs has as long to go as it had then, however much later a test comes
    back.append(f"UPDATE work_steprecord SET until = until + (now() - '{made.isoformat()}'::timestamptz)")
    for sequence in connection.introspection.sequence_list():
        table, column = sequence["table"], sequence["column"]
        back.append(f"""SELECT setval('{sequence["name"]}', (SELECT GREATEST(max("{column}"), 1) FROM "{table}"))""")
    number = "SELECT setval('jobs_job_number', (SELECT GREATEST(max(number), 1) FROM jobs_job))"
    return [*back, number, "SET LOCAL session_replication_role = DEFAULT"]


if __name__ == "__main__":
    django.setup()
    prepare(int(sys.argv[1]))
