"""The bench when things go wrong: lost connections, an ended login, a killed answer, two at one axle; and what holds the job."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserTestCase, below
from setup_bench.models import BenchFinding, ConditionCheck, PatternReading, SleeveStep, TorqueReading, Trial


class NothingIsLost(BrowserTestCase):
    def bench(self, vehicle: str, tab: str) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job(vehicle))}/bench#{tab}", "Set-up bench")

    def test_a_patch_taken_without_a_connection_stays_on_the_flank_and_goes_out_by_the_next_press(self) -> None:
        self.bench("Library van", "pattern")
        drive = self.page.get_by_role("region", name="Drive side")
        self.page.get_by_role("group", name="Drive side: arrows move").focus()
        for _ in range(5):
            self.page.keyboard.press("ArrowUp")
        self.context.set_offline(True)
        drive.get_by_role("button", name="Record the drive pattern").click()
        expect(drive.get_by_text("The connection is lost.")).to_be_visible()
        self.assertEqual(PatternReading.objects.filter(trial__work__job=self.job("Library van")).count(), 0)
        self.context.set_offline(False)
        drive.get_by_role("button", name="Record the drive pattern").click()
        expect(drive.get_by_role("button", name="Record another reading")).to_be_visible()
        kept = PatternReading.objects.get(trial__work__job=self.job("Library van"))
        self.assertAlmostEqual(kept.v, 0.55, delta=0.02)

    def test_an_answer_lost_on_its_way_back_doubles_no_torque(self) -> None:
        self.bench("Timber crew", "preload")
        lost = self.loses_the_answer_to("**/torques")
        reads = self.page.get_by_role("textbox", name="Reading")
        reads.fill("2.1")
        take = self.page.get_by_role("region", name="Rotating torque").get_by_role("button", name="Record")
        take.click()
        expect(self.page.get_by_text("The connection is lost.").first).to_be_visible()
        expect(reads).to_have_value("2.1")
        take.click()
        expect(reads).to_have_value("")
        rows = TorqueReading.objects.filter(trial__work__job=self.job("Timber crew"))
        self.assertEqual((lost, rows.count()), ([201], 1))

    def test_an_ended_login_keeps_what_was_typed(self) -> None:
        self.bench("Timber crew", "preload")
        reads = self.page.get_by_role("textbox", name="Reading")
        reads.fill("2.1")
        self.login_ends_at("**/torques")
        self.page.get_by_role("region", name="Rotating torque").get_by_role("button", name="Record").click()
        self.sign_in_again("isla")
        expect(reads).to_have_value("2.1")
        self.page.get_by_role("region", name="Rotating torque").get_by_role("button", name="Record").click()
        expect(self.page.get_by_text("2.10 Nm", exact=True)).to_be_visible()

    def test_a_mistyped_torque_says_so_where_it_was_typed(self) -> None:
        self.bench("Timber crew", "preload")
        self.page.get_by_role("textbox", name="Reading").fill("2 pigs")
        self.page.get_by_role("region", name="Rotating torque").get_by_role("button", name="Record").click()
        expect(self.page.get_by_role("alert").filter(has_text="not a known unit")).to_be_visible()
        expect(self.page.get_by_role("textbox", name="Reading")).to_have_value("2 pigs")

    def test_the_sleeve_follows_the_nut_and_a_step_is_taken_back_with_a_reason(self) -> None:
        self.bench("Library van", "preload")
        run = self.page.get_by_role("region", name="Crush sleeve")
        for turn, torque in (("0", "0.3"), ("30", "0.9"), ("40", "9.9")):
            run.get_by_label("Nut turn from contact").fill(turn)
            run.get_by_label("Rotating torque, Nm").fill(torque)
            run.get_by_role("button", name="Record step").click()
            expect(run.get_by_role("img", name=re.compile(f"{turn}°: {float(torque):.2f} Nm"))).to_be_visible()
        expect(run.get_by_text("Past the window").first).to_be_visible()
        expect(run.get_by_text("Never back off the nut")).to_be_visible()
        run.get_by_text("Show as a table").click()
        run.get_by_role("button", name="Undo the step at 40°").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("textbox").fill("read 0.99")
        dialog.get_by_role("button", name="Confirm").click()
        expect(run.get_by_text("read 0.99")).to_be_visible()
        expect(run.get_by_text("Preload is building up.")).to_be_visible()
        self.assertEqual(SleeveStep.objects.filter(work__job=self.job("Library van")).count(), 4)
        run.get_by_label("Nut turn from contact").fill("35")
        run.get_by_label("Rotating torque, Nm").fill("1.2")
        run.get_by_role("button", name="Record step").click()
        expect(run.get_by_role("img", name=re.compile("35°: 1.20 Nm"))).to_be_visible()
        expect(run.get_by_text("to the middle of the window")).to_be_visible()

    def test_the_dial_is_checked_in_a_minute(self) -> None:
        self.bench("Library van", "backlash")
        self.page.get_by_text("Dial indicator: not checked on this job").click()
        for label, text in (
            ("Reading at zero", "0 mm"),
            ("Gauge block", "1 mm"),
            ("Reading on the block", "1.00 mm"),
            ("Reading back at the mark", "0.04 mm"),
        ):
            self.page.get_by_label(label, exact=True).fill(text)
        self.page.get_by_role("button", name="Save check").click()
        expect(self.page.get_by_text("out: clean it, clamp it, check again")).to_be_visible()


class WhatHolds(BrowserTestCase):
    def test_conditions_come_before_anything_counts_and_contact_finished_is_not_done(self) -> None:
        self.sign_in("tam")
        crew = self.job("Timber crew")
        self.go(f"{below(crew)}/bench", "Set-up bench")
        expect(self.page.get_by_text("The trial set-up is finished, the job is not.")).to_be_visible()
        self.page.get_by_role("button", name="Start the final reading").click()
        expect(self.page.get_by_role("heading", name="Check before these readings count")).to_be_visible()
        expect(self.page.get_by_text("Seal, new pinion nut and crush sleeve or solid spacer in")).to_be_visible()
        expect(self.page.get_by_text("Check the conditions first")).to_be_visible()
        self.page.get_by_role("button", name="Confirm all").click()
        expect(self.page.get_by_role("heading", name="Check before these readings count")).to_have_count(0)
        last = Trial.objects.filter(work__job=crew).latest("number")
        self.assertTrue(last.is_final)
        self.assertEqual(ConditionCheck.objects.get(trial=last).by_name, "Tam Birsay")
        self.assertIn("Not read or not judged since the final assembly", BenchFinding.objects.get(work=crew.pk).missing)
        self.go(f"/jobs/{crew.pk}", "Run sheet")
        self.page.get_by_text("To come").click()
        self.page.get_by_role("button", name="Everything read once more after the final assembly").click()
        step = self.page.locator("#step-final_reading")
        expect(step.get_by_text("Hold:").or_(step.get_by_text("after the final assembly")).first).to_be_visible()

    def test_set_up_bearings_are_remembered_and_the_final_shim_is_told(self) -> None:
        self.sign_in("isla")
        loader = self.job("Road-rail loader")
        self.go(f"{below(loader)}/bench", "What shims are in now?")
        self.page.get_by_label("Bearings").select_option("Set-up bearings")
        expect(self.page.get_by_text("has not been measured")).to_be_visible()
        self.page.get_by_label("Final less set-up bearing").fill("0.04 mm")
        self.page.get_by_label("Depth shim, ").fill("0.35 mm")
        self.page.get_by_role("button", name="Start trial 1").click()
        expect(self.page.get_by_role("heading", name="Set-up bench, trial 1")).to_be_visible()
        self.page.get_by_text("New trial").click()
        self.page.get_by_label("Bearings").last.select_option("Final bearings")
        # under the cartridge's flange a thicker shim draws back what the taller bearing pushes in
        expect(self.page.get_by_text("For this position now: 0.39 mm")).to_be_visible()
