"""The words after ./amber workshop."""

from __future__ import annotations

import argparse
import fcntl
import getpass
import os
import socket
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from amber_cli import install
from amber_cli.django_env import manage, this_machines_zone
from amber_cli.keeping import Database, Program, heed_signals, keep
from amber_cli.paths import SERVER
from amber_cli.running import gunicorn, started, worker_command
from amber_cli.say import Failed, step
from amber_cli.workshop import backups, certificates, checks, proxy, units, upgrade
from amber_cli.workshop.database import DATABASE, HouseCluster
from amber_cli.workshop.home import USUAL, Home, new_settings, write_secret

_HOURLY_S = 3600


def main(arguments: list[str]) -> int:
    """Do what the first word says."""
    parsed = _parser().parse_args(arguments)
    home = Home(parsed.home)
    os.umask(0o022)
    return int(parsed.do(home, parsed) or 0)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./amber workshop", description="A real workshop on this machine. See docs/running.md.")
    words = parser.add_subparsers(required=True, metavar="WORD")

    def word(name: str, do: object, told: str) -> argparse.ArgumentParser:
        one = words.add_parser(name, help=told, description=told)
        one.add_argument("--home", type=Path, default=USUAL, help=f"the workshop's folder ({USUAL})")
        one.set_defaults(do=do)
        return one

    make = word("make", _make, "make a workshop, or bring its settings, certificate and units up to date")
    make.add_argument("--host", action="append", default=[], help="a name or address it is reached by; the first one is printed")
    make.add_argument("--https-port", type=int)
    make.add_argument("--http-port", type=int)
    make.add_argument("--time-zone", help="for printed times, such as Europe/Oslo")
    make.add_argument("--certificate", type=Path, help="a certificate from elsewhere, with its chain")
    make.add_argument("--key", type=Path, help="its key")
    make.add_argument("--backups-to", type=Path, help="where backups are kept; another disk than the database's")
    make.add_argument("--encrypt-backups", action="store_true", help="ask for a passphrase that backups are encrypted with")
    make.add_argument("--run-as", help="the user that web server and worker run as (amber-pinion)")
    make.add_argument("--foreman", help="the first foreman's login name; asked for when it is left out")
    make.add_argument("--foreman-name", default="", help="the name as it stands on sign-offs")
    make.add_argument("--no-units", action="store_true", help="write the systemd units, but do not install them")
    word("start", _start, "run all of it in this terminal, until Ctrl-C")
    word("check", _check, "say what is not right, in sentences")
    word("address", _address, "print the address and its code for phones again")
    word("upgrade", _upgrade, "bring the database up to this release: backup first, and back again if it fails")
    backup = word("backup", _backup, "make a backup now")
    backup.add_argument("--full", action="store_true", help="everything, not only what changed")
    word("due", _due, "make whatever backup or test restore is due")
    word("prove", _prove, "restore a copy, count and sum every row, and remove it again")
    restore = word("restore", _restore, "restore everything up to a moment into a second cluster")
    restore.add_argument("--to", required=True, help="2026-11-28 14:05, in the workshop's time zone")
    restore.add_argument("--into", required=True, type=Path, help="a new folder")
    adopt = word("adopt", _adopt, "put a restored copy in the place of the workshop's database, which is set aside")
    adopt.add_argument("copy", type=Path)
    stop = word("stop-copy", _stop_copy, "stop a restored copy")
    stop.add_argument("copy", type=Path)
    out = word("export", _export, "the whole workshop as one zip of open files")
    out.add_argument("file", type=Path)
    taken = word("import", _import, "take a whole workshop's file into this empty one")
    taken.add_argument("file", type=Path)
    foreman = word("foreman", _foreman, "make a foreman's login, or give it another password")
    foreman.add_argument("name")
    foreman.add_argument("--foreman-name", default="")
    foreman.add_argument("--organisation", action="store_true", help="looks after every workshop of this installation")
    word("new-key", _new_key, "another secret key; whoever is signed in stays so")
    only = word("only", _only, "run one part, for systemd")
    only.add_argument("part", choices=[*units.PARTS, "due"])
    return parser


def _make(home: Home, given: argparse.Namespace) -> None:
    install.system("run", install.WORKSHOP)
    install.python(for_tests=False)
    install.web()
    first = not home.made
    home.make_folders()
    settings = (
        new_settings(
            given.host,
            https_port=given.https_port,
            http_port=given.http_port,
            time_zone=given.time_zone or this_machines_zone(),
            run_as=given.run_as,
        )
        if first
        else home.settings
    )
    if given.host:
        settings.hosts = list(dict.fromkeys([*given.host, "localhost", "127.0.0.1"]))
    settings.https_port = given.https_port or settings.https_port
    settings.http_port = given.http_port or settings.http_port
    settings.time_zone = given.time_zone or settings.time_zone
    if given.backups_to:
        # a folder of its own in there: what was named may be a whole disk, and backups are for the database's user alone
        settings.backups = str(given.backups_to.resolve() / "amber-pinion-backups")
    if bool(given.certificate) != bool(given.key):
        raise Failed("Give both --certificate and --key.")
    if given.certificate:
        certificates.take_own(home, given.certificate, given.key)
        settings.own_certificate = True
    if first:
        _require_free(settings.https_port, "--https-port")
        _require_free(settings.http_port, "--http-port")
    home.keep(settings)
    if given.encrypt_backups and not home.has_secret("backup-passphrase"):
        if home.backups.exists() and any(home.backups.iterdir()):
            raise Failed("There are backups that are not encrypted already. Name another folder with --backups-to at the same time.")
        write_secret(home.secrets / "backup-passphrase", _typed_twice("Passphrase of the backups (keep it elsewhere too)"))
    for name in ("secret-key", "database-password"):
        home.secret(name)
    certificates.ensure(home)
    proxy.configure(home)
    proxy.reload(home)
    with _database(home) as cluster:
        cluster.prepare()
        backups.configure(home)
        if cluster.sql("SELECT to_regclass('accounts_user') IS NULL", database=DATABASE) == "t":
            upgrade.migrate(home, DATABASE)
        # asked of the database, so that a first day that was cut short goes on where it stood
        if cluster.sql("SELECT count(*) FROM accounts_user WHERE role = 'foreman'", database=DATABASE) == "0":
            _make_foreman(home, given.foreman or _asked("Login name of the first foreman"), given.foreman_name)
        if not backups.listed(home):
            backups.backup(home, "full")
    written = units.write(home)
    if units.running_systemd() and not given.no_units:
        units.install(written)
    else:
        step(f"systemd's units are written to {written[0].parent}; without them: ./amber workshop start --home {home.folder}")
    _address(home, given)


def _require_free(port: int, option: str) -> None:
    with socket.socket() as probe:
        if probe.connect_ex(("127.0.0.1", port)) == 0:
            raise Failed(f"Another program listens on port {port} already. Stop it, or choose another port with {option}.")


def _start(home: Home, given: argparse.Namespace) -> int:
    install.system("run", install.WORKSHOP)
    install.python(for_tests=False)
    install.web()
    heed_signals()
    cluster = HouseCluster(home)
    with _only_one(home):
        if cluster.answers():
            raise Failed("The workshop's database runs already: stop its units first, or use them.")
        certificates.ensure(home)
        proxy.configure(home)
        cluster.start()
        try:
            if upgrade.pending(home):
                raise Failed("The database is of an earlier release. Bring it up to date first: ./amber workshop upgrade")
            parts = [_program(home, part) for part in ("web", "worker", "proxy", "due")]
            with started(*parts):
                _address(home, given)
                return keep([Database(cluster, needed=False), *parts])
        finally:
            cluster.stop()


def _check(home: Home, given: argparse.Namespace) -> int:
    found = checks.troubles(home)
    for sentence in found:
        print(f"- {sentence}")
    if not found:
        made = backups.listed(home)
        print(f"All is well. {len(made)} backups, the last of {made[-1].ended:%Y-%m-%d %H:%M} UTC. {proxy.address(home)}")
    return int(bool(found))


def _address(home: Home, given: argparse.Namespace) -> None:
    there = proxy.address(home)
    print(f"\n  The workshop is at {there}\n", flush=True)
    if home.settings.own_certificate:
        print(proxy.qr(there), flush=True)
        return
    first = proxy.certificate_address(home)
    print(
        f"  Its certificate is one of the house: made on this machine, vouched for by nobody else. Each phone needs it once, from {first}\n"
        f"  which this code opens. Compare the fingerprint that the page shows with this one:\n  {certificates.fingerprint(home)}\n"
    )
    print(proxy.qr(first), flush=True)


def _upgrade(home: Home, given: argparse.Namespace) -> None:
    install.system("run", install.WORKSHOP)
    install.python(for_tests=False)
    install.web()
    paused = units.pause()
    try:
        with _database(home):
            upgrade.upgrade(home)
    finally:
        if paused:
            units.resume()


def _backup(home: Home, given: argparse.Namespace) -> None:
    with _database(home):
        made = backups.backup(home, "full" if given.full else None)
    step(f"Backup {made.label}, {made.size_bytes / 2**20:.0f} MB of data")


def _due(home: Home, given: argparse.Namespace) -> None:
    backups.due(home)


def _prove(home: Home, given: argparse.Namespace) -> None:
    with _database(home):
        backups.prove(home)


def _restore(home: Home, given: argparse.Namespace) -> None:
    copy = backups.restore(home, given.to, given.into.resolve())
    step(f"Look at it, then stop it with: ./amber workshop stop-copy {copy.home} --home {home.folder}")
    step(f"To go on with it as the workshop's own: stop the workshop, then ./amber workshop adopt {copy.home} --home {home.folder}")


def _adopt(home: Home, given: argparse.Namespace) -> None:
    aside = backups.adopt(home, given.copy.resolve())
    step(f"The restored copy is the workshop's database now; the one before is set aside in {aside}.")
    step("Start the workshop, then make a full backup: ./amber workshop backup --full")


def _stop_copy(home: Home, given: argparse.Namespace) -> None:
    HouseCluster(home, folder=given.copy.resolve()).stop()


def _export(home: Home, given: argparse.Namespace) -> None:
    with _database(home):
        print(home.django("export_workshop", str(given.file.resolve())).strip())


def _import(home: Home, given: argparse.Namespace) -> None:
    with _database(home):
        print(home.django("import_workshop", str(given.file.resolve())).strip())


def _foreman(home: Home, given: argparse.Namespace) -> None:
    with _database(home):
        _make_foreman(home, given.name, given.foreman_name, organisation=given.organisation)


def _new_key(home: Home, given: argparse.Namespace) -> None:
    """The present key becomes an old one, which still opens what it signed; older ones go."""
    for old in home.secrets.glob("secret-key.old*"):
        old.unlink()
    write_secret(home.secrets / "secret-key.old", home.secret("secret-key"))
    (home.secrets / "secret-key").unlink()
    home.secret("secret-key")
    step("There is a new secret key. Restart the web server; whoever is signed in stays so until the next new key.")


def _only(home: Home, given: argparse.Namespace) -> int:
    command, env, cwd = _part(home, given.part)
    os.chdir(cwd)
    words = [str(part) for part in command]
    os.execvpe(words[0], words, env)


def _part(home: Home, part: str) -> tuple[list[str | Path], dict[str, str], Path]:
    """Command, environment and folder of one part."""
    plain = {"PATH": os.environ.get("PATH", "/usr/sbin:/usr/bin:/sbin:/bin"), "LC_ALL": "C.UTF-8", "PYTHONUNBUFFERED": "1"}
    if part == "database":
        server = HouseCluster(home).command()
        # the pid stays the server's own, so that whoever keeps it stops the right one
        give_up = ["setpriv", "--reuid", "postgres", "--regid", "postgres", "--init-groups"] if os.geteuid() == 0 else []
        return [*give_up, *server], plain, Path("/")
    if part == "proxy":
        return proxy.command(home), plain, Path("/")
    if part == "due":
        again = f"import subprocess, sys, time\nwhile True:\n subprocess.call(sys.argv[1:])\n time.sleep({_HOURLY_S})"
        amber: list[str | Path] = [sys.executable, "-m", "amber_cli", "workshop", "due", "--home", home.folder]
        return [sys.executable, "-c", again, *amber], {**os.environ, **plain}, Path("/")
    served = gunicorn(f"127.0.0.1:{home.settings.web_port}")
    command = served if part == "web" else worker_command()
    return home.as_service(command), home.environment(), SERVER


def _program(home: Home, part: str) -> Program:
    """A part that is tried on and on: a workshop does not stop because one of them does."""
    command, env, cwd = _part(home, part)
    alone = f"./amber workshop only {part} --home {home.folder}"
    return Program(f"The workshop's {part}", command, needed=False, env=env, cwd=cwd, alone=alone)


@contextmanager
def _database(home: Home) -> Iterator[HouseCluster]:
    """The workshop's database: as it runs, or started for this alone."""
    cluster = HouseCluster(home)
    runs = (cluster.data / "PG_VERSION").exists() and cluster.answers()
    if not runs:
        cluster.start()
    try:
        yield cluster
    finally:
        if not runs:
            cluster.stop()


@contextmanager
def _only_one(home: Home) -> Iterator[None]:
    with (home.notes / "start.lock").open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Failed("This workshop is running in another terminal already.") from None
        yield


def _make_foreman(home: Home, name: str, shown: str, *, organisation: bool = False) -> None:
    password = _typed_twice(f"Password for {name}")
    command = [str(part) for part in manage("set_foreman", name, "--name", shown, *(["--organisation"] if organisation else []))]
    done = subprocess.run(command, env=home.environment(), cwd=SERVER, input=password + "\n", capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise Failed(f"{(done.stderr.strip().splitlines() or ['The login was not made.'])[-1].removeprefix('CommandError: ')}")
    step(done.stdout.strip())


def _typed_twice(what: str) -> str:
    """A password typed without being shown; from a pipe, one line."""
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\n")
    while True:
        first = getpass.getpass(f"{what}: ")
        if first and first == getpass.getpass("Once more: "):
            return first
        step("The two are not the same. Type it again.")


def _asked(what: str) -> str:
    if not sys.stdin.isatty():
        raise Failed(f"{what}: give it with --foreman.")
    return input(f"{what}: ").strip()
