"""A PostgreSQL cluster of the project's own on 127.0.0.1; no system cluster is ever touched."""

from __future__ import annotations

import hashlib
import os
import shutil
import socket
import subprocess
import time
from collections.abc import Sequence
from pathlib import Path

from amber_cli.install import POSTGRES_BIN
from amber_cli.paths import STATE
from amber_cli.say import Failed, run, step

FIRST_PORT = 54329
_SETTINGS = "listen_addresses='127.0.0.1'\nunix_socket_directories=''\ntimezone='UTC'\njit=off\n"
_FORGETFUL = "fsync=off\nsynchronous_commit=off\nfull_page_writes=off\nmax_wal_senders=0\n"


class Cluster:
    """One data folder and its server.

    `durable` keeps what PostgreSQL promises; a test cluster forgoes that for speed.
    """

    def __init__(self, name: str, *, durable: bool, home: Path | None = None) -> None:
        self.durable = durable
        self.home = home or _home(name)
        self.data = self.home / "data"
        self.log = self.home / "server.log"
        self.port = 0

    def __enter__(self) -> Cluster:
        self.start()
        return self

    def __exit__(self, *wrong: object) -> None:
        self.stop()

    def url(self, database: str) -> str:
        """Address of a database in it."""
        return f"postgres://amber@127.0.0.1:{self.port}/{database}"

    def start(self) -> None:
        """Make the cluster if it is missing, then start it on a free port."""
        if not (self.data / "PG_VERSION").exists():
            self._make()
        if (self.data / "postmaster.pid").exists():
            self.stop()  # left over from a command that was killed
        self.port = self.port or free_port(FIRST_PORT)  # started again it is found where it was
        step(f"Starting PostgreSQL on 127.0.0.1:{self.port}")
        last: Failed | None = None
        for _ in range(4):  # after a kill -9 the old server can look alive for some seconds
            try:
                self.pg(["pg_ctl", "-D", self.data, "-l", self.log, "-w", "-t", "60", "-s", "-o", self.options(), "start"])
                return
            except Failed as wrong:
                last = wrong
                self.pg(["pg_ctl", "-D", self.data, "-m", "fast", "-w", "-s", "stop"], or_not=True)
                time.sleep(1.5)
        assert last is not None
        raise Failed(f"{last}\nThe server's own log is {self.log}.")

    def options(self) -> str:
        """What the server is started with beside its settings."""
        # a test names moments in the log, which the least level of log does not know; clusters made earlier say minimal in their settings
        return f"-p {self.port}" + ("" if self.durable else " -c wal_level=replica")

    def runs(self) -> bool:
        """Whether its first process is alive."""
        try:
            return Path(f"/proc/{postmaster(self.data)}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
        except (OSError, IndexError, ValueError):
            return False

    def stop(self) -> None:
        """Stop it; a server that is gone already is fine."""
        self.pg(["pg_ctl", "-D", self.data, "-m", "fast", "-w", "-s", "stop"], or_not=True)

    def make_database(self, name: str) -> None:
        """Create a database unless it is there."""
        if name not in self.databases():
            self._ask(f'create database "{name}"')

    def databases(self) -> list[str]:
        """Those that are there."""
        return self._ask("select datname from pg_database").split()

    def drop_databases(self, first: str) -> None:
        """Remove every database whose name begins so."""
        for name in self.databases():
            if name.startswith(first):
                self._ask(f'drop database "{name}"')

    def _ask(self, statement: str) -> str:
        return self.pg(["psql", "-h", "127.0.0.1", "-p", str(self.port), "-U", "amber", "-d", "postgres", "-tAqc", statement])

    def _make(self) -> None:
        step(f"Making a private PostgreSQL cluster in {self.home}")
        shutil.rmtree(self.data, ignore_errors=True)  # an initdb that was cut off leaves half a folder
        options = ["-U", "amber", "-E", "UTF8", "--locale=C.UTF-8", "--auth=trust", "--no-sync"]
        self.pg(["initdb", "-D", self.data, *options])
        with (self.data / "postgresql.conf").open("a") as settings:
            settings.write(_SETTINGS if self.durable else _SETTINGS + _FORGETFUL)

    def pg(self, command: Sequence[str | Path], *, or_not: bool = False) -> str:
        """One of PostgreSQL's own programs, as the user that the files belong to."""
        name, *rest = command
        full = as_database_user([POSTGRES_BIN / str(name), *rest])
        env = {"PATH": os.environ.get("PATH", ""), "HOME": str(self.home), "LC_ALL": "C.UTF-8"}
        mend = f"Look at {self.log}; to start again, remove {self.home}."
        if or_not:
            subprocess.run([str(part) for part in full], cwd="/", env=env, capture_output=True, stdin=subprocess.DEVNULL, check=False)
            return ""
        if str(name) == "pg_ctl":  # a server that inherits a pipe keeps it open for ever
            return _start(full, env, mend)
        return run(full, what=f"PostgreSQL's {name}", mend=mend, cwd=Path("/"), env=env)


def postmaster(data: Path) -> int:
    """The first process of the server of a data folder.

    Raises
    ------
    OSError, IndexError, ValueError
        When it does not run.
    """
    return int((data / "postmaster.pid").read_text().split()[0])


def stop_at_once(data: Path, *, wait: bool) -> None:
    """Stop a server without its last checkpoint, whoever keeps it; one that is gone already is fine."""
    stop = as_database_user([POSTGRES_BIN / "pg_ctl", "-D", data, "-m", "immediate", "-w" if wait else "-W", "-s", "stop"])
    subprocess.run([str(part) for part in stop], cwd="/", capture_output=True, check=False)


def as_database_user(command: Sequence[str | Path]) -> list[str | Path]:
    """The command as the user that the database's files belong to: PostgreSQL refuses root."""
    return ["runuser", "-u", "postgres", "--", *command] if os.geteuid() == 0 else list(command)


def _start(command: list[str | Path], env: dict[str, str], mend: str) -> str:
    done = subprocess.run(
        [str(part) for part in command],
        cwd="/",
        env=env,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        check=False,
    )
    if done.returncode != 0:
        raise Failed(f"Starting PostgreSQL failed (exit status {done.returncode}). {mend}")
    return ""


def _home(name: str) -> Path:
    """A folder the server's user can reach: below .amber, or elsewhere when a parent keeps that user out."""
    wanted = Path(os.environ["PG_HOME"]) / name if os.environ.get("PG_HOME") else STATE / name
    wanted.mkdir(parents=True, exist_ok=True)
    if os.geteuid() != 0:
        return wanted
    give_away(wanted)
    reach = subprocess.run(["runuser", "-u", "postgres", "--", "test", "-w", str(wanted)], cwd="/", check=False)
    if reach.returncode == 0:
        return wanted
    if os.environ.get("PG_HOME"):
        raise Failed(f"The user postgres cannot write to {wanted}: give PG_HOME a folder it can reach.")
    other = Path("/var/tmp") / f"amber-pinion-{hashlib.sha256(str(STATE).encode()).hexdigest()[:10]}" / name
    other.mkdir(parents=True, exist_ok=True)
    give_away(other)
    step(f"A parent folder keeps the database's user out, so the database lies in {other} (PG_HOME chooses another place).")
    return other


def give_away(folder: Path) -> None:
    """To the database's user alone; as an ordinary user the folder is one's own already."""
    if os.geteuid() == 0:
        shutil.chown(folder, "postgres", "postgres")
    folder.chmod(0o700)


def free_port(first: int) -> int:
    """The first port from `first` on that nobody listens on."""
    for port in range(first, first + 200):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) != 0:
                return port
    raise Failed(f"No port from {first} on is free on 127.0.0.1.")
