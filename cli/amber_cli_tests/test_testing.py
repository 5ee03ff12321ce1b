"""How ./amber test shares its tests out, and that a run which leaves no counts has failed."""

from __future__ import annotations

import json
import subprocess
from collections.abc import Sequence
from contextlib import contextmanager, redirect_stderr, redirect_stdout
from io import StringIO
from pathlib import Path
from typing import Any
from unittest import TestCase, mock

from amber_cli import testing


class PretendedCluster:
    """A cluster that is asked for addresses alone."""

    def __init__(self) -> None:
        self.made: list[str] = []
        self.dropped: list[tuple[str, int]] = []
        self.runs: list[list[str]] = []

    def make_database(self, name: str) -> None:
        self.made.append(name)

    def drop_databases(self, first: str) -> None:
        self.dropped.append((first, len(self.runs)))

    def url(self, name: str) -> str:
        return f"postgres://amber@127.0.0.1:1/{name}"


class SharedOut(TestCase):
    def setUp(self) -> None:
        self.cluster = PretendedCluster()
        self.ran = self.cluster.runs
        self.others: list[str] = []
        self.before: list[int] = []
        self.counts: dict[str, int] | None = {"passed": 5, "failed": 0, "skipped": 0}

        @contextmanager
        def cluster(name: str, *, durable: bool) -> Any:
            self.assertEqual((name, durable), ("pg-test", False))
            yield self.cluster

        self.enterContext(mock.patch.object(testing, "Cluster", cluster))
        self.enterContext(mock.patch.object(testing.subprocess, "run", self.run_django))
        for made in ("_prepare", "install.web"):
            self.enterContext(mock.patch(f"amber_cli.testing.{made}"))
        self.enterContext(redirect_stderr(StringIO()))

    def run_django(self, command: Sequence[str], **more: Any) -> subprocess.CompletedProcess[str]:
        if "test" not in command:
            self.others.append(" ".join(map(str, command)))
            return subprocess.CompletedProcess(list(command), 0, "", "")
        self.before.append(len(self.others))
        self.assertTrue(more["env"]["AMBER_TEST_RUN"])
        self.ran.append(list(command[command.index("test") + 1 :]))
        if self.counts is not None:
            Path(more["env"]["AMBER_TEST_COUNTS"]).write_text(json.dumps(self.counts))
        return subprocess.CompletedProcess(list(command), 0)

    def tally(self, *labels: str) -> str:
        with redirect_stdout(StringIO()) as said:
            testing.test(labels)
        return said.getvalue().splitlines()[-1]

    def test_what_needs_no_browser_runs_on_every_core_and_browser_tests_after_it_in_few_processes(self) -> None:
        tally = self.tally("core", "cli", "server", "e2e")
        plain, browser = self.ran
        self.assertEqual(plain[-5:], ["--parallel", "auto", "core", "cli", "server"])
        self.assertEqual((browser[-3], browser[-1]), ("--parallel", "e2e"))
        self.assertLessEqual(1, int(browser[-2]))
        self.assertLessEqual(int(browser[-2]), 4)
        self.assertEqual((tally, self.cluster.made), ("10 passed, 0 failed", ["amber"]))

    def test_both_runs_have_the_same_databases_and_the_next_one_has_new_ones(self) -> None:
        self.tally("core", "e2e")
        self.assertTrue(all("--keepdb" in one for one in self.ran))
        self.assertEqual(self.cluster.dropped, [("test_amber", 0), ("test_amber", 2)])

    def test_all_that_can_go_side_by_side_is_done_before_the_first_test_and_counted(self) -> None:
        self.enterContext(mock.patch("amber_cli.testing._front_end_tests", return_value=(7, 1)))
        self.assertEqual(self.tally(), "25 passed, 1 failed")  # 7 checks, what is generated, 7 of the front end, 5 in each run
        self.assertEqual(self.before, [len(self.others)] * 2)
        for part in ("ruff format", "mypy", "lint-imports", "run -s lint", "run -s check", "test_support.demo", "export_schema"):
            self.assertTrue(any(part in one for one in self.others), part)

    def test_one_label_starts_one_run(self) -> None:
        for label in ("e2e.test_bench", "driveline_desk"):
            with self.subTest(label):
                self.ran.clear()
                self.tally(label)
                ((*options, asked),) = self.ran
                self.assertEqual((asked, "--parallel" in options), (label, True))

    def test_a_run_that_leaves_no_counts_has_failed(self) -> None:
        self.counts = None
        self.assertEqual(self.tally("core"), "0 passed, 1 failed")

    def test_what_failed_in_either_is_added_up(self) -> None:
        self.counts = {"passed": 3, "failed": 1, "skipped": 2}
        self.assertEqual(self.tally("core", "e2e"), "6 passed, 2 failed, 4 skipped")
