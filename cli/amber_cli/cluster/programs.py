"""The programs of the cluster, each kept running by itself: what dies is started again after a second, as systemd would."""

from __future__ import annotations

import os
import shutil
import subprocess
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from amber_cli import install
from amber_cli.cluster.layout import ADDRESS, DATABASE, DEPLOY, ROLE, SCOPE, Layout, Node, asked
from amber_cli.django_env import environment, manage
from amber_cli.keeping import Program, ignore_signals
from amber_cli.paths import PYTHON, SERVER
from amber_cli.postgres import as_database_user, give_away, stop_at_once
from amber_cli.running import gunicorn, worker_command
from amber_cli.say import Failed, run, step

_SITE = "site"
_READY_WITHIN_S = 120.0
_DATABASE_ENDS_WITHIN_S = 40.0


def install_all(layout: Layout) -> None:
    """Debian's packages, and Patroni where the database's user can read it."""
    install.system("run", install.CLUSTER)
    for script in ("heal.py", "restore.py"):  # a checkout below somebody's own folder is not read by the database's user
        shutil.copy(DEPLOY / script, layout.folder)
    install.beside(DEPLOY / "requirements.txt", layout.folder / _SITE)


def etcd(layout: Layout, node: Node) -> Program:
    """A member of etcd."""
    return _program(layout, f"etcd of {node.name}", ["/usr/bin/etcd", f"--config-file={node.folder / 'etcd.yml'}"])


def patroni(layout: Layout, node: Node) -> Program:
    """Patroni, which starts and looks after its PostgreSQL."""
    env = {"PATH": "/usr/sbin:/usr/bin:/sbin:/bin", "PYTHONPATH": str(layout.folder / _SITE), "LC_ALL": "C.UTF-8", "HOME": str(node.folder)}
    return _program(layout, f"Patroni of {node.name}", [_python(), "-m", "patroni", node.folder / "patroni.yml"], env)


def healer(layout: Layout, node: Node) -> Program:
    """What makes a standby again that cannot come up."""
    script = layout.folder / "heal.py"
    command = [_python(), script, node.name, f"http://{ADDRESS}:{node.rest}", node.folder / "rest-password"]
    return _program(layout, f"Healer of {node.name}", command)


def door(layout: Layout) -> Program:
    """HAProxy."""
    return _program(layout, "HAProxy", ["/usr/sbin/haproxy", "-db", "-f", layout.door])


def bouncer(layout: Layout, name: str) -> Program:
    """A pooler."""
    return _program(layout, f"pgBouncer {name}", ["/usr/sbin/pgbouncer", "-q", layout.folder / name / "pgbouncer.ini"])


def _program(layout: Layout, name: str, command: list[str | Path], env: dict[str, str] | None = None) -> Program:
    log = layout.folder / "log" / f"{name.replace(' ', '-').lower()}.log"
    return Program(
        name,
        _as_database_user(command),
        needed=False,
        env=env,
        cwd=Path("/"),
        alone=f"its log is {log}",
        ending_s=_DATABASE_ENDS_WITHIN_S,
        log=log,
    )


def web_environment(layout: Layout, at: int) -> dict[str, str]:
    """What web server number `at` is started with."""
    more = {"AMBER_STANDBY_URL": layout.pooled_url("amber_standby", at), "AMBER_POOLED": "1", "AMBER_PROXIES": "1"}
    return environment(mode="demo", database_url=layout.pooled_url(DATABASE, at), **more)


def direct_environment(layout: Layout) -> dict[str, str]:
    """For what needs a connection of its own: the worker, which listens, and Django's commands."""
    return environment(mode="demo", database_url=layout.direct_url)


def web(layout: Layout, at: int) -> Program:
    """A web server: of one process, for two of them share two cores."""
    command = gunicorn(f"{ADDRESS}:{layout.webs[at]}", workers=1)
    log = layout.folder / "log" / f"web-server-{at + 1}.log"
    return Program(f"Web server {at + 1}", command, needed=False, env=web_environment(layout, at), cwd=SERVER, log=log)


def worker(layout: Layout, at: int) -> Program:
    """What reads recordings in the background."""
    log = layout.folder / "log" / f"worker-{at + 1}.log"
    return Program(f"Worker {at + 1}", worker_command(), needed=False, env=direct_environment(layout), cwd=SERVER, log=log)


@contextmanager
def running(layout: Layout) -> Iterator[list[Program]]:
    """All of it, from nothing to ready; stopped and removed however this ends."""
    parts: list[Program] = []

    def begin(*more: Program) -> None:
        for one in more:
            one.start()
            parts.append(one)

    try:
        step("Starting three members of etcd and three databases")
        begin(*(etcd(layout, one) for one in layout.nodes))
        begin(*(patroni(layout, one) for one in layout.nodes))
        begin(*(healer(layout, one) for one in layout.nodes))
        _until(lambda: _all_follow(layout), "The databases did not find together", layout)
        make_database(layout)
        step("Starting two poolers and HAProxy")
        begin(*(bouncer(layout, name) for name in layout.bouncer_names), door(layout))
        step("Bringing the database and the demo workshop up to date")
        _until(lambda: _reaches(layout), "HAProxy does not lead to the primary", layout)
        run(manage("prepare_demo"), what="Preparing the demo", mend=f"Look into {layout.folder}.", env=direct_environment(layout))
        step("Starting two web servers and two workers")
        begin(*(web(layout, at) for at in range(len(layout.webs))), *(worker(layout, at) for at in range(len(layout.webs))))
        _until(lambda: asked(f"{layout.address}api/v1/welcome") is not None, "The web servers do not answer", layout)
        yield parts
    finally:
        ignore_signals()
        _stop(parts)


def make_database(layout: Layout) -> None:
    """The application's role, its database, the archive."""
    leader = layout.leader()
    if leader is None:
        raise Failed("No database leads.")
    note = leader.folder / "role.sql"
    note.touch(mode=0o600)
    note.write_text(f"CREATE ROLE {ROLE} LOGIN PASSWORD '{layout.passwords['app']}'; CREATE DATABASE {DATABASE} OWNER {ROLE};")
    give_away(note)
    try:
        layout.psql(leader, "-qf", note)
    finally:
        note.unlink()
    stanza = as_database_user(["pgbackrest", f"--config={layout.pgbackrest}", f"--stanza={SCOPE}", "stanza-create"])
    run(stanza, what="pgBackRest's stanza-create", mend="", cwd=Path("/"))


def _all_follow(layout: Layout) -> bool:
    members = layout.members()
    return len(members) == len(layout.nodes) and bool(layout.synchronous()) and all(state in _GOOD for _, state in members.values())


_GOOD = ("running", "streaming")


def _reaches(layout: Layout) -> bool:
    there = {"PGPASSWORD": layout.passwords["app"], "PATH": os.environ.get("PATH", ""), "PGCONNECT_TIMEOUT": "2"}
    tried = ["psql", "-h", ADDRESS, "-p", str(layout.primary), "-U", ROLE, "-d", DATABASE, "-c", "select 1"]
    return subprocess.run(tried, env=there, capture_output=True, check=False).returncode == 0


def _until(holds: Callable[[], bool], wrong: str, layout: Layout) -> None:
    began = time.monotonic()
    while not holds():
        if time.monotonic() - began > _READY_WITHIN_S:
            raise Failed(f"{wrong} within {_READY_WITHIN_S:.0f} s: look into {layout.folder}.")
        time.sleep(0.3)


def _stop(parts: list[Program]) -> None:
    """From the door inwards; the databases all at once, for the one that leads waits for those that follow."""
    for one in reversed(parts):
        if one.name.startswith("Patroni") and one.process is not None and one.process.poll() is None:
            one.process.terminate()
    for one in reversed(parts):
        one.stop()


def end_leftovers(layout: Layout) -> None:
    """A database whose Patroni was killed for good."""
    for one in layout.nodes:
        if one.data.exists():
            stop_at_once(one.data, wait=True)


def _as_database_user(command: list[str | Path]) -> list[str | Path]:
    """Unlike runuser the process is the program itself, and ends with whoever started it."""
    if os.geteuid() != 0:
        return command
    return ["setpriv", "--reuid", "postgres", "--regid", "postgres", "--init-groups", "--pdeathsig", "TERM", *command]


def _python() -> str | Path:
    """A Python 3.11 that the database's user may run."""
    for one in (Path("/usr/bin/python3"), PYTHON, Path(shutil.which("python3") or "python3")):
        asked = as_database_user([one, "-c", "import sys; sys.exit(sys.version_info[:2] != (3, 11))"])
        if subprocess.run([str(part) for part in asked], cwd="/", capture_output=True, check=False).returncode == 0:
            return one
    raise Failed("The database's user can run no Python 3.11: apt-get install python3.")
