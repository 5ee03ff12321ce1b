"""The whole workshop as one zip of open files, and back into an empty one.

`records/<table>.jsonl` holds a row of the table as JSON in each line, under its column names; bytes are hexadecimal. `jobs/` holds each
job as the job file that any workshop can import by itself. `manifest.json` says from which release, and how many rows there are with
their checksum. Passwords are left out: whoever takes the file in sets new ones.
"""

from __future__ import annotations

import json
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import IO, Any

from django.db import connection, transaction
from django.utils import timezone

from amber_core.words import say
from build_sheet.export import job_file_text
from jobs.models import Job
from shared.refusals import Refusal
from whole_workshop.tables import record_tables, release
from whole_workshop.tally import OF_A_PERSON, differences, tally

FORMAT = "amber-pinion.workshop"
VERSION = 1
_ROWS_AT_ONCE = 500
_LONGEST_LINE = 64 * 2**20
_LARGEST = 64 * 2**30
_UNUSABLE = "!"


def write_workshop(to: IO[bytes]) -> dict[str, Any]:
    """Write everything as it is at one moment; the manifest."""
    with transaction.atomic(), zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as whole:
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        for table in record_tables():
            with whole.open(f"records/{table}.jsonl", "w", force_zip64=True) as lines:
                for row in _rows(table):
                    lines.write(row.encode() + b"\n")
        for job in Job.objects.order_by("number").iterator(chunk_size=50):
            whole.writestr(f"jobs/job-{job.number}.json", job_file_text(job))
        manifest = {
            "format": FORMAT,
            "version": VERSION,
            "release": release(),
            "at": timezone.now().isoformat(),
            "next_job_number": _next_job_number(),
            "tables": tally(),
        }
        whole.writestr("manifest.json", json.dumps(manifest, indent=2))
    return manifest


def read_workshop(source: Path) -> dict[str, Any]:
    """Take a file in, all of it or nothing; the manifest.

    Raises
    ------
    Refusal
        When this workshop holds work already, the file is none of ours, of another release, damaged, or does not add up.
    """
    try:
        with zipfile.ZipFile(source) as whole:
            manifest = _manifest(whole)
            with transaction.atomic():
                _take_in(whole, manifest)
    except (zipfile.BadZipFile, KeyError, UnicodeDecodeError, EOFError, OSError) as wrong:
        raise Refusal(say("This is not a whole workshop's file, or it is damaged: {wrong}", wrong=str(wrong)[:200])) from None
    return manifest


def _manifest(whole: zipfile.ZipFile) -> dict[str, Any]:
    if sum(one.file_size for one in whole.infolist()) > _LARGEST:
        raise Refusal(say("This file unpacks to more than 64 GB. Nothing was taken in."))
    try:
        found = json.loads(whole.read("manifest.json"))
    except ValueError:
        raise Refusal(say("The file's manifest cannot be read. Nothing was taken in.")) from None
    if not isinstance(found, dict) or found.get("format") != FORMAT or found.get("version") != VERSION:
        raise Refusal(say("This is not a whole workshop's file of this version. Nothing was taken in."))
    if found.get("release") != release():
        raise Refusal(say("This file is from another release. Take it in with the release it was written by, then upgrade."))
    if sorted(found.get("tables", {})) != record_tables():
        raise Refusal(say("The file does not hold the tables of this release. Nothing was taken in."))
    return found


def _take_in(whole: zipfile.ZipFile, manifest: dict[str, Any]) -> None:
    tables = record_tables()
    with connection.cursor() as cursor:
        cursor.execute(f"LOCK TABLE {', '.join(tables)} IN ACCESS EXCLUSIVE MODE")
        cursor.execute("SELECT EXISTS (SELECT 1 FROM jobs_job) OR EXISTS (SELECT 1 FROM vehicles_vehicle)")
        if cursor.fetchone()[0]:
            raise Refusal(say("This workshop holds work already. A whole workshop goes into an empty one only."))
        cursor.execute(f"TRUNCATE {', '.join(tables)}, django_admin_log, accounts_user_groups, accounts_user_user_permissions")
        for table in tables:
            with whole.open(f"records/{table}.jsonl") as lines:
                _insert(cursor, table, lines)
        _set_sequences(cursor, tables, manifest)
    found = differences(tally(), manifest["tables"])
    if found:
        first = found[0]
        raise Refusal(
            say(
                "{table} has {rows:d} rows where the file's manifest says {said:d}, or their content was changed. Nothing was taken in.",
                table=first.table,
                rows=first.rows,
                said=int(first.other_rows),
            )
        )


def _rows(table: str) -> Iterator[str]:
    row = OF_A_PERSON if table == "accounts_user" else "row_to_json(one)"
    with connection.cursor() as cursor:
        cursor.execute(f"DECLARE whole_rows NO SCROLL CURSOR FOR SELECT ({row})::text FROM {table} AS one")
        while True:
            cursor.execute(f"FETCH {_ROWS_AT_ONCE} FROM whole_rows")
            found = cursor.fetchall()
            if not found:
                break
            yield from (line for (line,) in found)
        cursor.execute("CLOSE whole_rows")


def _insert(cursor: Any, table: str, lines: IO[bytes]) -> None:
    number = 0
    while line := lines.readline(_LONGEST_LINE):
        number += 1
        try:
            row = json.loads(line)
        except ValueError:
            row = None
        if not isinstance(row, dict):
            raise Refusal(say("Line {number:d} of {table} is not JSON. Nothing was taken in.", number=number, table=table))
        if table == "accounts_user":
            row |= {"password": _UNUSABLE, "last_login": None}
        cursor.execute(f"INSERT INTO {table} SELECT * FROM json_populate_record(NULL::{table}, %s::json)", [json.dumps(row)])


def _set_sequences(cursor: Any, tables: list[str], manifest: dict[str, Any]) -> None:
    for table in tables:
        cursor.execute("SELECT column_name FROM information_schema.columns WHERE table_name = %s AND is_identity = 'YES'", [table])
        for (column,) in cursor.fetchall():
            cursor.execute(
                f"SELECT setval(pg_get_serial_sequence(%s, %s), coalesce(max({column}), 0) + 1, false) FROM {table}", [table, column]
            )
    cursor.execute("SELECT setval('jobs_job_number', %s, false)", [int(manifest["next_job_number"])])


def _next_job_number() -> int:
    with connection.cursor() as cursor:
        cursor.execute("SELECT last_value + CASE WHEN is_called THEN 1 ELSE 0 END FROM jobs_job_number")
        return int(cursor.fetchone()[0])
