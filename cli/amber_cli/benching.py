"""./amber bench: the real server on a database of its own, measured from another process."""

from __future__ import annotations

import os
import subprocess

from amber_cli import install
from amber_cli.django_env import environment, manage
from amber_cli.paths import PYTHON, ROOT
from amber_cli.postgres import Cluster, free_port
from amber_cli.running import wait_until_up, web_server
from amber_cli.say import Failed, run, step


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
    install.system("run")
    install.python(for_tests=False)
    install.web()
    with Cluster("pg-bench", durable=True) as cluster:
        cluster.make_database("amber_bench")
        env = environment(mode="demo", database_url=cluster.url("amber_bench"), AMBER_COMPUTE_RATE="1000000/m")
        env["DJANGO_SETTINGS_MODULE"] = "benchmarks.settings"
        mend = f"Remove {cluster.home} to start again."
        run(manage("migrate", "--noinput", "-v", "0"), what="Migrating the database", mend=mend, env=env)
        step("Filling the database, which takes a minute the first time")
        run([PYTHON, "-m", "benchmarks.run", "fill"], what="Filling the database", mend=mend, env=env, cwd=ROOT)
        port = free_port(8660)
        server = web_server(f"127.0.0.1:{port}", env)
        server.start()
        try:
            wait_until_up(server, f"http://127.0.0.1:{port}/api/v1/welcome")
            step("Measuring")
            return subprocess.call([str(PYTHON), "-m", "benchmarks.run", str(port)], env=env, cwd=ROOT)
        finally:
            server.stop()
