"""./amber check and ./amber test: every check, then every test, then one line."""

from __future__ import annotations

import json
import os
import secrets
import subprocess
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory

from amber_cli import install
from amber_cli.django_env import environment, manage
from amber_cli.paths import PYTHON, ROOT, VENV, WEB
from amber_cli.postgres import Cluster
from amber_cli.say import step

_BIN = VENV / "bin"
_PLAIN = ("core", "cli", "server")
_BROWSER = "e2e"
_MOST_BROWSERS = 4
OPENAPI = ROOT / "docs" / "openapi.json"
COMPUTATIONS = ROOT / "docs" / "computations.openapi.json"
SENTENCES = ROOT / "core" / "amber_core" / "words" / "amber.pot"
_Task = Callable[[], tuple[int, int]]  # how much passed and failed in it


class Tally:
    """Counts what passed and failed."""

    def __init__(self) -> None:
        self.passed = self.failed = self.skipped = 0

    def add(self, passed: int, failed: int, skipped: int = 0) -> None:
        """Add the counts of one runner."""
        self.passed, self.failed, self.skipped = self.passed + passed, self.failed + failed, self.skipped + skipped

    def line(self) -> str:
        """The closing line."""
        return f"{self.passed} passed, {self.failed} failed" + (f", {self.skipped} skipped" if self.skipped else "")


def _attempt(name: str, command: Sequence[str | Path], *, cwd: Path = ROOT, env: dict[str, str] | None = None) -> bool:
    began = time.monotonic()
    plain = {**(env or os.environ)}
    done = subprocess.run(
        [str(part) for part in command], cwd=cwd, env=plain, stdin=subprocess.DEVNULL, capture_output=True, text=True, check=False
    )
    step(f"{'ok    ' if done.returncode == 0 else 'FAILED'} {name} ({time.monotonic() - began:.1f} s)")
    if done.returncode != 0:
        print(done.stdout + done.stderr, flush=True)
    return done.returncode == 0


def _prepare() -> None:
    install.system("test")
    install.python(for_tests=True)
    install.node()


def _side_by_side(tally: Tally, tasks: Sequence[_Task]) -> None:
    """As many at a time as there are cores; each starts programs of its own."""
    with ThreadPoolExecutor(max_workers=os.cpu_count()) as pool:
        for passed, failed in pool.map(lambda one: one(), tasks):
            tally.add(passed, failed)


def _checks() -> list[_Task]:
    paths = ["core", "cli", "server", "e2e", "benchmarks", "deploy"]
    django = environment(mode="test", database_url="postgres://amber@127.0.0.1:1/none")
    paths_env = {**django, "PYTHONPATH": f"{ROOT}/core:{ROOT}/cli:{ROOT}/server"}
    packages = sorted(path.parent.name for top in ("core", "cli", "server") for path in (ROOT / top).glob("*/__init__.py"))
    typed = [word for name in packages if name not in ("tests", "amber_cli_tests") for word in ("-p", name)]
    npm = ["npm", "run", "-s"]
    checks: list[tuple[str, list[str | Path], Path]] = [
        ("mypy, strict", [_BIN / "mypy", *typed], ROOT),
        ("eslint", [*npm, "lint"], WEB),
        ("svelte-check", [*npm, "check"], WEB),
        ("prettier", [*npm, "format:check"], WEB),
        ("import rules", [_BIN / "lint-imports"], ROOT),
        ("ruff format", [_BIN / "ruff", "format", "--check", "-q", *paths], ROOT),
        ("ruff check", [_BIN / "ruff", "check", "-q", *paths], ROOT),
    ]
    return [partial(_judged, name, command, cwd=where, env=paths_env) for name, command, where in checks]


def _judged(name: str, command: Sequence[str | Path], *, cwd: Path, env: dict[str, str]) -> tuple[int, int]:
    good = _attempt(name, command, cwd=cwd, env=env)
    return int(good), int(not good)


def _generated() -> tuple[int, int]:
    """The committed API schema and its types are what the code says."""
    with TemporaryDirectory() as folder:
        env = environment(mode="test", database_url="postgres://amber@127.0.0.1:1/none")
        fresh, types = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        export = manage("export_schema", "--output", str(fresh))
        good = _attempt("API schema exported", export, env=env)
        good = good and _attempt("API schema is current (./amber types)", ["diff", "-u", OPENAPI, fresh])
        asked = Path(folder) / "computations.json"
        good = good and _attempt("computations exported", manage("export_computations", "--output", str(asked)), env=env)
        good = good and _attempt("their schema is current (./amber types)", ["diff", "-u", COMPUTATIONS, asked])
        template = Path(folder) / "amber.pot"
        good = good and _attempt("sentences collected", _collected(template))
        good = good and _attempt("the catalogue is current (./amber types)", ["diff", "-u", SENTENCES, template])
        good = good and _attempt("API types made", ["npx", "--no-install", "openapi-typescript", fresh, "-o", types], cwd=WEB)
        good = good and _attempt("API types are current (./amber types)", ["diff", "-u", WEB / "src/api/schema.d.ts", types])
    return int(good), int(not good)


def make_types() -> int:
    """Write the API schema and the front end's types again."""
    _prepare()
    env = environment(mode="test", database_url="postgres://amber@127.0.0.1:1/none")
    export = manage("export_schema", "--output", str(OPENAPI))
    good = _attempt("API schema", export, env=env) and _attempt("API types", ["npm", "run", "-s", "types"], cwd=WEB)
    good = good and _attempt("schema of the computations", manage("export_computations", "--output", str(COMPUTATIONS)), env=env)
    good = good and _attempt("sentences of the catalogue", _collected(SENTENCES))
    return int(not good)


def _collected(template: Path) -> list[str | Path]:
    """Every sentence of the core, the server and the command, in gettext's format."""
    options = ["--no-default-keywords", "--no-location", "--sort-output", "--omit-header", "--width=140", "--ignore-dirs=tests migrations"]
    sources = [ROOT / "core/amber_core", ROOT / "server", ROOT / "cli/amber_cli"]
    return [_BIN / "pybabel", "-q", "extract", "-k", "say", *options, "-o", template, *sources]


def _front_end_tests() -> tuple[int, int]:
    with TemporaryDirectory() as folder:
        report = Path(folder) / "vitest.json"
        good = _attempt("front-end tests", ["npx", "--no-install", "vitest", "run", "--reporter=json", f"--outputFile={report}"], cwd=WEB)
        counts = json.loads(report.read_text()) if report.exists() else {}
    passed, failed = counts.get("numPassedTests", 0), counts.get("numFailedTests", 0)
    return passed, failed if good or failed else 1


def _front_end_built() -> tuple[int, int]:
    install.web()
    return 0, 0


def _databases(cluster: Cluster, run: str) -> tuple[int, int]:
    """One for each process of the tests, with the demo kept aside in it: migrations and demo take most of a minute."""
    env = _test_environment(cluster, run)
    good = _attempt("test databases", [PYTHON, "-m", "test_support.demo", str(os.cpu_count() or 1)], env=env)
    return 0, int(not good)


def _test_environment(cluster: Cluster, run: str, **more: str) -> dict[str, str]:
    return environment(mode="test", database_url=cluster.url("amber"), AMBER_TEST_RUN=run, AMBER_COMPUTE_RATE="100000/m", **more)


def _python_tests(tally: Tally, cluster: Cluster, run: str, labels: Sequence[str]) -> None:
    """What needs no browser on every core of the machine; then the browser tests, a browser and a database to each of few processes."""
    plain = [label for label in labels if not label.startswith(_BROWSER)]
    browser = [label for label in labels if label.startswith(_BROWSER)]
    if plain:
        _django_tests(tally, cluster, run, "Python tests", ["--parallel", "auto", *plain])
    if browser:
        processes = str(min(os.cpu_count() or 1, _MOST_BROWSERS))
        _django_tests(tally, cluster, run, "Browser tests", ["--parallel", processes, *browser])


def _django_tests(tally: Tally, cluster: Cluster, run: str, name: str, arguments: Sequence[str]) -> None:
    with TemporaryDirectory() as folder:
        counts = Path(folder) / "counts.json"
        step(name)
        command = [str(part) for part in manage("test", "--noinput", "--keepdb", "--timing", *arguments)]
        env = _test_environment(cluster, run, AMBER_TEST_COUNTS=str(counts))
        subprocess.run(command, cwd=ROOT, env=env, stdin=subprocess.DEVNULL, check=False)
        found = json.loads(counts.read_text()) if counts.exists() else {"passed": 0, "failed": 1, "skipped": 0}
    tally.add(found["passed"], found["failed"], found["skipped"])


def check() -> int:
    """Format, lint, types, import rules, generated files."""
    _prepare()
    tally = Tally()
    _side_by_side(tally, [*_checks(), _generated])
    print(tally.line(), flush=True)
    return int(tally.failed > 0)


def test(labels: Sequence[str]) -> int:
    """Everything; with labels, only those Python tests."""
    _prepare()
    tally, run = Tally(), secrets.token_hex(8)
    with Cluster("pg-test", durable=False) as cluster:
        cluster.make_database("amber")
        cluster.drop_databases("test_amber")  # what a run that was killed left, with the migrations of then
        if labels:
            install.web()
        else:
            aside = partial(_databases, cluster, run)
            _side_by_side(tally, [*_checks(), _generated, aside, _front_end_tests, _front_end_built])
        _python_tests(tally, cluster, run, labels or [*_PLAIN, _BROWSER])
        cluster.drop_databases("test_amber")
    print(tally.line(), flush=True)
    return int(tally.failed > 0 or tally.passed == 0)
