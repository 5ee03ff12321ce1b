"""Other kinds of work at the bench: a seal by its mark with overshoot, a soak that runs, two axles, parked and taken up, a second visit."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserTestCase
from e2e.run_sheet import RunSheetTestCase
from e2e.touch import TouchTestCase
from jobs.models import Job
from work.models import StepRecord, WayChoice, Work


def job_of(kind: str) -> Job:
    """The demo job of a kind of work."""
    return Job.objects.filter(works__kind=kind, works__number=1).earliest("number")


class BackToItsMark(RunSheetTestCase):
    def test_past_the_mark_it_goes_over_to_a_new_sleeve(self) -> None:
        self.sign_in("isla")
        job = job_of("pinion_seal")
        self.go(f"/jobs/{job.pk}", "How the pinion preload is set")
        self.assertEqual(self.violations(self.page), [])
        expect(self.in_hand.get_by_role("radio", name=re.compile("Back to its mark"))).to_be_checked()
        self.press(self.in_hand.get_by_role("button", name="Choose"))
        expect(self.in_hand.get_by_text("As found 1.40 Nm")).to_be_visible()
        for label, typed in (("Rotating torque", "3.4 Nm"), ("Thread past the nut", "6.4")):
            self.tab_to(self.in_hand.get_by_label(label))
            self.page.keyboard.type(typed)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("The hold point stays closed.")).to_be_visible()
        expect(self.in_hand.get_by_label("Rotating torque")).to_have_value("3.4 Nm")
        self.press(self.in_hand.get_by_role("button", name="Record it, the hold point stays closed"))
        expect(self.in_hand.get_by_text("Rotating torque: 3.4 Nm.")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_text("Done", exact=True).click()
        self.press(self.page.get_by_role("button", name=re.compile("^How the pinion preload is set")))
        looked = self.page.get_by_role("article", name="A step")
        self.tab_to(looked.get_by_role("radio").first)
        self.page.keyboard.press("ArrowDown")
        expect(looked.get_by_role("radio", name=re.compile("New crush sleeve"))).to_be_checked()
        self.tab_to(looked.get_by_label("Reason"))
        self.page.keyboard.type("Past the mark")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="New crush sleeve and new nut on")).to_be_visible()
        self.assertEqual([one.way for one in WayChoice.objects.filter(work=job.pk, question="nut")], ["back_to_mark", "new_sleeve"])
        self.works_to("oil", rotating_torque="2.6 Nm")
        self.assertEqual(StepRecord.objects.filter(work=job.pk, step_code="nut_to_mark", outcome="out").count(), 1)


class TheSoakRuns(RunSheetTestCase):
    def test_the_clock_runs_while_the_work_goes_on(self) -> None:
        self.sign_in("isla")
        job = job_of("clutch_packs")
        self.go(f"/jobs/{job.pk}", "As-found breakaway torque between the wheels")
        running = self.page.get_by_role("list", name="Running")
        expect(running).to_contain_text("New friction plates soaking")
        expect(running).to_contain_text("to go")
        self.assertEqual(self.violations(self.page), [])
        self.works_to("stack")
        expect(running).to_contain_text("New friction plates soaking")
        self.go("/", "Floor")
        expect(self.page.get_by_text("New friction plates soaking").first).to_be_visible()

    def test_arrows_look_and_pass_nothing(self) -> None:
        self.sign_in("isla")
        job = job_of("clutch_packs")
        self.go(f"/jobs/{job.pk}", "As-found breakaway torque between the wheels")
        before = StepRecord.objects.count()
        self.page.keyboard.press("ArrowDown")
        expect(self.page.get_by_role("heading", name="Fill plug loose, before the drain plug is touched")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("heading", name="As-found breakaway torque between the wheels")).to_be_visible()
        self.assertEqual(StepRecord.objects.count(), before)


class TwoAxles(BrowserTestCase):
    def test_two_people_work_on_two_pieces_of_one_job(self) -> None:
        self.sign_in("isla")
        job = Job.objects.get(vehicle__name__startswith="Lighthouse truck")
        front = Work.objects.get(job=job, number=2)
        self.go(f"/jobs/{job.pk}", "Fill plug loose, before the drain plug is touched")
        expect(self.page.get_by_role("link", name=re.compile("Speedometer correction, whole vehicle"))).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        other = self.new_page(self.new_context())
        self.sign_in("tam", other)
        self.go(f"/jobs/{job.pk}/work/{front.pk}", "Vehicle on axle stands, chocked both ways", other)
        other.get_by_role("button", name="Confirm").click()
        self.page.get_by_role("button", name="Confirm").click()
        expect(other.get_by_role("heading", name="Key away")).to_be_visible()
        expect(self.page.get_by_role("heading", name="Oil drained")).to_be_visible()
        self.assertEqual(StepRecord.objects.get(work=front, step_code="stands_and_chocks").by_name, "Tam Birsay")
        self.assertEqual(StepRecord.objects.get(work=job.pk, step_code="fill_plug").by_name, "Isla Moray")

    def test_both_axles_are_booked_in_one_go(self) -> None:
        self.sign_in("callum")
        self.go("/jobs/new", "New job")
        self.page.get_by_label("Customer", exact=True).fill("Dr E. Sound")
        self.page.get_by_role("textbox", name="Vehicle").fill("Surgery car, Brannoch Moor")
        self.page.get_by_label("Layout").select_option("four_wheel_drive")
        self.page.get_by_label("Complaint").fill("Taller tyres; gearing does not suit them")
        self.page.get_by_label("Odometer").fill("84200")
        expect(self.page.get_by_text("The complaint points at:")).to_be_visible()
        first = self.page.get_by_role("group", name="Work 1")
        first.get_by_label("Axle family").select_option("brannoch-bf21")
        self.page.get_by_role("button", name="Speedometer correction").click()
        self.page.get_by_role("button", name="Add another piece of work").click()
        third = self.page.get_by_role("group", name="Work 3")
        third.get_by_label("Kind of work").select_option("ring_and_pinion")
        third.get_by_label("Part of the vehicle").select_option("front_axle")
        third.get_by_label("Axle family").select_option("brannoch-bf21")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Save job").click()
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        works = Work.objects.filter(job__customer="Dr E. Sound", job__vehicle__name__startswith="Surgery").order_by("number")
        self.assertEqual(
            [(one.kind, one.assembly.place) for one in works],
            [
                ("ring_and_pinion", "rear_axle"),
                ("speedometer", "vehicle"),
                ("ring_and_pinion", "front_axle"),
            ],
        )


class Parked(BrowserTestCase):
    def test_a_colleague_takes_up_what_was_parked(self) -> None:
        self.sign_in("isla")
        job = job_of("shaft_made")
        self.go(f"/jobs/{job.pk}", "Waiting for the shaft")
        expect(self.page.get_by_text("Old shaft on the rack, flange bolts in tray 4.").first).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="It is here: go on").click()
        expect(self.page.get_by_role("heading", name="On return: length, phase, balance report and runout")).to_be_visible()
        job.refresh_from_db()
        self.assertEqual((job.state, job.waits_for), ("in_work", "nothing"))


class ByThumb(TouchTestCase):
    def test_half_shafts_by_touch(self) -> None:
        self.sign_in("isla")
        job = job_of("half_shafts")
        self.go(f"/jobs/{job.pk}", "Half shafts in: circlip gap down")
        self.page.get_by_role("button", name="Confirm").tap()
        expect(self.page.get_by_text("As found 3.00 mm")).to_be_visible()
        self.page.get_by_label("Gap, left (mm)").tap()
        self.page.keyboard.type("7.0")
        self.page.get_by_label("Gap, right (mm)").tap()
        self.page.keyboard.type("3.1")
        self.page.get_by_role("button", name="Record", exact=True).tap()
        expect(self.page.get_by_text("Gap, left has changed by +4.00 mm since it was found")).to_be_visible()
        self.page.get_by_label("Gap, left (mm)").fill("3.2")
        self.page.get_by_role("button", name="Record", exact=True).tap()
        expect(self.page.get_by_role("heading", name="New hub nut torqued before the wheel carries weight")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
