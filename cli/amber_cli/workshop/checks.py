"""What is not right with the workshop, each as a sentence with what to do."""

from __future__ import annotations

import json
import shutil
import socket
import ssl
import subprocess
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta

from amber_cli.say import Failed
from amber_cli.workshop import backups, certificates, proxy, upgrade
from amber_cli.workshop.database import DATABASE, HouseCluster
from amber_cli.workshop.home import Home, free_bytes, known_hosts

_LEAST_FREE = 5 * 2**30
_LEAST_SHARE = 0.1
_OLDEST_BACKUP = timedelta(hours=26)
_OLDEST_PROOF = timedelta(days=35)
_CLOCK_OFF = timedelta(seconds=60)
_WORKER_SILENT_S = 120


def troubles(home: Home) -> list[str]:
    """Every sentence; none when all is well."""
    found: list[str] = []
    for look in (_disk, _certificate, _hosts, _programs):
        found += _told(look, home)
    if HouseCluster(home).answers():
        for look in (_clock, _migrations, _backups, _proof, _archive, _worker):
            found += _told(look, home)
    else:
        found.append(f"The database does not answer. Start the workshop, or look at {home.pg / 'server.log'}.")
    return found + _told(_web, home)


def _told(look: Callable[[Home], Iterator[str]], home: Home) -> list[str]:
    try:
        return list(look(home))
    except Failed as wrong:
        return [str(wrong)]


def _disk(home: Home) -> Iterator[str]:
    for what, folder in (("database", home.pg), ("backups", home.backups)):
        if not folder.exists():
            yield f"The folder of the {what}, {folder}, is missing. Is its disk mounted?"
            continue
        free, whole = free_bytes(folder)
        if free < min(_LEAST_FREE, _LEAST_SHARE * whole):
            left = f"{free / 2**30:.1f} GB free of {whole / 2**30:.0f} GB"
            yield f"The disk of the {what} has {left}. Make room, or work stops when it is full."
    if home.backups.exists() and home.backups.stat().st_dev == home.pg.stat().st_dev:
        yield (
            f"The backups in {home.backups} lie on the same disk as the database: one broken disk takes both. Give another disk with "
            "./amber workshop make --backups-to FOLDER."
        )


def _certificate(home: Home) -> Iterator[str]:
    left = certificates.days_left(home)
    if left < 0:
        yield "The certificate has ended: phones refuse the address. Make a new one with ./amber workshop make."
    elif left < certificates.RENEW_BEFORE_DAYS:
        yield f"The certificate ends in {left:.0f} days. Renew it with ./amber workshop make, then restart the workshop."


def _hosts(home: Home) -> Iterator[str]:
    missing = [one for one in home.settings.hosts if one not in certificates.named(home)]
    if missing:
        yield f"The certificate does not name {', '.join(missing)}. Renew it with ./amber workshop make."
    new = [one for one in known_hosts() if one[0].isdigit() and one != "127.0.0.1" and one not in home.settings.hosts]
    if new and not home.settings.own_certificate:
        yield f"This machine has an address that is not the workshop's: {', '.join(new)}. Add it with ./amber workshop make --host."


def _programs(home: Home) -> Iterator[str]:
    for name in ("nginx", "pgbackrest", "openssl"):
        if shutil.which(name) is None:
            yield f"{name} is missing. ./amber workshop make installs it."


def _clock(home: Home) -> Iterator[str]:
    told = subprocess.run(["timedatectl", "show", "-p", "NTPSynchronized", "--value"], capture_output=True, text=True, check=False).stdout
    if told.strip() == "no":
        yield "The clock is not set by the network. Switch on time synchronisation: timedatectl set-ntp true"
    newest = HouseCluster(home).sql("SELECT extract(epoch FROM max(received_at)) FROM records_write", database=DATABASE)
    if newest and datetime.fromtimestamp(float(newest), UTC) - datetime.now(UTC) > _CLOCK_OFF:
        yield "The clock is behind the newest reading: it was set back. Set it right before work goes on."


def _migrations(home: Home) -> Iterator[str]:
    if upgrade.pending(home):
        yield "The database is of an earlier release than the program. Bring it up to date with ./amber workshop upgrade."


def _backups(home: Home) -> Iterator[str]:
    made = backups.listed(home)
    if not made:
        yield "There is no backup yet. Make one with ./amber workshop backup."
    elif (age := datetime.now(UTC) - made[-1].ended) > _OLDEST_BACKUP:
        hours = age.total_seconds() / 3600
        yield f"The last backup is {hours:.0f} hours old. Make one with ./amber workshop backup, and see why none came."


def _proof(home: Home) -> Iterator[str]:
    last = backups.last_proof(home)
    if last is None:
        yield "The backup has never been restored: it is unproven. Prove it with ./amber workshop prove."
    elif datetime.now(UTC) - datetime.fromisoformat(last["at"]) > _OLDEST_PROOF:
        yield f"The backup was last restored for a test on {last['at'][:10]}. Prove it again with ./amber workshop prove."
    newest = home.proofs.read_text(encoding="utf-8").splitlines() if home.proofs.exists() else []
    if newest and not json.loads(newest[-1])["good"]:
        yield "The last test restore did not hold what it should. Make a full backup and prove it again."


def _archive(home: Home) -> Iterator[str]:
    trouble = backups.archive_trouble(home)
    if trouble:
        yield f"The database's log is not being backed up: {trouble}."


def _worker(home: Home) -> Iterator[str]:
    query = "SELECT coalesce(extract(epoch FROM now() - max(last_heartbeat)), -1) FROM procrastinate_workers"
    silent = float(HouseCluster(home).sql(query, database=DATABASE))
    if silent < 0 or silent > _WORKER_SILENT_S:
        yield "The worker does not run: recordings are not read. Start the workshop."


def _web(home: Home) -> Iterator[str]:
    """Through TLS, as a phone would, with the certificate of the house."""
    settings = home.settings
    trusted = ssl.create_default_context(cafile=None if settings.own_certificate else str(home.tls / "house.crt"))
    host = settings.hosts[0]
    try:
        with (
            socket.create_connection(("127.0.0.1", settings.https_port), timeout=10) as plain,
            trusted.wrap_socket(plain, server_hostname=host) as shut,
        ):
            shut.sendall(f"GET /api/v1/welcome HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n".encode())
            status = shut.recv(64).split(b" ", 2)[1].decode()
    except (OSError, IndexError) as wrong:
        yield f"{proxy.address(home)} does not answer: {wrong}. Start the workshop."
        return
    if status != "200":
        yield f"The web server answers {status} behind {proxy.address(home)}. See why: journalctl -u 'amber-pinion-*'"
