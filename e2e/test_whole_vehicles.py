"""Several pieces of work on one job, a vehicle that comes again, sheets that change, addresses from before, another person's reading."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserTestCase, below
from jobs.models import Job
from setup_bench.models import Reading
from stores.models import AxleFamily, SpecLimit
from stores.sheets import current_revision
from work.models import SheetAdoption, Work


class WholeVehicles(BrowserTestCase):
    def test_work_is_added_to_the_other_axle_and_has_its_own_run_sheet(self) -> None:
        self.sign_in("isla")
        four = self.job("Four-wheel-drive")
        self.go(f"/jobs/{four.pk}", "Run sheet")
        expect(self.page.get_by_text("26 of 53 done")).to_be_visible()
        self.page.get_by_role("button", name="Add work").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Kind of work").select_option("ring_and_pinion")
        dialog.get_by_label("Part of the vehicle").select_option("rear_axle")
        dialog.get_by_label("Axle family").select_option("brannoch-bf21")
        self.assertEqual(self.violations(self.page), [])
        dialog.get_by_role("button", name="Add", exact=True).click()
        expect(self.page.get_by_text(re.compile("^0 of .* done$"))).to_be_visible()
        second = Work.objects.get(job=four, number=2)
        expect(self.page).to_have_url(re.compile(f"/jobs/{four.pk}/work/{second.pk}$"))
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("link", name="Set-up bench", exact=True).click()
        expect(self.page.get_by_role("heading", name="What shims are in now?")).to_be_visible()
        self.page.go_back()
        self.page.get_by_role("link", name="Ring and pinion, front axle").click()
        expect(self.page.get_by_text("26 of 53 done")).to_be_visible()

    def test_a_known_vehicle_gets_its_next_job_on_its_record(self) -> None:
        self.sign_in("callum")
        van = self.job("Library van")
        self.go("/vehicles", "Vehicles")
        self.page.get_by_role("searchbox").fill("library")
        self.page.get_by_role("link", name="Library van").click()
        expect(self.page.get_by_text("Corrie LS19, gear set 10/41")).to_be_visible()
        self.page.get_by_role("link", name="New job for this vehicle").click()
        expect(self.page.get_by_label("Customer", exact=True)).to_have_value("Island Library Service")
        self.page.get_by_label("Complaint").fill("Hums again")
        self.page.get_by_label("Axle family").select_option(value="corrie-ls19")
        self.page.get_by_role("button", name="Save job").click()
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        self.assertEqual(Job.objects.filter(vehicle=van.vehicle_id).count(), 2)
        self.page.get_by_role("link", name="Library van").click()
        expect(self.page.get_by_role("link", name=re.compile("Hums again"))).to_be_visible()

    def test_a_newer_sheet_is_said_and_taken_over_with_a_reason(self) -> None:
        SpecLimit.objects.filter(family__code="corrie-ls19", quantity="backlash").update(least=0.06, greatest=0.12)
        current_revision(AxleFamily.objects.get(code="corrie-ls19"))
        self.sign_in("isla")
        van = self.job("Library van")
        self.go(f"/jobs/{van.pk}", "The spec sheet has changed since this work was booked")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Change to revision 2").click()
        self.page.get_by_role("dialog").get_by_role("textbox").fill("Maker's bulletin")
        self.page.get_by_role("button", name="Confirm").click()
        expect(self.page.get_by_role("heading", name="The spec sheet has changed")).to_have_count(0)
        self.assertEqual(SheetAdoption.objects.get(work=van.pk).reason, "Maker's bulletin")
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("0.06 to 0.12 mm")).to_be_visible()

    def test_addresses_from_before_lead_to_the_first_piece_of_work(self) -> None:
        self.sign_in("isla")
        van = self.job("Library van").pk
        for page, heading in (
            ("bench#pattern", "Set-up bench"),
            ("ratios", "Ratio desk"),
            ("sheet", "Build sheet"),
            ("noise", "Noise finder"),
        ):
            with self.subTest(page):
                self.go("/you", "Isla Moray")
                self.go(f"/jobs/{van}/{page}", heading)
                expect(self.page).to_have_url(re.compile(re.escape(f"{below(van)}/{page}") + "$"))

    def test_what_isla_typed_offline_is_not_sent_in_tams_name_or_unit(self) -> None:
        """On a shared tablet: 8 is hundredths of a millimetre for Isla and thousandths of an inch for Tam."""
        self.sign_in("isla")
        van = self.job("Library van")
        before = Reading.objects.count()
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("4 of 8 positions")).to_be_visible()
        self.context.set_offline(True)
        self.page.keyboard.type("9")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("1 waiting:")).to_be_visible()
        self.context.clear_cookies()
        self.context.set_offline(False)
        self.sign_in_by_form("tam")
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text(re.compile("isla", re.IGNORECASE)).first).to_be_visible()
        self.assertEqual(Reading.objects.count(), before)
        self.context.clear_cookies()
        self.sign_in_by_form("isla")
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("5 of 8 positions")).to_be_visible()
        expect(self.page.get_by_text(re.compile("^\\d waiting:"))).to_have_count(0)
        kept = Reading.objects.latest("id")
        self.assertEqual((kept.by_name, kept.value_mm, kept.typed), ("Isla Moray", 0.09, "9"))
