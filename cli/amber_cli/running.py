"""./amber demo and ./amber serve."""

from __future__ import annotations

import fcntl
import os
import signal
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from amber_cli import install
from amber_cli.django_env import environment, manage, serving_environment
from amber_cli.keeping import end_with_parent, heed_signals, ignore_signals
from amber_cli.paths import PYTHON, SERVER, STATE
from amber_cli.postgres import Cluster, free_port
from amber_cli.say import Failed, run, step

FIRST_WEB_PORT = 8460
_WORKERS = ["--worker-class", "gthread", "--workers", "2", "--threads", "6"]


def gunicorn(bind: str) -> list[str | Path]:
    """The production server."""
    quiet = ["--preload", "--no-control-socket", "--log-level", "warning", "--timeout", "60", "--graceful-timeout", "5"]
    return [PYTHON, "-m", "gunicorn", "config.wsgi", "--bind", bind, *_WORKERS, *quiet]


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
            logins = run(manage("prepare_demo"), what="Preparing the demo", mend=f"Remove {cluster.home} to begin anew.", env=env)
            port = free_port(int(os.environ.get("AMBER_PORT", FIRST_WEB_PORT)))
            server, worker = start_server(port, env), start_worker(env)
            try:
                wait_until_up(server, f"http://127.0.0.1:{port}/api/v1/welcome")
                _announce(f"http://127.0.0.1:{port}/", logins)
                return _until_told(server)
            finally:
                stop(worker)
                stop(server)


def serve() -> int:
    """The server for a real workshop, with settings from the environment; refuses weak ones."""
    install.system("run")
    install.python(for_tests=False)
    install.web()
    env = serving_environment()
    checked = subprocess.run([str(part) for part in manage("check_serving")], env=env, capture_output=True, text=True, check=False)
    if checked.returncode != 0:
        sentence = (checked.stderr.strip().splitlines() or ["the settings do not hold"])[-1]
        raise Failed(f"Not started: {sentence.split('ImproperlyConfigured: ')[-1].removeprefix('CommandError: ')}")
    run(manage("migrate", "--noinput", "-v", "0"), what="Migrating the database", mend="Check DATABASE_URL.", env=env)
    bind = os.environ.get("AMBER_BIND", "127.0.0.1:8460")
    step(f"Serving on {bind}; put a TLS proxy before it.")
    os.chdir(SERVER)
    start_worker(env)  # ends with the server, whose process this one becomes
    command = [str(part) for part in gunicorn(bind)]
    os.execve(command[0], command, env)


@contextmanager
def _only_one(lock: Path) -> Iterator[None]:
    with lock.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Failed("A demo of this checkout is running already: use its address, or stop it with Ctrl-C.") from None
        yield


def wait_until_up(server: subprocess.Popen[bytes], address: str) -> None:
    """Until the server answers; Failed when it stops or stays silent."""
    for _ in range(150):
        if server.poll() is not None:
            raise Failed("The web server stopped at once; its message stands above.")
        try:
            with urllib.request.urlopen(address, timeout=2):
                return
        except OSError:
            time.sleep(0.1)
    raise Failed("The web server did not answer within 15 seconds.")


def _announce(address: str, logins: str) -> None:
    print(f"\n  Amber Pinion is at {address}\n\n{logins}\n  Ctrl-C stops it and everything it started.", file=sys.stderr, flush=True)


def _until_told(server: subprocess.Popen[bytes]) -> int:
    """Wait for a signal, or the server's own end."""
    try:
        return server.wait()
    except KeyboardInterrupt:
        print("\n  Stopping", file=sys.stderr)
        return 0


def start_server(port: int, env: dict[str, str]) -> subprocess.Popen[bytes]:
    """The web server in a session of its own, so that Ctrl-C reaches it through us; it ends with us even after kill -9."""
    return _start(gunicorn(f"127.0.0.1:{port}"), env)


def start_worker(env: dict[str, str]) -> subprocess.Popen[bytes]:
    """What reads recordings in the background, started again when it dies; a job that it leaves half done is begun anew."""
    return _start([PYTHON, "-m", "amber_cli.keeping", *manage("procrastinate", "worker", "--concurrency", "1")], env)


def _start(command: list[str | Path], env: dict[str, str]) -> subprocess.Popen[bytes]:
    plain = [str(part) for part in command]
    return subprocess.Popen(plain, cwd=SERVER, env=env, start_new_session=True, preexec_fn=end_with_parent)


def stop(server: subprocess.Popen[bytes]) -> None:
    """End the server and its workers, whatever is pressed meanwhile."""
    ignore_signals()  # a second Ctrl-C must not leave the database running
    if server.poll() is None:
        server.terminate()
        try:
            server.wait(timeout=10)
        except subprocess.TimeoutExpired:
            os.killpg(server.pid, signal.SIGKILL)
