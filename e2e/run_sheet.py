"""The run sheet worked by keyboard alone: each step in hand by what its act asks for."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from demo_world.world import FIGURES
from e2e.base import BrowserTestCase

MOST_STEPS = 90
REASON = "As the foreman said"


class RunSheetTestCase(BrowserTestCase):
    """`self.page` on a piece of work's page."""

    @property
    def in_hand(self) -> Locator:
        """The step in hand."""
        return self.page.locator("article.step-in-hand")

    def step_code(self) -> str:
        """The code of the step in hand."""
        return (self.in_hand.get_attribute("id") or "").removeprefix("step-")

    def works_to(self, code: str | None = None, **figures: str) -> None:
        """Every step before this one; to the end without one."""
        for _ in range(MOST_STEPS):
            expect(self.in_hand.or_(self.page.locator("#sign-here"))).to_be_visible()
            if self.page.locator("#sign-here").count():
                self.assertIsNone(code)
                return
            now = self.step_code()
            if now == code:
                return
            self.work_step(figures)
            expect(self.page.locator(f"article.step-in-hand#step-{now}:not(:has([role=timer]))")).to_have_count(0)
        self.fail(f"the run sheet never came to {code}")

    def work_step(self, figures: dict[str, str]) -> None:
        """The step in hand, by keyboard."""
        step = self.in_hand
        if step.get_by_role("timer").count():
            self.press(step.get_by_role("button", name="Cut it short"))
            self.page.keyboard.type(REASON)
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_role("dialog")).to_have_count(0)
        elif step.get_by_role("checkbox").count():
            for bolt in step.get_by_role("checkbox").all():
                self.press(bolt, "Space")
            self.press(step.get_by_role("button", name="Confirm"))
        elif step.locator("input.figure[name]").count():
            for field in step.locator("input.figure[name]").all():
                name = field.get_attribute("name") or ""
                self.tab_to(field)
                self.page.keyboard.type(figures.get(name, FIGURES.get(name, ("0.12 mm", 0.0))[0]))
            self.page.keyboard.press("Enter")
        elif step.get_by_role("radio").count():
            chosen = step.locator("input[type=radio]:checked")
            if not chosen.count():
                self.press(step.get_by_role("radio").first, "Space")
            self.press(step.get_by_role("button", name="Choose"))
        else:
            self.press(step.locator(".btn-primary").first)
