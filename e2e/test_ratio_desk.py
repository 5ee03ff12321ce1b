"""The ratio desk by keyboard: a plan made, kept, taken along and lent to the customer; front against rear; lists of the Stores."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import FilePayload, expect

from e2e.base import BrowserTestCase, below
from e2e.touch import TouchTestCase
from jobs.models import AxleFact
from vehicles.models import Vehicle
from work.models import KeptAnswer


class TheDesk(BrowserTestCase):
    def desk(self, vehicle: str = "Library van") -> None:
        self.go(f"{below(self.job(vehicle))}/ratios", "Ratio desk")
        expect(self.page.get_by_role("heading", name="Compared")).to_be_visible()

    def test_a_plan_by_keyboard_kept_and_lent(self) -> None:
        self.sign_in("isla")
        self.go(f"/jobs/{self.job('Library van').pk}", "Run sheet")
        self.press(self.page.get_by_role("link", name="Ratio desk"))
        expect(self.page.get_by_role("heading", name="Compared")).to_be_visible()
        self.fill("Tyre planned", "225/85R16")
        expect(self.page.get_by_text("The new tyres gear it 8.2 % longer").last).to_be_visible()
        self.press(self.page.get_by_role("button", name=re.compile("^Compare 9.41")))
        expect(self.page.get_by_role("button", name="9/41", exact=True)).to_have_attribute("aria-pressed", "true")
        expect(self.page.get_by_text("instead of").first).to_be_visible()
        self.tab_to(self.page.get_by_label("with other gearboxes too"))
        self.page.keyboard.press("Space")
        self.tab_to(self.page.get_by_role("button", name=re.compile("^Compare 10.41, Corrie C6")), most=300)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="10/41, Corrie C6, six-speed", exact=True)).to_be_visible()
        self.fill("Title", "For the winter")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("For the winter", exact=True).first).to_be_visible()
        kept = KeptAnswer.objects.get(title="For the winter")
        self.assertEqual(len(kept.answer["compared"]["gearings"]), 4)
        self.press(self.page.get_by_role("button", name=re.compile("^Show ?For the winter")))
        self.page.get_by_label("Fitted to the vehicle").select_option("9/41")
        self.press(self.page.get_by_role("button", name="Put it on the vehicle"))
        expect(self.page.get_by_text("9/41: tyres and teeth are on the vehicle.")).to_be_visible()
        self.assertEqual(AxleFact.objects.latest("id").tyre, "225/85R16")
        self.press(self.page.get_by_role("button", name="Link for the customer").last)
        link = self.page.locator("output").inner_text()

        stranger = self.new_page(self.browser.new_context(base_url=self.live_server_url))
        stranger.goto(link)
        expect(stranger.get_by_role("heading", name="For the winter")).to_be_visible()
        expect(stranger.get_by_role("link", name="Floor")).to_have_count(0)
        self.assertEqual(self.violations(stranger), [])
        stranger.get_by_label("miles and pounds").check()
        expect(stranger.get_by_text("rpm at 50 mph").first).to_be_visible()
        stranger.goto(link[:-4] + "xxxx")
        expect(stranger.get_by_text("This link is wrong or has expired.")).to_be_visible()
        stranger.context.close()

    def test_what_is_turned_outlives_the_page_and_is_worked_out_at_once(self) -> None:
        self.sign_in("isla")
        self.desk()
        cruise = self.page.get_by_label("Cruising speed, slider")
        figure = self.page.locator("dl div").first
        before = figure.inner_text()
        cruise.fill("110")
        expect(self.page.get_by_role("region", name="Answer").get_by_text("rpm at 110 km/h").first).to_be_visible()
        self.assertNotEqual(figure.inner_text(), before)
        self.page.reload()
        expect(self.page.get_by_role("region", name="Answer").get_by_text("rpm at 110 km/h").first).to_be_visible()

    def test_turned_without_a_connection_it_is_worked_out_when_it_is_back(self) -> None:
        self.sign_in("isla")
        self.desk()
        self.context.set_offline(True)
        self.page.get_by_label("Cruising speed, slider").fill("110")
        expect(self.page.get_by_text("what you entered is kept")).to_be_visible()
        self.context.set_offline(False)
        expect(self.page.get_by_role("region", name="Answer").get_by_text("rpm at 110 km/h").first).to_be_visible()
        expect(self.page.get_by_text("what you entered is kept")).to_have_count(0)

    def test_a_size_that_cannot_be_read_says_so_and_loses_nothing(self) -> None:
        self.sign_in("isla")
        self.desk()
        now = self.page.get_by_role("form", name="Inputs").get_by_label("Tyre fitted")
        for text, sentence in (
            ("L78-15", "For a letter-coded size, measure a roll-out."),
            ("265/170R17", "Aspect ratio must be 20 to 110 %"),
        ):
            with self.subTest(text):
                now.fill(text)
                expect(self.page.get_by_text(sentence)).to_be_visible()
                expect(now).to_have_value(text)
                # the last answer stays, greyed, and the page does not jump
                expect(self.page.get_by_role("region", name="Answer")).to_have_attribute("aria-busy", "true")
                expect(self.page.get_by_role("heading", name="Compared")).to_be_visible()
        now.fill("7.50R16")
        expect(self.page.get_by_text("This size does not give the aspect ratio.")).to_be_visible()

    def test_charts_have_words_and_tables(self) -> None:
        self.sign_in("tam")
        self.desk()
        expect(self.page.get_by_role("img", name=re.compile("engine speed over road speed. Gear 1 to .* mph"))).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("wheel force over road speed"))).to_be_visible()
        self.page.get_by_text("As it is as a table").click()
        expect(self.page.get_by_role("columnheader", name="After the upshift")).to_be_visible()

    def test_it_starts_from_what_is_in_the_vehicle_and_puts_another_gearbox_on_its_record(self) -> None:
        self.sign_in("isla")
        self.desk()
        box = self.page.get_by_label("Gearbox fitted")
        expect(box.locator("option:checked")).to_have_text("Corrie C5, five-speed")
        expect(self.page.get_by_role("button", name="Save gearbox to this vehicle")).to_have_count(0)
        box.select_option(label="Corrie C6, six-speed")
        self.page.get_by_role("button", name="Save gearbox to this vehicle").click()
        expect(self.page.get_by_role("button", name="Save gearbox to this vehicle")).to_have_count(0)
        self.assertEqual(Vehicle.objects.get(name__startswith="Library van").gearbox, "corrie-c6")

    def test_no_ratio_that_gives_the_old_feel_back_is_said(self) -> None:
        self.sign_in("isla")
        self.desk()
        self.page.get_by_label("Tyre planned").fill("35x12.50R17")
        expect(self.page.get_by_text("No ratio of this family restores the old gearing")).to_be_visible()
        expect(self.page.get_by_text(re.compile(r"would do it on tyres with a rolling circumference of"))).to_be_visible()

    def test_front_and_rear_that_do_not_fit_hold_the_job(self) -> None:
        self.sign_in("isla")
        four = self.job("Four-wheel-drive")
        self.go(f"/jobs/{four.pk}", "Run sheet")
        expect(self.page.get_by_text("9.09 % apart")).to_be_visible()
        self.page.get_by_role("link", name="Go to the Ratio desk").click()
        expect(self.page.get_by_text("The road test stays closed until they match.")).to_be_visible()
        ends = self.page.get_by_role("region", name="Front and rear match")
        ends.get_by_label("Pinion teeth").fill("10")
        ends.get_by_label("Ring teeth").fill("41")
        ends.get_by_role("button", name="Save").click()
        expect(ends.get_by_text("0.00 % apart: fine")).to_be_visible()
        self.go(f"/jobs/{four.pk}", "Run sheet")
        expect(self.page.get_by_text("9.09 % apart")).to_have_count(0)

    def test_a_kept_answer_is_shown_and_taken_along(self) -> None:
        self.sign_in("visitor")
        self.desk()
        self.page.get_by_role("button", name="Show Taller tyres").click()
        expect(self.page.get_by_role("button", name="9/41, Corrie C6, six-speed").first).to_be_visible()
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="CSV", exact=True).click()
        self.assertIn("rpm_at_cruise", Path(download.value.path()).read_text())
        expect(self.page.get_by_role("button", name="Save to this job")).to_have_count(0)

    def test_a_list_with_a_bad_row_is_named_row_by_row(self) -> None:
        self.sign_in("callum")
        self.go("/stores", "Stores")
        content = b"code,name,maker,gears\ngood,Good,Corrie,4 2 1\nbad,Bad,Corrie,1 2\n"
        picker = self.page.get_by_label("Upload list (CSV)")
        picker.set_input_files([FilePayload(name="list.csv", mimeType="text/csv", buffer=content)])
        expect(self.page.get_by_text("1 row is wrong. Nothing was imported.")).to_be_visible()
        expect(self.page.get_by_role("row", name=re.compile("^3 gears Ratios must fall"))).to_be_visible()
        picker.set_input_files([FilePayload(name="list.csv", mimeType="text/csv", buffer=content.replace(b"1 2\n", b"2 1\n"))])
        expect(self.page.get_by_text("2 added, 0 changed.")).to_be_visible()
        expect(self.page.get_by_role("rowheader", name="Good")).to_be_visible()


class ByTouch(TouchTestCase):
    def test_the_answer_stays_in_sight_whatever_is_entered(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/ratios", "Ratio desk")
        answer = self.page.get_by_role("status", name="Answer in short")
        inputs = self.page.get_by_role("form", name="Inputs")
        expect(answer).to_contain_text("rpm at 80 km/h")
        inputs.get_by_label("Tyre planned").fill("225/85R16")
        expect(answer).to_contain_text("gear it 8.2 % longer")
        expect(answer).to_be_in_viewport()
        for label, text in (("Cruising speed", "90"), ("Mass with load and trailer", "3000")):
            field = inputs.get_by_label(label, exact=True)
            field.fill(text)
            field.press("Tab")
            expect(answer).to_contain_text("rpm at 90 km/h")
            expect(answer).to_be_in_viewport()
        inputs.get_by_label("Tyre planned").fill("225/")
        expect(self.page.get_by_role("region", name="Answer", exact=True)).to_have_attribute("aria-busy", "true")
        expect(answer).to_contain_text("gear it 8.2 % longer")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
        self.assertEqual(self.violations(self.page), [])
