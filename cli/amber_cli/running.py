"""./amber demo and ./amber serve."""

from __future__ import annotations

import fcntl
import os
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from amber_cli import install
from amber_cli.django_env import MIGRATE, environment, manage, serving_environment
from amber_cli.keeping import Database, Program, heed_signals, ignore_signals, keep
from amber_cli.paths import PYTHON, SERVER, STATE
from amber_cli.postgres import Cluster, free_port
from amber_cli.say import Failed, run, step

FIRST_WEB_PORT = 8460
_NEEDS_NO_DATABASE = ("help", "version", "migrate", "showmigrations", "makemigrations", "check", "check_serving")


def gunicorn(bind: str, *, workers: int = 2) -> list[str | Path]:
    """The production server, of so many processes."""
    size = ["--worker-class", "gthread", "--workers", str(workers), "--threads", "6"]
    quiet = ["--preload", "--no-control-socket", "--log-level", "warning", "--timeout", "60", "--graceful-timeout", "5"]
    return [PYTHON, "-m", "gunicorn", "config.wsgi", "--bind", bind, *size, *quiet]


def demo() -> int:
    """Everything from nothing: install, database, demo world, server; until Ctrl-C."""
    print("Amber Pinion: starting the demo workshop", file=sys.stderr)
    STATE.mkdir(exist_ok=True)
    heed_signals()
    with _only_one(STATE / "demo.lock"):
        install.system("run")
        install.python(for_tests=False)
        install.web()
        with Cluster("pg-demo", durable=True) as cluster:
            cluster.make_database("amber_demo")
            env = environment(mode="demo", database_url=cluster.url("amber_demo"))
            step("Bringing the database and the demo workshop up to date")
            logins = run(manage("prepare_demo"), what="Preparing the demo", mend=f"Remove {cluster.home} to start again.", env=env)
            port = free_port(int(os.environ.get("AMBER_PORT", FIRST_WEB_PORT)))
            server, worker = web_server(f"127.0.0.1:{port}", env), background_worker(env)
            with started(server, worker):
                wait_until_up(server, f"http://127.0.0.1:{port}/api/v1/welcome")
                _announce(f"http://127.0.0.1:{port}/", logins)
                return keep([Database(cluster), server, worker])


def serve() -> int:
    """The server for a real workshop, with settings from the environment; refuses weak ones."""
    install.system("run")
    install.python(for_tests=False)
    install.web()
    env = serving_environment()
    _bring_up_to_date(env)
    bind = os.environ.get("AMBER_BIND", "127.0.0.1:8460")
    step(f"Serving on {bind}; put a TLS proxy before it.")
    heed_signals()
    server, worker = web_server(bind, env), background_worker(env)
    with started(server, worker):
        return keep([server, worker])


def django(arguments: list[str]) -> int:
    """One of Django's own commands on the workshop's database, in any order: what is missing is installed and migrated first."""
    install.system("run")
    install.python(for_tests=False)
    env = serving_environment()
    if arguments and arguments[0] not in _NEEDS_NO_DATABASE and not arguments[0].startswith("-"):
        _bring_up_to_date(env)
    else:
        _check_settings(env)
    return subprocess.call([str(part) for part in manage(*arguments)], env=env)


def _bring_up_to_date(env: dict[str, str]) -> None:
    _check_settings(env)
    run(manage(*MIGRATE), what="Migrating the database", mend="Check DATABASE_URL.", env=env)
    run(manage("reconstruct_signoffs"), what="Reading older sign-offs", mend="Check DATABASE_URL.", env=env)


def _check_settings(env: dict[str, str]) -> None:
    """Failed, with the sentence of what does not hold."""
    checked = subprocess.run([str(part) for part in manage("check_serving")], env=env, capture_output=True, text=True, check=False)
    if checked.returncode != 0:
        sentence = (checked.stderr.strip().splitlines() or ["the settings do not hold"])[-1]
        raise Failed(f"Not started: {sentence.split('ImproperlyConfigured: ')[-1].removeprefix('CommandError: ')}")


@contextmanager
def _only_one(lock: Path) -> Iterator[None]:
    with lock.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Failed("A demo of this checkout is running already: use its address, or stop it with Ctrl-C.") from None
        yield


@contextmanager
def started(*programs: Program) -> Iterator[None]:
    """Started, and ended again however this ends."""
    try:
        for one in programs:
            one.start()
        yield
    finally:
        ignore_signals()
        for one in reversed(programs):
            one.stop()


def wait_until_up(server: Program, address: str) -> None:
    """Until the server answers; Failed when it stops or stays silent."""
    for _ in range(150):
        if server.ended() is not None:
            raise Failed("The web server stopped at once; its message stands above.")
        try:
            with urllib.request.urlopen(address, timeout=2):
                return
        except OSError:
            time.sleep(0.1)
    raise Failed("The web server did not answer within 15 seconds.")


def _announce(address: str, logins: str) -> None:
    print(f"\n  Amber Pinion is at {address}\n\n{logins}\n  Ctrl-C stops it and everything it started.", file=sys.stderr, flush=True)


def web_server(bind: str, env: dict[str, str]) -> Program:
    """The web server."""
    return Program("The web server", gunicorn(bind), env=env, cwd=SERVER)


def worker_command() -> list[str | Path]:
    """The worker's command line."""
    return manage("procrastinate", "--skip-checks", "worker", "--concurrency", "1")


def background_worker(env: dict[str, str]) -> Program:
    """What reads recordings in the background; a job that it leaves half done is begun anew."""
    alone = "./amber manage procrastinate worker"
    return Program("What works in the background", worker_command(), needed=False, env=env, cwd=SERVER, alone=alone)
