"""Backups by pgBackRest, restoring to a moment, and proving that a backup can be restored."""

from __future__ import annotations

import fcntl
import json
import os
import re
import shutil
import time
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from amber_cli.postgres import as_database_user, free_port, give_away
from amber_cli.say import Failed, run, step
from amber_cli.workshop.database import HouseCluster, give_away_file
from amber_cli.workshop.home import Home, write_secret

FULL_EVERY = timedelta(days=6, hours=18)
EVERY = timedelta(hours=23)
PROOF_EVERY = timedelta(days=28)
_ARCHIVED_WITHIN_S = 120.0
_RECOVERED_WITHIN_S = 3600.0
_FIRST_COPY_PORT = 54480
_MOMENT = re.compile(r"\d{4}-\d{2}-\d{2}[ T]\d{2}:\d{2}(:\d{2}(\.\d+)?)?([+-]\d{2}(:?\d{2})?|Z)?")
_LISTED = 5
_NOTHING_AFTER = "recovery ended before configured recovery target was reached"


@dataclass(frozen=True)
class Backup:
    """One backup that pgBackRest has."""

    label: str
    kind: str
    ended: datetime
    size_bytes: int


def configure(home: Home) -> None:
    """Write pgBackRest's settings; the passphrase stands in them, so only the database's user reads them."""
    settings = home.settings
    repo, spool = home.backups, home.pg / "spool"
    for folder in (repo, spool):
        folder.mkdir(parents=True, exist_ok=True)
        give_away(folder)
    lines = [
        "[global]",
        f"repo1-path={repo}",
        f"repo1-retention-full={settings.keep_full}",
        "repo1-bundle=y",
        "start-fast=y",
        "compress-type=lz4",
        f"lock-path={spool}",
        f"spool-path={spool}",
        "log-level-file=off",
        "log-level-console=warn",
    ]
    if home.has_secret("backup-passphrase"):
        lines += ["repo1-cipher-type=aes-256-cbc", f"repo1-cipher-pass={home.secret('backup-passphrase')}"]
    cluster = HouseCluster(home)
    lines += ["", "[workshop]", f"pg1-path={cluster.data}", f"pg1-port={cluster.port}"]
    lines += [f"pg1-socket-path={cluster.socket}", "pg1-user=amber"]
    write_secret(cluster.conf, "\n".join(lines) + "\n")
    give_away_file(cluster.conf)
    _pgbackrest(home, "stanza-create")


def backup(home: Home, kind: str | None = None) -> Backup:
    """One more backup: a full one when the last is nearly a week old, else what changed since."""
    made = listed(home)
    full = [one for one in made if one.kind == "full"]
    chosen = kind or ("full" if not full or _now() - full[-1].ended > FULL_EVERY else "diff")
    step(f"Backing up ({'everything' if chosen == 'full' else 'what changed since the last full backup'})")
    _pgbackrest(home, f"--type={chosen}", "backup")
    return listed(home)[-1]


def listed(home: Home) -> list[Backup]:
    """Every backup there is, the oldest first."""
    found = json.loads(_pgbackrest(home, "--output=json", "info") or "[]")
    rows: list[dict[str, Any]] = found[0].get("backup", []) if found else []
    return [
        Backup(row["label"], row["type"], datetime.fromtimestamp(row["timestamp"]["stop"], UTC), row["info"]["size"])
        for row in sorted(rows, key=lambda row: row["timestamp"]["stop"])
    ]


def due(home: Home) -> int:
    """Whatever is due: a backup each day, a full one each week, a test restore each month."""
    made = listed(home)
    if not made or _now() - made[-1].ended > EVERY:
        backup(home)
    last = last_proof(home)
    if last is None or _now() - datetime.fromisoformat(last["at"]) > PROOF_EVERY:
        prove(home)
    return 0


def prove(home: Home) -> dict[str, Any]:
    """Restore the database as it is at this moment into a folder of its own, count and sum every row there, and remove it again.

    Raises
    ------
    Failed
        When it cannot be restored, or does not hold the same.
    """
    with (home.notes / "proof.lock").open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)  # two at once would restore into one folder
        return _proven(home)


def _proven(home: Home) -> dict[str, Any]:
    if not listed(home):
        backup(home, "full")
    began = time.monotonic()
    witness = json.loads(home.django("witness"))
    _until_archived(home)
    folder = home.pg / "proof"
    shutil.rmtree(folder, ignore_errors=True)
    step("Restoring a copy to see whether the backup is good")
    copy = _restored(home, folder, "--type=name", f"--target={witness['point']}")
    try:
        found = json.loads(home.django("tally", port=copy.port))
    finally:
        copy.stop()
        shutil.rmtree(folder, ignore_errors=True)
    wrong = sorted(name for name in found.keys() | witness["tables"].keys() if found.get(name) != witness["tables"].get(name))
    rows = sum(count for count, _ in witness["tables"].values())
    said = {"at": _now().isoformat(), "good": not wrong, "rows": rows, "tables": len(found), "seconds": round(time.monotonic() - began, 1)}
    with home.proofs.open("a", encoding="utf-8") as notes:
        notes.write(json.dumps({**said, "wrong": wrong}) + "\n")
    if wrong:
        raise Failed(f"The restored copy does not hold the same in: {', '.join(wrong[:_LISTED])}. Make a full backup and prove it again.")
    step(f"The backup is good: {rows} rows of {len(found)} tables restored, every checksum the same, in {said['seconds']:.0f} s")
    return said


def last_proof(home: Home) -> dict[str, Any] | None:
    """The latest test restore that held; None when there is none."""
    if not home.proofs.exists():
        return None
    good = [one for line in home.proofs.read_text(encoding="utf-8").splitlines() if (one := json.loads(line))["good"]]
    return good[-1] if good else None


def restore(home: Home, moment: str, into: Path) -> HouseCluster:
    """A second cluster with everything up to a moment, running beside the workshop's own, and held against it row by row.

    Raises
    ------
    Failed
        When the moment cannot be read or reached, the folder is not empty, or a restored reading is not what the workshop has.
    """
    target = read_moment(moment, home.settings.time_zone)
    if into.exists() and any(into.iterdir()):
        raise Failed(f"{into} is not empty: name a new folder, so that nothing is overwritten.")
    made = listed(home)
    if not made or made[0].ended > target:
        first = f"the first is of {made[0].ended:%Y-%m-%d %H:%M:%S} UTC" if made else "there is none"
        raise Failed(f"No backup reaches back to {target:%Y-%m-%d %H:%M:%S} UTC: {first}.")
    live = HouseCluster(home)
    if live.answers():
        _until_archived(home)
    try:
        copy = _restored(home, into, "--type=time", f"--target={target:%Y-%m-%d %H:%M:%S.%f+00}")
    except Failed:
        log = into / "server.log"
        if not (log.exists() and _NOTHING_AFTER in log.read_text(errors="replace")):
            raise
        step("Nothing in the backups was written after that moment: the copy has all there is")
        shutil.rmtree(into)
        copy = _restored(home, into, "--type=default")
    step(f"Restored to {target:%Y-%m-%d %H:%M:%S} UTC in {into}; it listens on 127.0.0.1:{copy.port}")
    if not live.answers():
        step("The workshop's own database does not answer, so the copy could not be held against it.")
        return copy
    mine = json.loads(home.django("tally", "--rows"))
    theirs = json.loads(home.django("tally", "--rows", port=copy.port))
    changed = [(table, key) for table, rows in theirs.items() for key, digest in rows.items() if mine.get(table, {}).get(key) != digest]
    if changed:
        named = ", ".join(f"{table} {key}" for table, key in changed[:_LISTED])
        raise Failed(f"{len(changed)} rows of the copy are not what the workshop has now, though they are written once: {named}")
    kept = sum(len(rows) for rows in theirs.values())
    later = sum(len(rows) for rows in mine.values()) - kept
    step(f"{kept} records that are written once, each the same as in the workshop; {later} were written after that moment")
    return copy


def adopt(home: Home, copy: Path) -> Path:
    """Put a restored copy in the place of the workshop's database, which is set aside; both have to stand still.

    Raises
    ------
    Failed
        When either still runs, or there is no restored copy.
    """
    mine, theirs = HouseCluster(home), HouseCluster(home, folder=copy)
    if not (theirs.data / "PG_VERSION").exists():
        raise Failed(f"There is no restored copy in {copy}: make one with ./amber workshop restore.")
    for one in (mine, theirs):
        if one.runs():
            raise Failed(f"The database in {one.data} still runs. Stop the workshop first (and the copy: ./amber workshop stop-copy).")
    aside = home.pg / f"data-before-{_now():%Y%m%d-%H%M%S}"
    mine.data.rename(aside)
    shutil.move(theirs.data, mine.data)
    return aside


def read_moment(text: str, zone: str) -> datetime:
    """A date and time as typed, in UTC; without an offset it is in the workshop's zone.

    Raises
    ------
    Failed
        When it is none, or lies ahead.
    """
    if not _MOMENT.fullmatch(text.strip()):
        raise Failed("Type the moment as 2026-11-28 14:05 or 2026-11-28 14:05:30+00:00.")
    try:
        found = datetime.fromisoformat(text.strip())
    except ValueError:
        raise Failed("There is no such date or time. Type the moment as 2026-11-28 14:05.") from None
    moment = (found if found.tzinfo else found.replace(tzinfo=ZoneInfo(zone))).astimezone(UTC)
    if moment > _now():
        raise Failed("That moment has not come yet.")
    return moment


def _restored(home: Home, folder: Path, *target: str) -> HouseCluster:
    folder.mkdir(parents=True, exist_ok=True)
    give_away(folder)
    copy = HouseCluster(home, folder=folder, port=free_port(_FIRST_COPY_PORT), archive=False)
    for one in (copy.data, copy.socket):
        one.mkdir(exist_ok=True)
        give_away(one)
    try:
        to = [*target, "--target-action=promote"] if len(target) > 1 else target
        _pgbackrest(home, f"--pg1-path={copy.data}", *to, "--archive-mode=off", "restore")
        copy.start()
        began = time.monotonic()
        while copy.sql("SELECT pg_is_in_recovery()") != "f":
            if time.monotonic() - began > _RECOVERED_WITHIN_S:
                raise Failed(f"The copy did not get to that moment within an hour. Its log is {copy.log}.")
            time.sleep(0.2)
    except Failed:
        copy.stop()
        raise
    return copy


def _until_archived(home: Home) -> None:
    """Until all that was written so far is in the backups' log."""
    cluster = HouseCluster(home)
    cluster.sql("SELECT txid_current()")  # a commit after any moment until now, without which PostgreSQL does not know that it was reached
    segment = cluster.sql("SELECT pg_walfile_name(pg_switch_wal())")
    began = time.monotonic()
    while cluster.sql(f"SELECT coalesce(last_archived_wal >= '{segment}', false) FROM pg_stat_archiver") != "t":
        if time.monotonic() - began > _ARCHIVED_WITHIN_S:
            raise Failed(f"The log is not being archived: {archive_trouble(home) or 'no reason is known'}")
        time.sleep(0.2)


def archive_trouble(home: Home) -> str | None:
    """What keeps the log from being archived; None when nothing does."""
    query = "SELECT last_failed_wal FROM pg_stat_archiver WHERE last_failed_time > coalesce(last_archived_time, '-infinity')"
    segment = HouseCluster(home).sql(query)
    return f"{segment} could not be archived; the reason stands in {home.pg / 'server.log'} or the journal" if segment else None


def _pgbackrest(home: Home, *arguments: str) -> str:
    cluster = HouseCluster(home)
    command = as_database_user(["pgbackrest", f"--config={cluster.conf}", "--stanza=workshop", *arguments])
    env = {"PATH": os.environ.get("PATH", ""), "LC_ALL": "C.UTF-8"}
    return run(command, what=f"pgbackrest {arguments[-1]}", mend="What it said stands below.", cwd=Path("/"), env=env)


def _now() -> datetime:
    return datetime.now(UTC)
