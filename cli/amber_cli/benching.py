"""./amber bench: the real server on a database of its own, measured from another process."""

from __future__ import annotations

import os
import secrets
import shutil
import subprocess
import tempfile
import time
from pathlib import Path

from amber_cli import install
from amber_cli.django_env import MIGRATE, environment, manage
from amber_cli.paths import PYTHON, ROOT, SERVER
from amber_cli.postgres import Cluster, free_port
from amber_cli.running import wait_until_up, web_server
from amber_cli.say import Failed, run, step
from amber_cli.workshop.database import HouseCluster
from amber_cli.workshop.home import Home


def bench_setup(arguments: list[str]) -> int:
    """Simulated axles, set up two ways; needs neither server nor database."""
    if len(arguments) > 1 or not all(one.isdigit() and int(one) > 0 for one in arguments):
        raise Failed("./amber bench setup takes one number: how many axles.")
    return _core_alone("benchmarks.setup", *arguments)


def bench_driveline() -> int:
    """Drivelines, spectra and recordings; needs neither server nor database."""
    return _core_alone("benchmarks.drivelines")


def _core_alone(module: str, *arguments: str) -> int:
    install.system("compute")
    install.python(for_tests=False)
    # one thread for each process: questions are many, matrices small
    env = {**os.environ, "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
    return subprocess.call([str(PYTHON), "-m", module, *arguments], env=env, cwd=ROOT)


def bench() -> int:
    """Fill, serve, measure, stop."""
    return _served("amber_bench", "benchmarks.run", fill=True)


def bench_load() -> int:
    """Many people at once, on the demo workshop."""
    return _served("amber_load", "benchmarks.load", fill=False)


def _served(database: str, module: str, *, fill: bool) -> int:
    install.system("run")
    install.python(for_tests=False)
    install.web()
    with Cluster("pg-bench", durable=True) as cluster:
        cluster.make_database(database)
        env = environment(mode="demo", database_url=cluster.url(database), AMBER_COMPUTE_RATE="1000000/m")
        env["DJANGO_SETTINGS_MODULE"] = "benchmarks.settings"
        mend = f"Remove {cluster.home} to start again."
        run(manage(*MIGRATE), what="Migrating the database", mend=mend, env=env)
        if fill:
            step("Filling the database, which takes a minute the first time")
            run([PYTHON, "-m", "benchmarks.run", "fill"], what="Filling the database", mend=mend, env=env, cwd=ROOT)
        else:
            run(manage("prepare_demo"), what="Preparing the demo", mend=mend, env={**env, "DJANGO_SETTINGS_MODULE": "config.settings"})
        port = free_port(8660)
        server = web_server(f"127.0.0.1:{port}", env)
        server.start()
        try:
            wait_until_up(server, f"http://127.0.0.1:{port}/api/v1/welcome")
            step("Measuring")
            assert server.process is not None
            return subprocess.call([str(PYTHON), "-m", module, str(port), str(server.process.pid)], env=env, cwd=ROOT)
        finally:
            server.stop()


def hostile(arguments: list[str]) -> int:
    """Requests made from the schema, bad files, and bent questions to every computation."""
    if len(arguments) > 1 or not all(one.isdigit() and int(one) > 0 for one in arguments):
        raise Failed("./amber hostile takes one number: how many requests.")
    wanted = int(arguments[0]) if arguments else 10_000
    install.system("run")
    install.python(for_tests=True)
    install.web()
    with Cluster("pg-hostile", durable=False) as cluster:
        cluster.drop_databases("amber_hostile")
        cluster.make_database("amber_hostile")
        env = environment(mode="demo", database_url=cluster.url("amber_hostile"), AMBER_COMPUTE_RATE="1000000/m")
        run(manage("prepare_demo"), what="Preparing the demo", mend=f"Remove {cluster.home} to start again.", env=env)
        port = free_port(8760)
        server = web_server(f"127.0.0.1:{port}", env)
        server.start()
        try:
            wait_until_up(server, f"http://127.0.0.1:{port}/api/v1/welcome")
            assert server.process is not None
            step(f"Asking {wanted} requests")
            asked = [str(PYTHON), "-m", "benchmarks.hostile", str(port), str(server.process.pid), str(wanted)]
            found = subprocess.call(asked, env=env, cwd=ROOT)
        finally:
            server.stop()
    step("Asking every computation bent questions")
    bent = {**os.environ, "AMBER_EXPLORE": str(max(60, wanted // 11)), "PYTHONPATH": str(ROOT / "core")}
    return found | subprocess.call([str(PYTHON), "-m", "unittest", "tests.test_hostile_figures"], env=bent, cwd=ROOT / "core")


def torture(arguments: list[str]) -> int:
    """A workshop in a folder of its own, written to while its parts are killed; removed afterwards."""
    if len(arguments) > 2 or not all(one.isdigit() and int(one) > 0 for one in arguments):
        raise Failed("./amber torture takes the number of kills, and a seed.")
    install.system("test")
    install.python(for_tests=True)
    install.web()
    kills, seed = [*arguments, "500", "1"][0], arguments[1] if len(arguments) > 1 else "1"
    folder = Path(tempfile.mkdtemp(prefix="amber-torture-", dir="/var/tmp"))
    folder.chmod(0o755)
    home, password = folder / "home", secrets.token_urlsafe(12)
    amber = [str(ROOT / "amber"), "workshop"]
    where = ["--home", str(home)]
    ports = ["--https-port", str(free_port(8870)), "--http-port", str(free_port(8840)), "--host", "127.0.0.1"]
    run_as = ["--run-as", "root"] if os.geteuid() == 0 else []
    make = [*amber, "make", *where, *ports, *run_as, "--no-units", "--foreman", "greta"]
    started: subprocess.Popen[bytes] | None = None
    try:
        subprocess.run(make, input=password + "\n", text=True, check=True, stdout=subprocess.DEVNULL)
        started = subprocess.Popen([*amber, "start", *where], stdout=subprocess.DEVNULL)
        house = Home(home)
        _until_database(house)
        load = manage("shell", "-v", "0", "-c", "from demo_world import families; families.load()")
        run(load, what="Loading families", mend="Look at what it says.", env=house.environment(), cwd=SERVER)
        step(f"{kills} kills, seed {seed}")
        env = {**os.environ, "PYTHONPATH": f"{ROOT}:{ROOT / 'cli'}", "AMBER_ROOT": str(ROOT)}
        asked = [str(PYTHON), "-m", "benchmarks.torture_workshop", str(home), kills, seed]
        return subprocess.run(asked, input=password + "\n", text=True, env=env, cwd=ROOT, check=False).returncode
    finally:
        if started is not None:
            started.terminate()
            started.wait()
        shutil.rmtree(folder, ignore_errors=True)


def _until_database(home: Home) -> None:
    cluster = HouseCluster(home)
    for _ in range(300):
        if cluster.answers():
            return
        time.sleep(0.2)
    raise Failed("The workshop's database did not start within a minute.")
