"""Search, keys and glossary from any page: by keyboard, and a term by a long press on a phone."""

from __future__ import annotations

import contextlib
import re

from playwright.sync_api import expect

from e2e.base import BrowserTestCase, below
from e2e.touch import TouchTestCase


class ByKeyboard(BrowserTestCase):
    def test_search_finds_vehicles_jobs_and_terms(self) -> None:
        self.sign_in_by_form("isla")
        self.page.keyboard.press("/")
        field = self.page.get_by_label("Vehicle, job or term")
        expect(field).to_be_focused()
        self.page.keyboard.type("library")
        expect(self.page.get_by_role("option", name=re.compile("^vehicle Library van"))).to_be_visible()
        expect(self.page.get_by_role("option", name=re.compile("^job Job 418"))).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        self.page.keyboard.press("/")
        field.fill("driveshaft")
        for name in ("propshaft", "half shaft"):
            expect(self.page.get_by_role("option", name=re.compile(f"term {name}"))).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("dialog", name="Term")).to_contain_text("Also called")
        self.assertEqual(self.violations(self.page), [])
        field.wait_for(state="detached")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def goes(self, keys: str, heading: str) -> None:
        """Both keys within a second and a half; a machine that is busy just then may need another try."""
        there = self.page.get_by_role("heading", name=heading, level=1)
        for _ in range(3):
            for key in keys:
                self.page.keyboard.press(key)
            with contextlib.suppress(AssertionError):
                expect(there).to_be_visible(timeout=10_000)
                return
            self.page.keyboard.press("Escape")  # the second key alone may have opened something
        self.fail(f"{keys} does not lead to {heading}")

    def test_a_letter_goes_to_a_place_and_the_keys_of_the_screen_are_shown(self) -> None:
        self.sign_in("isla")
        self.go(below(self.job("Library van")), "Run sheet")
        for keys, heading in (("gb", "Set-up bench"), ("gr", "Ratio desk"), ("gd", "Driveline desk"), ("gf", "Floor"), ("gt", "Glossary")):
            self.goes(keys, heading)
        self.assertEqual(self.violations(self.page), [])
        self.go(f"{below(self.job('Library van'))}/bench", "Set-up bench")
        self.page.keyboard.press("?")
        keys = self.page.get_by_role("dialog", name="Keys")
        expect(keys).to_contain_text("Answer the question about a doubtful reading")
        self.assertEqual(self.violations(self.page), [])
        keys.get_by_role("link", name="All keys, to print").click()
        expect(self.page.get_by_role("heading", name="Keys", level=1)).to_be_visible()
        expect(self.page.get_by_text("Axle end lower or higher")).to_be_visible()

    def test_terms_of_the_screen_by_a_key_and_no_key_is_taken_from_somebody_typing(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/bench", "Set-up bench")
        self.page.keyboard.press("t")
        terms = self.page.get_by_role("dialog", name="Terms")
        expect(terms.get_by_text("backlash", exact=True)).to_be_visible()
        self.page.keyboard.press("Escape")
        strip = self.page.get_by_role("textbox", name="Reading,")
        strip.focus()
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("dialog", name="Keys")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(strip).to_be_focused()
        self.page.keyboard.type("1t/?g")
        expect(strip).to_have_value("1t/?g")
        expect(self.page.get_by_role("dialog")).to_have_count(0)


class ByTouch(TouchTestCase):
    def test_a_long_press_on_a_term_explains_it(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/bench", "Set-up bench")
        word = self.page.get_by_text("Variation", exact=True).first
        word.scroll_into_view_if_needed()
        box = word.bounding_box()
        assert box is not None
        at = {"x": box["x"] + 12, "y": box["y"] + box["height"] / 2}
        touch = self.page.context.new_cdp_session(self.page)
        touch.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [at]})
        expect(self.page.get_by_role("dialog", name="Term")).to_contain_text("The greatest less the least backlash")
        touch.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        self.assertEqual(self.violations(self.page), [])
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
