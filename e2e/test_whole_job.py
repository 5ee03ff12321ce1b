"""A regear from the first complaint to the signed build sheet, with the keyboard alone."""

from __future__ import annotations

import csv
import json
import re
from pathlib import Path

from playwright.sync_api import Locator, expect

from demo_world.world import Sits
from e2e.axle_on_the_bench import AxleOnTheBench
from e2e.run_sheet import RunSheetTestCase
from jobs.models import Job
from setup_bench.models import Reading

MOST_TRIALS = 4
MOST_READINGS = 5


class WholeJob(RunSheetTestCase):
    def test_by_keyboard_alone(self) -> None:
        self._sign_in()
        self._make_the_job()
        self._identify()
        self._first_trial()
        self._until_contact_is_finished()
        self._sleeve()
        self._final_reading()
        self._run_sheet()
        self._sign_off()
        self._take_it_along()

    def button(self, name: str, *, exact: bool = False) -> Locator:
        return self.page.get_by_role("button", name=name, exact=exact)

    def link(self, name: str, *, exact: bool = False) -> Locator:
        return self.page.get_by_role("link", name=name, exact=exact)

    def _sign_in(self) -> None:
        self.page.goto("/")
        expect(self.page.get_by_label("Login name")).to_be_visible()
        self.fill("Login name", "isla")
        self.fill("Password", "amber-demo-bench")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="Floor")).to_be_visible()

    def _make_the_job(self) -> None:
        self.press(self.link("New job").first)
        expect(self.page.get_by_label("Customer", exact=True)).to_be_visible()
        self.fill("Customer", "Skerrow Nursery", exact=True)
        self.fill("Vehicle", "Delivery van, Corrie Carrier", exact=True)
        self.fill("Complaint", "Slow on the hill; wants a shorter ratio")
        self.tab_to(self.page.get_by_label("Axle family"))
        self.page.keyboard.type("Corrie")
        expect(self.page.get_by_text("Sample sheet", exact=True)).to_be_visible()
        self.press(self.button("Save job"))
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()

    def _identify(self) -> None:
        self.press(self.link("Gear set", exact=True))
        self.tab_to(self.page.get_by_label("Teeth counted"))
        self.page.keyboard.press("ArrowDown")
        self.fill("Pinion turns", "20.5")
        self.fill("Ratio on the tag or as told", "3.73")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("The ratio of 3.73 as told does not agree with the count.")).to_be_visible()
        self.press(self.button("Save 10 / 41"))
        expect(self.link("Gear set 10/41, 4.100")).to_be_visible()

    def _begin(self) -> None:
        self.press(self.link("Set-up bench", exact=True))
        expect(self.page.get_by_role("heading", name="What shims are in now?")).to_be_visible()
        self.fill("Depth shim, ", "0.70 mm + 0.28 mm")
        self.fill("Ring gear side", "4.60 mm + 0.05 mm")
        self.fill("Far side", "4.50 mm")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="Set-up bench, trial 1")).to_be_visible()
        self.axle = AxleOnTheBench(Job.objects.get(customer="Skerrow Nursery"), Sits(0.11, 0.103, 0.006))

    def _first_trial(self) -> None:
        self._begin()
        self._confirm()
        self._read("10", 1)
        self._read("77", 2, question="Discard")
        self.page.keyboard.press("x")
        expect(self.page.get_by_text("Discarded 77")).to_be_visible()
        for number, typed in enumerate(["0,09 mm", "4 thou", "11"], start=2):
            self._read(typed, number)
        self._read("44", 5)
        self.page.keyboard.press("Backspace")  # mistyped within ten seconds: struck out without a question
        expect(self.page.get_by_text("4 of 8 positions")).to_be_visible()
        expect(self.page.locator("section[aria-label='Reading strip'] .line-through")).to_have_text("44")
        for number in range(5, 9):
            self._read("10", number)
        expect(self.page.get_by_role("heading", name="Out", exact=True)).to_be_visible()
        expect(self.page.get_by_text("Paint the drive side: it would make")).to_be_visible()
        self._paint()

    def _confirm(self) -> None:
        self.press(self.button("Confirm all"))
        expect(self.button("Confirm all")).to_have_count(0)

    def _tab(self, name: str) -> None:
        self.tab_to(self.page.get_by_role("tab", selected=True))
        for _ in range(5):
            if self.page.get_by_role("tab", name=name).get_attribute("aria-selected") == "true":
                return
            self.page.keyboard.press("ArrowRight")
        self.fail(f"no tab {name}")

    def _paint(self) -> None:
        """Both patches moved by the arrow keys until they look like the axle's teeth."""
        self._tab("Pattern")
        for flank in ("drive", "coast"):
            u, v = self.axle.painted(flank)
            self.tab_to(self.page.get_by_role("group", name=f"{flank.capitalize()} side: arrows move the patch"))
            now = self._patch(flank)
            for more, less, steps in (("ArrowRight", "ArrowLeft", u - now[0]), ("ArrowUp", "ArrowDown", v - now[1])):
                for _ in range(abs(steps)):
                    self.page.keyboard.press(more if steps > 0 else less)
            self.page.keyboard.press("Enter")
            expect(
                self.page.get_by_role("region", name=f"{flank.capitalize()} side").get_by_role("button", name="Record another reading")
            ).to_be_visible()

    def _patch(self, flank: str) -> tuple[int, int]:
        label = self.page.get_by_role("img", name=f"{flank.capitalize()} side: patch at").get_attribute("aria-label") or ""
        u, v = (int(one) for one in re.findall(r"(\d+) %", label))
        return u, v

    def _read(self, typed: str, number: int, *, question: str | None = None) -> None:
        self.page.keyboard.type(typed)
        self.page.keyboard.press("Enter")
        if question:
            expect(self.button(question)).to_be_visible()
        else:
            expect(self.page.get_by_text(f"{number} of 8 positions")).to_be_visible()
            expect(self.page.get_by_text("waiting:")).to_have_count(0)

    def _trial(self, number: int) -> None:
        """Conditions, eight readings, two patches, as the axle gives them."""
        expect(self.page.get_by_role("heading", name=f"Set-up bench, trial {number}")).to_be_visible()
        self.axle.fit()
        self._confirm()
        self._tab("Backlash")
        for count, typed in enumerate(self.axle.backlash(), start=1):
            self._read(typed, count)
        self._paint()
        expect(self.page.get_by_text("calculating…")).to_have_count(0)
        for _ in range(MOST_READINGS):
            if not self.page.get_by_text("Read it again before you move anything.").count():
                break
            self._paint()
            expect(self.page.get_by_text("calculating…")).to_have_count(0)

    def _until_contact_is_finished(self) -> None:
        for number in range(2, MOST_TRIALS + 1):
            expect(self.page.get_by_text("calculating…")).to_have_count(0)
            self.press(self.button(f"Start trial {number}"))
            self._trial(number)
            expect(self.page.get_by_text("calculating…")).to_have_count(0)
            if self.page.get_by_text("The set-up is finished.").count():
                self.trials = number
                return
        self.fail("contact was never finished")

    def _sleeve(self) -> None:
        self._tab("Preload")
        for turn, torque, said in (
            ("0", "0.3", "Preload is building up."),
            ("50", "1.0", "to the middle of the window"),
            ("58", "1.9", "In. Stop here."),
        ):
            self.fill("Nut turn from contact", turn)
            self.fill("Rotating torque, Nm", torque)
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_text(said)).to_be_visible()

    def _final_reading(self) -> None:
        self.press(self.button("Start the final reading"))
        self._trial(self.trials + 1)
        expect(self.page.get_by_text("not read or not judged since the final assembly")).to_be_visible()
        self._tab("Preload")
        for what, torque in (("Pinion alone", "2.1"), ("Everything", "22 in-lb")):
            self.tab_to(self.page.get_by_label("What was turned"))
            self.page.keyboard.type(what)
            self.fill("Reading, Nm", torque)
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_label("Reading, Nm")).to_have_value("")
        self.press(self.link("Back to the run sheet"))

    def _run_sheet(self) -> None:
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        self.works_to(rotating_torque="20 in-lb", oil="1,6")

    def _sign_off(self) -> None:
        self.press(self.link("Every step is done"))
        expect(self.page.get_by_text("In this workshop a foreman signs off.")).to_be_visible()
        self.page.keyboard.press("Shift+Tab")
        address = self.page.url
        self.context.clear_cookies()
        self.sign_in("greta")
        self.page.goto(address)
        self.press(self.button("Sign off"))
        expect(self.page.get_by_role("heading", name="Signed off")).to_be_visible()
        paper = self.page.frame_locator("#paper")
        expect(paper.get_by_text("4 thou")).to_be_hidden()  # the first trial's, and the sheet shows the final one
        expect(paper.get_by_role("heading", name=f"final trial ({self.trials + 1})")).to_be_visible()

    def _take_it_along(self) -> None:
        files: dict[str, Path] = {}
        for name in ("Build sheet as PDF", "Whole job as JSON", "Readings as CSV"):
            with self.page.expect_download() as download:
                self.press(self.link(name))
            files[name] = Path(download.value.path())
        job = Job.objects.get(customer="Skerrow Nursery")
        self.assertEqual(job.state, "done")
        self.assertTrue(files["Build sheet as PDF"].read_bytes().startswith(b"%PDF-"))
        plain = json.loads(files["Whole job as JSON"].read_text())
        self.assertEqual(
            (plain["format"], plain["job"]["number"], len(plain["works"][0]["trials"])), ("amber-pinion.job", job.number, self.trials + 1)
        )
        rows = list(csv.DictReader(files["Readings as CSV"].open()))
        self.assertEqual(len(rows), Reading.objects.filter(trial__work__job=job).count())
        self.assertEqual([row["typed"] for row in rows if row["struck_out"] == "yes"], ["44"])
