"""Drivelines and recordings: nothing lost and nothing doubled, each in the person's own units, both drivelines of one transfer case."""

from __future__ import annotations

import re

from playwright.sync_api import FilePayload, expect

from driveline_desk.models import JointInspection
from e2e.base import BrowserTestCase, below
from noise_finder.models import Recording
from work.models import KeptAnswer


class Drivelines(BrowserTestCase):
    def desk(self, vehicle: str, by: str = "isla") -> None:
        self.sign_in(by)
        self.go(f"{below(self.job(vehicle))}/driveline", "Driveline desk")
        expect(self.page.get_by_role("group", name=re.compile("Side view"))).to_be_visible()

    def keep(self, title: str) -> None:
        self.page.get_by_label("Title").fill(title)
        self.page.get_by_role("button", name="Save to this job").click()

    def typed(self, label: str, text: str) -> None:
        self.page.get_by_label(label, exact=True).fill(text)
        self.page.keyboard.press("Tab")

    def reads(self, ask: str, text: str) -> None:
        """A figure typed at its member."""
        self.page.get_by_role("button", name=re.compile(f"^{ask}.* Edit")).click()
        self.page.locator("#member-reading").fill(text)
        self.page.keyboard.press("Enter")

    def stands(self, ask: str, told: str) -> None:
        """What the list of readings says of it."""
        expect(self.page.get_by_role("button", name=re.compile(f"^{ask}: {told}"))).to_be_visible()

    def test_an_answer_lost_on_its_way_back_keeps_one(self) -> None:
        self.desk("Library van")
        lost = self.loses_the_answer_to("**/driveline-results")
        before = KeptAnswer.objects.count()
        self.keep("Once")
        expect(self.page.get_by_text("The connection is lost. What you typed is kept")).to_be_visible()
        self.page.get_by_role("button", name="Save to this job").click()
        expect(self.page.get_by_role("button", name="Show Once")).to_be_visible()
        self.assertEqual((lost, KeptAnswer.objects.count()), ([201], before + 1))

    def test_an_ended_login_loses_nothing_that_was_typed(self) -> None:
        self.desk("Library van")
        self.reads("Pinion slope", "1.5")
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 2: 5.0°"))).to_be_visible()
        self.login_ends_at("**/driveline-results")
        self.keep("After the break")
        self.sign_in_again("isla")
        self.stands("Pinion slope", "1.5°")
        self.page.get_by_role("button", name="Save to this job").click()
        expect(self.page.get_by_role("button", name="Show After the break")).to_be_visible()

    def test_what_was_kept_is_taken_up_by_somebody_else(self) -> None:
        self.desk("Timber crew", by="greta")
        expect(self.page.get_by_text("with the remedy; dashed: as it is")).to_be_visible()
        self.page.get_by_role("button", name="Show As it came, raised 50 mm").click()
        self.page.get_by_role("button", name="Open at the desk").click()
        expect(self.page.get_by_text("with the remedy; dashed: as it is")).to_have_count(0)
        expect(self.page.get_by_role("group", name=re.compile("Joint 2: 7.3°, OUT")).first).to_be_visible()
        self.stands("Propshaft slope", "8.6°")

    def test_inches_miles_and_pounds_for_who_works_in_them(self) -> None:
        self.desk("Timber crew", by="tam")
        self.stands("Propshaft length, joint to joint", "length 46.46 in")
        expect(self.page.get_by_label("Road speed, mph")).to_have_value("56")
        self.page.get_by_role("tab", name="Tube").click()
        expect(self.page.get_by_label("Outside diameter, in").first).to_have_value("3")
        expect(self.page.get_by_role("row", name=re.compile("^Maximum road speed .* mph"))).to_be_visible()
        self.reads("Propshaft length", "50")
        self.page.get_by_role("tab", name="Travel and length").click()
        expect(self.page.get_by_text(re.compile(r"^5\d\.\d\d in$"))).to_be_visible()
        expect(self.page.get_by_text(re.compile(r"Spline engagement when fully drawn out is 3\.1\d in"))).to_be_visible()
        self.keep("In inches")
        expect(self.page.get_by_role("button", name="Show In inches")).to_be_visible()
        kept = KeptAnswer.objects.get(title="In inches")
        self.assertAlmostEqual(kept.inputs["readings"]["shafts"][0]["length_mm"], 1270.0, places=3)

    def test_both_drivelines_of_one_transfer_case(self) -> None:
        self.desk("Timber crew")
        self.page.get_by_label("Front", exact=True).check()
        expect(self.page.get_by_text("Sample figures")).to_be_visible()
        self.reads("Pinion slope", "2")
        expect(self.page.get_by_text("Sample figures")).to_have_count(0)
        self.page.get_by_label("Rear", exact=True).check()
        self.stands("Pinion slope", "1.5°")
        self.page.get_by_text("Axle, mounts and suspension").click()
        self.typed("Front mounts ahead of the output, mm", "900")
        expect(self.page.get_by_label("Tail mount ahead of the output, mm")).to_be_visible()
        self.page.get_by_role("tab", name="Remedy").click()
        leave = self.page.get_by_role("button", name="Remove the remedy")
        leave.click()
        expect(leave).to_have_count(0)
        self.page.get_by_label("Wedges under the spring pads").uncheck()
        self.page.get_by_label("Phasing by whole teeth").uncheck()
        self.page.get_by_label("Shim at the tail mount").check()
        self.page.get_by_role("button", name="Find the fewest changes").click()
        proposed = self.page.get_by_role("region", name="Proposal")
        expect(proposed.get_by_text("of the gearbox or transfer case by")).to_be_visible()
        expect(proposed.get_by_text("The front propshaft changes too")).to_be_visible()

    def test_a_remedy_tried_by_hand_stands_beside_what_is(self) -> None:
        self.desk("Library van")
        self.page.get_by_role("tab", name="Remedy").click()
        self.typed("Wedge (° nose up)", "-2")
        expect(self.page.get_by_text("with the remedy; dashed: as it is")).to_be_visible()
        expect(self.page.get_by_role("row", name=re.compile("^with the remedy")).first).to_be_visible()
        self.page.get_by_role("tab", name="Angles").click()
        expect(self.page.get_by_role("columnheader", name="With the remedy")).to_be_visible()

    def test_it_stands_on_the_build_sheet_and_the_counter_inspects_no_joint(self) -> None:
        self.desk("Launch tender", by="callum")
        self.page.get_by_role("tab", name="Joints").click()
        expect(self.page.get_by_text("Joint 2: Replace")).to_be_visible()
        expect(self.page.get_by_role("button", name="Save this joint")).to_have_count(0)
        self.go(f"/api/v1/work/{self.job('Launch tender').pk}/sheet.html", "Job 420: Launch tender")
        expect(self.page.get_by_role("heading", name="Noise and vibration")).to_be_visible()
        expect(self.page.get_by_text("Rear driveline, joint 2: replace")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.assertEqual(JointInspection.objects.filter(work__job=self.job("Launch tender")).count(), 2)


class Noises(BrowserTestCase):
    def finder(self, vehicle: str, by: str = "isla") -> None:
        self.sign_in(by)
        self.go(f"{below(self.job(vehicle))}/noise", "Noise finder")
        expect(self.page.get_by_role("heading", name="Possible causes")).to_be_visible()

    def test_a_file_sent_twice_after_a_lost_answer_is_stored_once(self) -> None:
        self.finder("Library van")
        lost = self.loses_the_answer_to("**/recordings")
        self.page.get_by_role("tab", name="Recorded").click()
        rows = "\n".join(f"{n / 100},{n % 7},0,9.8" for n in range(900))
        file = FilePayload(name="a.csv", mimeType="text/csv", buffer=rows.encode())
        # one and the same file of the person's: the browser tells when it was changed
        self.page.evaluate("Object.defineProperty(File.prototype, 'lastModified', {get: () => 1})")
        self.page.get_by_label("File").set_input_files([file])
        expect(self.page.get_by_text("The connection is lost")).to_be_visible()
        self.page.get_by_label("File").set_input_files([file])
        expect(self.page.get_by_text("a.csv is waiting to be read")).to_be_visible()
        self.assertEqual((lost, Recording.objects.filter(name="a.csv").count()), ([201], 1))

    def test_what_is_told_outlives_the_page(self) -> None:
        self.finder("Library van")
        self.page.get_by_label("Seat").check()
        self.page.get_by_label("on overrun").check()
        self.page.get_by_role("button", name="Add a drive").click()
        expect(self.page.get_by_text("Drive 2", exact=True)).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_label("Seat")).to_be_checked()
        expect(self.page.get_by_label("on overrun")).to_be_checked()
        expect(self.page.get_by_text("Drive 2", exact=True)).to_be_visible()

    def test_two_gears_at_one_speed_tell_engine_from_shaft(self) -> None:
        self.finder("Library van")
        self.page.get_by_label("Counted (Hz)").fill("46.4")
        self.page.keyboard.press("Tab")
        self.page.get_by_role("button", name="Add a drive").click()
        self.page.get_by_label("Gear ratio").nth(1).fill("1.4")
        self.page.keyboard.press("Tab")
        self.page.get_by_label("Counted (Hz)").nth(1).fill("46.8")
        self.page.keyboard.press("Tab")
        first = self.page.get_by_role("region", name="Possible causes").get_by_role("listitem").first
        expect(first).to_contain_text("Likely")
        expect(first).to_contain_text("Propshaft, once a turn")

    def test_miles_for_who_drives_in_them_and_bearings_on_the_chart(self) -> None:
        self.finder("Launch tender", by="tam")
        expect(self.page.get_by_label("Road speed, mph")).to_have_value("34")
        self.page.get_by_text("Bearings", exact=True).click()
        self.page.get_by_role("button", name="Add a bearing").click()
        self.page.get_by_label("Balls or rollers").fill("12")
        self.page.keyboard.press("Tab")
        self.page.get_by_role("tab", name="Recorded").click()
        expect(self.page.get_by_role("img", name=re.compile("Order chart.* mph"))).to_be_visible()
        self.page.get_by_text("Lines shown").click()
        line = self.page.get_by_label("bearing 1 outer")
        line.check()
        expect(self.page.get_by_role("img", name=re.compile("Order chart"))).to_contain_text("bearing 1 outer")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_label("Title").fill("With the bearing")
        self.page.get_by_role("button", name="Save to this job").click()
        expect(self.page.get_by_text("With the bearing")).to_be_visible()
        kept = KeptAnswer.objects.get(title="With the bearing")
        self.assertEqual(kept.inputs["drivetrain"]["bearings"][0]["balls"], 12)

    def test_an_absurd_figure_gets_its_sentence_and_stays(self) -> None:
        self.finder("Library van")
        self.page.get_by_label("Rolling circumference (m)").fill("2200")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("Rolling circumference must be 0.3 to 12 m. Give it in metres.")).to_be_visible()
        expect(self.page.get_by_label("Rolling circumference (m)")).to_have_value("2200")
        self.page.get_by_label("Rolling circumference (m)").fill("2,2")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("Give it in metres")).to_have_count(0)
