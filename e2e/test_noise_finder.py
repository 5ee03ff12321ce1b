"""The noise finder by keyboard and by touch: felt, checked, recorded by the real worker, kept."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

from django.conf import settings
from django.db import connection
from playwright.sync_api import FilePayload, expect

from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.orders import Drivetrain
from e2e.base import BrowserTestCase, below
from e2e.touch import TouchTestCase
from noise_finder.models import Recording
from work.models import KeptAnswer

VAN = Drivetrain(circumference_m=2.2, axle_ratio=4.1)


def work() -> None:
    """The worker of ./amber, until nothing is left to do."""
    known = connection.settings_dict
    address = f"postgres://{known['USER']}@{known['HOST']}:{known['PORT']}/{known['NAME']}"
    command = [sys.executable, str(Path(settings.ROOT) / "server" / "manage.py"), "procrastinate", "worker", "--one-shot"]
    subprocess.run(command, env={**os.environ, "DATABASE_URL": address}, check=True, capture_output=True, timeout=120)


def drive(fault: str) -> bytes:
    asked = RecorderQuestion(drivetrain=VAN, faults=[fault], gear_ratio=0.8, seconds=20.0)
    return "".join(csv_lines(record(asked))).encode()


class ByKeyboard(BrowserTestCase):
    def finder(self, vehicle: str = "Library van", by: str = "isla") -> None:
        self.sign_in(by)
        self.go(f"{below(self.job(vehicle))}/noise", "Noise finder")
        expect(self.page.get_by_role("heading", name="Possible causes")).to_be_visible()

    def test_from_what_is_felt_to_one_part(self) -> None:
        self.sign_in("isla")
        self.go(f"/jobs/{self.job('Library van').pk}", "Run sheet")
        self.press(self.page.get_by_role("link", name="Noise finder"))
        suspects = self.page.get_by_role("region", name="Possible causes")
        expect(suspects.get_by_text("Tyre and wheel, once").first).to_be_visible()
        counted = self.page.get_by_label("Counted (Hz)")
        self.tab_to(counted)
        self.page.keyboard.type("46,4")
        self.page.keyboard.press("Tab")
        check = self.page.get_by_role("region", name="Quickest check")
        expect(check.get_by_text("Standing, bring the engine to the same speed")).to_be_visible()
        expect(check.get_by_text("chock the wheels")).to_be_visible()
        self.press(check.get_by_role("button", name="It changed or stopped"))
        expect(suspects.get_by_role("listitem").first).to_contain_text("Propshaft, once a turn")
        expect(suspects.get_by_role("listitem").first).to_contain_text("Likely")
        expect(self.page.get_by_role("list", name="Checks made")).to_contain_text("it changed")
        self.fill("Title", "Floor buzz")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Floor buzz")).to_be_visible()
        self.assertEqual(KeptAnswer.objects.get(title="Floor buzz").answer["suspects"][0]["name"], "prop_1x")
        self.page.get_by_role("button", name=re.compile("Undo")).click()
        expect(self.page.get_by_role("list", name="Checks made")).to_have_count(0)

    def test_a_recording_is_read_by_the_worker_and_names_the_part(self) -> None:
        self.finder()
        self.page.get_by_role("tab", name="Recorded").click()
        self.page.get_by_label("File").set_input_files(
            [FilePayload(name="coast road.csv", mimeType="text/csv", buffer=drive("joint_angles"))]
        )
        expect(self.page.get_by_text("coast road.csv is waiting to be read")).to_be_visible()
        work()
        chart = self.page.get_by_role("img", name=re.compile("Order chart"))
        expect(chart).to_be_visible()
        expect(self.page.get_by_text("Road speed from the file: 60 to 110 km/h.")).to_be_visible()
        self.page.get_by_label("Gear ratio of the recording").fill("0.8")
        self.page.keyboard.press("Tab")
        sources = self.page.get_by_role("region", name="Possible causes")
        expect(sources.get_by_role("listitem").first).to_contain_text("Propshaft, twice a turn")
        self.assertEqual(self.violations(self.page), [])
        with self.page.expect_download() as download:
            self.page.get_by_role("button", name="Download charts (SVG)").click()
        self.assertIn("http://www.w3.org/2000/svg", Path(download.value.path()).read_text())
        self.fill("Title", "Coast road")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("recorded")).to_be_visible()

    def test_a_bad_file_says_what_is_wrong(self) -> None:
        self.finder()
        self.page.get_by_role("tab", name="Recorded").click()
        self.page.get_by_label("File").set_input_files(
            [FilePayload(name="letter.txt", mimeType="text/plain", buffer=b"Dear all,\nit shakes.\n")]
        )
        expect(self.page.get_by_text("letter.txt is waiting to be read")).to_be_visible()
        work()
        expect(self.page.get_by_text("No line of numbers was found")).to_be_visible()

    def test_a_recording_is_watched_on_after_the_connection_was_lost(self) -> None:
        self.finder()
        self.page.get_by_role("tab", name="Recorded").click()
        self.page.get_by_role("button", name="Start recording").click()
        expect(self.page.get_by_text("is waiting to be read")).to_be_visible()
        self.context.set_offline(True)
        expect(self.page.get_by_text("what you typed is kept")).to_be_visible()
        work()
        self.context.set_offline(False)
        expect(self.page.get_by_role("img", name=re.compile("Order chart"))).to_be_visible()
        expect(self.page.get_by_text("what you typed is kept")).to_have_count(0)

    def test_the_simulated_recorder_with_a_fault_chosen(self) -> None:
        self.finder()
        self.page.get_by_role("tab", name="Recorded").click()
        self.page.get_by_label("prop balance").uncheck()
        self.page.get_by_label("oval tyre").check()
        self.page.get_by_role("button", name="Start recording").click()
        expect(self.page.get_by_text("simulated: oval tyre is waiting to be read")).to_be_visible()
        work()
        sources = self.page.get_by_role("region", name="Possible causes")
        expect(sources.get_by_role("listitem").first).to_contain_text("Tyre and wheel, twice a turn")
        # another ratio in the vehicle: the same recording is held against it at once
        self.page.get_by_label("Rolling circumference (m)").fill("4.42")
        self.page.keyboard.press("Tab")
        expect(sources.get_by_role("listitem").first).not_to_contain_text("twice a turn: an oval tyre")

    def test_who_only_reads_sees_what_was_found(self) -> None:
        self.finder("Launch tender", by="visitor")
        expect(self.page.get_by_text("As the crew tells it")).to_be_visible()
        self.page.get_by_role("tab", name="Recorded").click()
        expect(self.page.get_by_role("img", name=re.compile("Order chart"))).to_be_visible()
        expect(self.page.get_by_text("Add a recording")).to_have_count(0)
        self.assertEqual(Recording.objects.count(), 1)


class ByTouch(TouchTestCase):
    def test_felt_on_a_phone(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/noise", "Noise finder")
        for label in ("A slow pulse that could be counted", "Steering wheel"):
            self.page.get_by_label(label).tap()
        expect(self.page.get_by_role("region", name="Possible causes").get_by_role("listitem").first).to_contain_text("Tyre and wheel")
        check = self.page.get_by_role("region", name="Quickest check")
        check.scroll_into_view_if_needed()
        expect(check.get_by_text("Caution:")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
