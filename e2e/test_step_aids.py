"""What helps at a step: stages with the wrench's setting, oil, temperatures after the drive, true speed, prices side by side."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.run_sheet import RunSheetTestCase
from e2e.test_run_sheets import job_of
from work.models import StepRecord, Work


class StepAids(RunSheetTestCase):
    def test_stages_with_an_adapter_on_the_wrench(self) -> None:
        self.sign_in("isla")
        self.go(f"/jobs/{self.job('Four-wheel-drive').pk}", "Ring gear bolts torqued")
        step = self.in_hand
        stages = step.get_by_role("table", name="Stages")
        self.assertEqual([one.inner_text() for one in stages.locator("td").all()], ["48 Nm", "76 Nm", "95 Nm"])
        expect(step.get_by_text("New ones every time.")).to_be_visible()
        self.press(step.get_by_text("With an adapter on the wrench"))
        for label, typed in (("Grip to square, mm", "450"), ("Adapter, mm", "50"), ("Adapter angle, °", "90")):
            self.tab_to(step.get_by_label(label))
            self.page.keyboard.type(typed)
        self.page.keyboard.press("Tab")
        expect(stages.get_by_text("95 Nm")).to_have_count(2)  # square across the wrench an adapter changes nothing
        step.get_by_label("Adapter angle, °").fill("0")
        self.page.keyboard.press("Tab")
        expect(stages.get_by_text("86 Nm")).to_have_count(1)  # 95 x 450 / 500
        self.assertEqual(self.violations(self.page), [])

    def test_oil_then_temperatures_into_the_note(self) -> None:
        self.sign_in("isla")
        job = job_of("pinion_seal")
        self.go(f"/jobs/{job.pk}", "Run sheet")
        self.works_to("road_test", rotating_torque="1.5 Nm", nut_thread_exposed="6.2", oil="3.4 l")
        step = self.in_hand
        self.press(step.get_by_text("Temperatures after the drive"))
        for label, typed in (("Air, °C", "15"), ("Pinion, °C", "92"), ("Left wheel end, °C", "41"), ("Right wheel end, °C", "43")):
            self.tab_to(step.get_by_label(label))
            self.page.keyboard.type(typed)
        self.page.keyboard.press("Tab")
        expect(step.get_by_text("pinion: 77 °C over the air, up to 70 is usual")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.press(step.get_by_role("button", name="Put it into the note"))
        expect(step.get_by_label("What was heard")).to_have_value(re.compile("pinion 92 °C, left 41 °C, right 43 °C, air 15 °C: out"))
        self.press(step.locator(".btn-primary"))
        expect(self.page.locator("#step-road_test.step-in-hand")).to_have_count(0)
        self.assertIn("pinion 92", StepRecord.objects.get(work=job.pk, step_code="road_test").note)

    def test_prices_side_by_side(self) -> None:
        self.sign_in("isla")
        job = job_of("strip_and_report")
        self.go(f"/jobs/{job.pk}", "Run sheet")
        self.page.get_by_text("Done", exact=True).click()
        self.page.get_by_role("button", name=re.compile("^Undo ?: Quote with its ways")).click()
        self.page.get_by_role("dialog").get_by_role("textbox").fill("Another way asked for")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#step-quote.step-in-hand")).to_be_visible()
        step = self.in_hand
        self.press(step.get_by_text("Prices side by side"))
        step.get_by_label("An hour").fill("60,00")
        for index, (hours, parts, credit) in enumerate((("6", "410", ""), ("3", "1450", "300"))):
            way = step.get_by_role("group", name=f"Way {index + 1}")
            for label, typed in (("Hours", hours), ("Parts", parts), ("Credit for the old part", credit)):
                way.get_by_label(label, exact=True).fill(typed)
                self.page.keyboard.press("Tab")
        row = step.get_by_role("row", name=re.compile("^Repair"))
        expect(row.get_by_text("770.00")).to_be_visible()
        expect(row.get_by_text("cheapest")).to_be_visible()
        expect(step.get_by_role("row", name=re.compile("^Exchange unit")).get_by_text("1330.00")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.press(step.get_by_role("button", name="Put it into the note"))
        expect(step.get_by_label("Sum of each way")).to_have_value("Repair 770.00, 0 days; Exchange unit 1330.00, 0 days.")

    def test_true_speed_while_it_is_typed(self) -> None:
        self.sign_in("isla")
        work = Work.objects.get(kind="speedometer")
        self.go(f"/jobs/{work.job_id}/work/{work.pk}", "Run sheet")
        self.works_to("speed_pairs")
        step = self.in_hand
        for label, typed in (("Shown, slower", "50"), ("True, slower", "53"), ("Shown, faster", "90"), ("True, faster", "95,4")):
            self.tab_to(step.get_by_label(re.compile(f"^{label}")))
            self.page.keyboard.type(typed)
        expect(step.get_by_text("True speed is 1.060 of the speed shown.")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
