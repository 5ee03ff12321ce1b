"""Lost connections, lost answers, ended logins, two people at one card: nothing lost, nothing doubled."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from e2e.base import BrowserTestCase, below
from jobs.models import Job
from setup_bench.models import Reading, StrikeOut


class AtTheBench(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("isla")
        self.van = self.job("Library van")
        self.before = Reading.objects.count()
        self.go(f"{below(self.van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("4 of 8 positions")).to_be_visible()

    def typed(self, *texts: str) -> None:
        for text in texts:
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def new(self) -> list[tuple[float, str]]:
        rows = Reading.objects.order_by("id")[self.before :]
        return [(row.angle_deg, row.typed) for row in rows]

    def test_readings_typed_without_a_connection_go_out_when_it_is_back(self) -> None:
        self.context.set_offline(True)
        self.typed("9", "10", "11")
        expect(self.page.get_by_text("3 waiting: no connection")).to_be_visible()
        self.assertEqual(self.new(), [])
        self.context.set_offline(False)
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual(self.new(), [(45.0, "9"), (135.0, "10"), (225.0, "11")])

    def test_they_outlive_a_closed_page(self) -> None:
        self.context.set_offline(True)
        self.typed("9")
        expect(self.page.get_by_text("1 waiting:")).to_be_visible()
        self.page.close()
        self.context.set_offline(False)
        self.page = self.new_page(self.context)
        self.go(f"{below(self.van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("5 of 8 positions")).to_be_visible()
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual(self.new(), [(45.0, "9")])

    def test_an_answer_lost_on_its_way_back_doubles_nothing(self) -> None:
        lost = self.loses_the_answer_to("**/readings")
        self.typed("9")
        expect(self.page.get_by_text("5 of 8 positions")).to_be_visible()
        self.until(lambda: bool(lost))  # the strip counts what is on its way
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual((lost, self.new()), ([201], [(45.0, "9")]))

    def test_an_ended_login_is_asked_for_and_the_reading_goes_out_after(self) -> None:
        self.login_ends_at("**/readings")
        self.typed("9")
        self.sign_in_again("isla")
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual(self.new(), [(45.0, "9")])

    def test_a_question_is_answered_with_one_key(self) -> None:
        self.typed("0.09")
        expect(self.page.get_by_role("button", name="0.09 mm A")).to_be_visible()
        self.page.keyboard.press("a")
        expect(self.page.get_by_text("Recorded 0.09 mm at 45°.")).to_be_visible()
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual(self.new(), [(45.0, "0.09 mm")])
        self.page.keyboard.press("u")
        expect(self.page.get_by_role("button", name="0.09 mm A")).to_be_visible()
        expect(self.page.get_by_text("1 waiting: your answer")).to_be_visible()
        self.assertTrue(StrikeOut.objects.filter(reading=Reading.objects.latest("id")).exists())

    def test_figures_typed_on_while_a_question_stands_begin_the_next_reading(self) -> None:
        self.typed("0.09")
        expect(self.page.get_by_role("group", name="A question about a reading")).to_contain_text("At 45°, not recorded yet")
        for text in ("25", "12"):
            self.typed(text)
        expect(self.page.get_by_text("At 315°").first).to_be_visible()
        expect(self.page.get_by_text("1 waiting: your answer")).to_be_visible()
        self.assertEqual(self.new(), [(135.0, "25"), (225.0, "12")])
        expect(self.page.get_by_role("group", name="A question about a reading")).to_be_visible()
        self.assertEqual(self.page.locator("main .btn-primary:visible").count(), 1)
        self.page.keyboard.press("x")
        expect(self.page.get_by_text("Discarded 0.09 at 45°.")).to_be_visible()
        self.assertEqual(len(self.new()), 2)

    def test_what_is_typed_is_told_in_both_units_before_it_is_taken(self) -> None:
        self.page.keyboard.type("9")
        expect(self.page.get_by_text("0.09 mm = 3.5 thou")).to_be_visible()

    def test_nonsense_stands_in_the_strip_again_with_a_sentence(self) -> None:
        strip = self.page.get_by_role("textbox", name="Reading,")
        for text, sentence in (("12 Nm", "is a unit of torque"), ("5x", "not a known unit")):
            with self.subTest(text):
                strip.fill(text)
                strip.press("Enter")
                expect(self.page.get_by_role("alert").filter(has_text=sentence)).to_be_visible()
                expect(strip).to_have_value(text)
        strip.fill("7" * 10_000)
        self.assertEqual(len(strip.input_value()), 40)  # the field cuts what is pasted
        strip.press("Enter")
        expect(self.page.get_by_role("alert").filter(has_text="cannot be backlash")).to_be_visible()
        self.assertEqual(self.new(), [])

    def test_striking_out_asks_why_and_stays_visible(self) -> None:
        self.page.get_by_text("All readings of trial 1").click()
        self.page.get_by_role("button", name="Strike out 8 at 0 degrees").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("textbox").fill("plunger was not square")
        dialog.get_by_role("button", name="Confirm").click()
        expect(self.page.get_by_text("struck out: plunger was not square")).to_be_visible()
        expect(self.page.get_by_text("At 0°")).to_be_visible()

    def test_a_server_that_stumbles_keeps_them_too(self) -> None:
        self.stumbles_at("**/readings", 503, 500)
        self.typed("9")
        expect(self.page.get_by_text("1 waiting:")).to_be_visible()
        expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.assertEqual(self.new(), [(45.0, "9")])


class TwoPeople(BrowserTestCase):
    def change(self, page: Page, complaint: str) -> None:
        page.get_by_label("Complaint").fill(complaint)
        page.get_by_role("button", name="Save", exact=True).click()

    def open_card(self, username: str) -> Page:
        page = self.page if username == "isla" else self.new_page(self.new_context())
        self.sign_in(username, page)
        self.go(f"/jobs/{self.job('Library van').pk}", "Run sheet", page)
        page.get_by_role("button", name="Edit", exact=True).click()
        return page

    def test_a_conflict_is_a_choice_and_nothing_typed_is_lost(self) -> None:
        mine, theirs = self.open_card("isla"), self.open_card("tam")
        self.change(theirs, "Theirs: noisy too")
        expect(theirs.get_by_text("Theirs: noisy too")).to_be_visible()
        self.change(mine, "Mine: slow on the hill")
        dialog = mine.get_by_role("dialog", name="Somebody else changed this job")
        expect(dialog.get_by_text("Theirs: noisy too")).to_be_visible()
        expect(dialog.get_by_text("Mine: slow on the hill")).to_be_visible()
        dialog.get_by_role("button", name="Cancel").click()
        expect(mine.get_by_label("Complaint")).to_have_value("Mine: slow on the hill")
        mine.get_by_role("button", name="Save", exact=True).click()
        mine.get_by_role("button", name="Keep mine").click()
        expect(mine.get_by_role("button", name="Edit", exact=True)).to_be_visible()
        expect(mine.get_by_text("Mine: slow on the hill")).to_be_visible()
        self.assertEqual(Job.objects.filter(vehicle__name__startswith="Library").earliest("number").complaint, "Mine: slow on the hill")
        theirs.context.close()

    def test_theirs_can_stand(self) -> None:
        mine, theirs = self.open_card("isla"), self.open_card("tam")
        self.change(theirs, "Theirs: noisy too")
        expect(theirs.get_by_text("Theirs: noisy too")).to_be_visible()
        self.change(mine, "Mine")
        mine.get_by_role("button", name="Keep theirs").click()
        expect(mine.get_by_text("Theirs: noisy too")).to_be_visible()
        theirs.context.close()
