"""Django's runner, with the counts written where ./amber test can add them up."""

from __future__ import annotations

import gc
import json
import os
from pathlib import Path
from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite

_STARTS_PROGRAMS = "amber_cli_tests."


class CountingRunner(DiscoverRunner):
    """Writes {"passed", "failed", "skipped"} to the file named by AMBER_TEST_COUNTS."""

    def build_suite(self, *labels: Any, **options: Any) -> Any:
        """What starts programs of its own waits for them more than it works: begun first, other tests have the machine meanwhile."""
        suite = super().build_suite(*labels, **options)
        if isinstance(suite, ParallelTestSuite):
            suite.subsuites.sort(key=lambda one: _STARTS_PROGRAMS not in str(next(iter(one))))
        gc.collect()
        gc.freeze()  # half a million objects of the libraries, which every full collection would look through in every process
        return suite

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        counts = {"passed": max(0, result.testsRun - failed - skipped), "failed": failed, "skipped": skipped}
        if target := os.environ.get("AMBER_TEST_COUNTS"):
            Path(target).write_text(json.dumps(counts), encoding="utf-8")
        return int(super().suite_result(suite, result, **kwargs))
