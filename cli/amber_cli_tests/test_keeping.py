"""What works in the background is started again when it dies, and ends when it is told to."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from unittest import TestCase, mock

from amber_cli import keeping
from amber_cli.paths import ROOT
from amber_cli.say import Failed

_PATIENCE_S = 60.0
_KEEPER = """
import sys
from amber_cli import keeping
from amber_cli.say import Failed
keeping.FIRST_PAUSE_S = 0.2 if {needed} else 1.0
keeping.heed_signals()
kept = keeping.Program("The program", sys.argv[1:], needed={needed})
kept.start()
try:
    status = keeping.keep([kept])
except Failed as wrong:
    print(wrong, file=sys.stderr)
    status = 1
kept.stop()
raise SystemExit(status)
"""


class Kept(TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.notes = self.folder / "pids"

    def keep(self, program: str, *, needed: bool = False) -> subprocess.Popen[str]:
        """A keeper of a program that first notes its own process."""
        noting = f"import os, time; print(os.getpid(), file=open({str(self.notes)!r}, 'a')); {program}"
        keeper = subprocess.Popen(
            [sys.executable, "-c", _KEEPER.format(needed=needed), sys.executable, "-c", noting],
            env={**os.environ, "PYTHONPATH": str(ROOT / "cli")},
            stderr=subprocess.PIPE,
            text=True,
        )
        self.addCleanup(keeper.communicate)
        self.addCleanup(keeper.kill)
        return keeper

    def started(self) -> list[int]:
        return [int(line) for line in self.notes.read_text().split()] if self.notes.exists() else []

    def until(self, so: Callable[[], bool]) -> None:
        began = time.monotonic()
        while not so():
            self.assertLess(time.monotonic() - began, _PATIENCE_S)
            time.sleep(0.05)

    @staticmethod
    def runs(process: int) -> bool:
        try:
            return Path(f"/proc/{process}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
        except OSError:
            return False

    def test_killed_it_is_started_again_and_says_so(self) -> None:
        keeper = self.keep("time.sleep(600)")
        self.until(lambda: len(self.started()) == 1)
        os.kill(self.started()[0], signal.SIGKILL)
        self.until(lambda: len(self.started()) == 2)
        first, second = self.started()
        self.assertNotEqual(first, second)
        self.assertTrue(self.runs(second))
        keeper.terminate()
        _, said = keeper.communicate(timeout=_PATIENCE_S)
        self.assertIn("The program ended by itself (status -9); it is started again in 1 s", said)

    def test_one_that_ends_at_once_is_tried_after_longer_and_longer_pauses(self) -> None:
        keeper = self.keep("raise SystemExit(3)")
        self.until(lambda: len(self.started()) == 4)
        keeper.terminate()
        _, said = keeper.communicate(timeout=_PATIENCE_S)
        pauses = [line.split(" in ")[-1] for line in said.splitlines() if "status 3" in line]
        self.assertEqual(pauses, ["1 s", "2 s", "2 s"])
        self.assertEqual(said.count("did not stay up 3 times"), 1)

    def test_one_that_is_needed_and_will_not_stay_up_ends_everything_with_a_sentence(self) -> None:
        keeper = self.keep("raise SystemExit(3)", needed=True)
        _, said = keeper.communicate(timeout=_PATIENCE_S)
        self.assertEqual((keeper.returncode, len(self.started())), (1, 6))
        self.assertIn("The program ended 6 times soon after its start (status 3)", said)

    def test_a_start_that_fails_is_tried_again_unless_everything_hangs_on_it(self) -> None:
        class Reluctant(keeping.Kept):
            starts = 0

            def start(self) -> None:
                self.starts += 1
                if self.starts < 3:
                    raise Failed("not yet")

            def ended(self) -> str | None:
                return None

        one = Reluctant("The part", needed=False, alone="./amber see")
        with mock.patch.object(keeping, "step") as told:
            for _ in range(3):
                one.again_at = 0.0
                keeping._look_after(one)
            self.assertEqual((one.starts, one.again_at), (3, None))
            self.assertEqual(
                next(call.args[0] for call in told.call_args_list), "The part ended by itself (not yet); it is started again in 1 s"
            )
        with self.assertRaisesRegex(Failed, "not yet"):
            needed = Reluctant("The part", needed=True)
            needed.again_at = 0.0
            keeping._look_after(needed)

    def test_told_to_end_it_ends_with_what_it_keeps(self) -> None:
        for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
            with self.subTest(number):
                self.notes.unlink(missing_ok=True)
                keeper = self.keep("time.sleep(600)")
                self.until(lambda: len(self.started()) == 1)
                keeper.send_signal(number)
                self.assertEqual(keeper.wait(timeout=_PATIENCE_S), 0)
                self.assertFalse(self.runs(self.started()[0]))

    def test_killed_without_a_word_it_leaves_nothing_running(self) -> None:
        keeper = self.keep("time.sleep(600)")
        self.until(lambda: len(self.started()) == 1)
        keeper.kill()
        self.until(lambda: not self.runs(self.started()[0]))
        self.assertEqual(len(self.started()), 1)
