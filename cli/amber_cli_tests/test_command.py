"""The command itself: help, unknown words, failures with what to do, sums of counts, locks."""

from __future__ import annotations

import io
import subprocess
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import TestCase, mock

from amber_cli import install
from amber_cli.__main__ import main
from amber_cli.paths import ROOT
from amber_cli.running import _only_one
from amber_cli.say import Failed, run
from amber_cli.testing import Tally


class Words(TestCase):
    def test_help_names_every_word(self) -> None:
        out = io.StringIO()
        with redirect_stdout(out):
            self.assertEqual(main(["help"]), 0)
        for word in ("demo", "test", "check", "compute", "bench", "serve", "manage", "types"):
            self.assertIn(f"./amber {word}", out.getvalue())

    def test_an_unknown_word_shows_the_help_and_fails(self) -> None:
        err = io.StringIO()
        with redirect_stderr(err):
            self.assertEqual(main(["dance"]), 64)
        self.assertIn("./amber demo", err.getvalue())

    def test_the_shell_answers_compute_without_a_database(self) -> None:
        done = subprocess.run(
            [ROOT / "amber", "compute", "preload.pull"],
            input='{"force_n": 50, "radius_mm": 40}',
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertIn('"torque_nm": 2.0', done.stdout)
        wrong = subprocess.run([ROOT / "amber", "compute", "preload.pull"], input="{}", capture_output=True, text=True, check=False)
        self.assertEqual(wrong.returncode, 2)
        self.assertIn('"field": "force_n"', wrong.stdout)


class Failures(TestCase):
    def test_what_failed_what_to_do_and_its_last_words(self) -> None:
        with self.assertRaises(Failed) as caught:
            run(["sh", "-c", "echo the reason >&2; exit 3"], what="Baking", mend="Heat the oven.")
        for words in ("Baking failed (exit status 3)", "Heat the oven.", "the reason"):
            self.assertIn(words, str(caught.exception))

    def test_a_program_that_is_not_there(self) -> None:
        with self.assertRaises(Failed) as caught:
            run(["/no/such/program"], what="Baking", mend="Install an oven.")
        self.assertIn("Install an oven.", str(caught.exception))

    def test_no_sudo_names_the_packages(self) -> None:
        with (
            mock.patch.object(install, "_is_installed", return_value=False),
            mock.patch.object(install.os, "geteuid", return_value=1000),
            mock.patch.object(install.shutil, "which", return_value=None),
            redirect_stderr(io.StringIO()),
            self.assertRaises(Failed) as caught,
        ):
            install.system("run")
        self.assertIn("sudo apt-get install --no-install-recommends libpango-1.0-0", str(caught.exception))

    def test_an_old_node_is_refused(self) -> None:
        for said, words in (("v18.19.0", "too old"), ("nonsense", "too old")):
            with (
                self.subTest(said),
                mock.patch.object(install.shutil, "which", return_value="/usr/bin/node"),
                mock.patch.object(install, "run", return_value=said),
                self.assertRaises(Failed) as caught,
            ):
                install._check_node()
            self.assertIn(words, str(caught.exception))


class Sums(TestCase):
    def test_the_closing_line(self) -> None:
        tally = Tally()
        tally.add(3, 0)
        tally.add(2, 1)
        self.assertEqual(tally.line(), "5 passed, 1 failed")
        tally.add(0, 0, 2)
        self.assertEqual(tally.line(), "5 passed, 1 failed, 2 skipped")

    def test_a_changed_file_changes_the_digest_and_its_place_does_too(self) -> None:
        with tempfile.TemporaryDirectory(dir=ROOT / ".amber") as folder:
            one, other = Path(folder) / "a", Path(folder) / "b"
            one.write_text("x")
            first = install._digest([one])
            one.write_text("y")
            self.assertNotEqual(install._digest([one]), first)
            other.write_text("x")
            self.assertNotEqual(install._digest([other]), first)


class OneAtATime(TestCase):
    def test_a_second_demo_is_told_and_a_later_one_is_not(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            lock = Path(folder) / "demo.lock"
            with _only_one(lock), self.assertRaises(Failed) as caught, _only_one(lock):
                self.fail("two at once")
            self.assertIn("running already", str(caught.exception))
            with _only_one(lock):
                pass
