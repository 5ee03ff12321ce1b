"""The set-up bench on a phone under a vehicle: taps and drags alone, until the axle is in."""

from __future__ import annotations

import re
from typing import Literal

from playwright.sync_api import Locator, expect

from demo_world.world import Sits
from e2e.axle_on_the_bench import AxleOnTheBench
from e2e.base import below
from e2e.touch import TouchTestCase
from setup_bench.models import PatternReading, Trial

MOST_TRIALS = 4
MOST_READINGS = 5
Flank = Literal["drive", "coast"]


class ByTouch(TouchTestCase):
    def section(self, flank: Flank) -> Locator:
        return self.page.get_by_role("region", name=f"{flank.capitalize()} side")

    def patch(self, flank: Flank) -> tuple[int, int]:
        label = self.page.get_by_role("img", name=f"{flank.capitalize()} side: patch at").get_attribute("aria-label") or ""
        u, v = (int(one) for one in re.findall(r"(\d+) %", label))
        return u, v

    def paint(self, flank: Flank, u: int, v: int) -> None:
        """The patch dragged to a place, in per cent, as near as a finger comes."""
        drawing = self.page.get_by_role("img", name=f"{flank.capitalize()} side: patch at")
        drawing.scroll_into_view_if_needed()
        paint, flank_box = drawing.locator("path.fill-next").bounding_box(), drawing.locator("path.fill-base-200").bounding_box()
        assert paint is not None and flank_box is not None
        now = self.patch(flank)
        start = (paint["x"] + paint["width"] / 2, paint["y"] + paint["height"] / 2)
        along, across = (u - now[0]) / 100 * flank_box["width"], (v - now[1]) / 100 * 0.85 * flank_box["height"]
        self.drag(start, (start[0] + along, start[1] - across))
        moved = self.patch(flank)
        self.assertLess(max(abs(moved[0] - u), abs(moved[1] - v)), 9, (moved, (u, v)))
        count = PatternReading.objects.count()
        self.section(flank).get_by_role("button", name=re.compile("^Record")).tap()
        expect(self.section(flank).get_by_role("button", name="Record another reading")).to_be_visible()
        self.until(lambda: PatternReading.objects.count() == count + 1)  # of a second reading that button was there before

    def read(self, typed: str) -> None:
        strip = self.page.get_by_role("textbox", name="Reading,")
        strip.tap()
        strip.fill(typed)
        self.page.get_by_role("button", name="Record", exact=True).tap()
        expect(self.page.get_by_text("waiting:")).to_have_count(0)

    def tab(self, name: str) -> None:
        self.page.get_by_role("tab", name=name).tap()

    def paint_both(self, axle: AxleOnTheBench) -> None:
        self.tab("Pattern")
        flanks: tuple[Flank, ...] = ("drive", "coast")
        for flank in flanks:
            self.paint(flank, *axle.painted(flank))
        expect(self.page.get_by_text("calculating…")).to_have_count(0)

    def test_from_the_first_paint_to_contact_finished(self) -> None:
        van = self.job("Library van")
        self.sign_in("isla")
        self.go(f"{below(van)}/bench", "Set-up bench")
        axle = AxleOnTheBench(van, Sits(0.13, 0.095, 0.014, 200.0))
        for typed in ("9", "10", "11", "10"):
            self.read(typed)
        expect(self.page.get_by_text("8 of 8 positions")).to_be_visible()
        self.paint_both(axle)
        for number in range(2, MOST_TRIALS + 1):
            self.page.get_by_role("button", name=f"Start trial {number}").tap()
            expect(self.page.get_by_role("heading", name=f"Set-up bench, trial {number}")).to_be_visible()
            axle.fit()
            self.page.get_by_role("button", name="Confirm all").tap()
            self.tab("Backlash")
            for typed in axle.backlash():
                self.read(typed)
            self.paint_both(axle)
            for _ in range(MOST_READINGS):
                if not self.page.get_by_text("Read it again before you move anything.").count():
                    break
                self.paint_both(axle)
            if self.page.get_by_text("The set-up is finished.").count():
                break
        expect(self.page.get_by_text("The set-up is finished. Leave it").first).to_be_visible()
        last = Trial.objects.filter(work__job=van).latest("number")
        assert last.expected is not None
        self.assertGreater(last.expected["odds"], 0.3)

    def test_a_patch_is_stretched_and_tilted_by_its_handles(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/bench#pattern", "Not judged yet")
        drawing = self.page.get_by_role("img", name="Drive side: patch at")
        drawing.scroll_into_view_if_needed()
        before = drawing.locator("path.fill-next").bounding_box()
        handle = drawing.locator("g.cursor-grab rect").last.bounding_box()  # the far end of the long axis
        assert before is not None and handle is not None
        end = (handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2)
        self.drag(end, (end[0] + 40, end[1]))
        longer = drawing.locator("path.fill-next").bounding_box()
        assert longer is not None
        self.assertGreater(longer["width"], before["width"] + 40)
        lean = drawing.locator("g.cursor-grab circle.fill-base-100").bounding_box()
        assert lean is not None
        grip = (lean["x"] + lean["width"] / 2, lean["y"] + lean["height"] / 2)
        self.drag(grip, (grip[0], grip[1] + 12))
        tilted = drawing.locator("path.fill-next").bounding_box()
        assert tilted is not None
        self.assertGreater(tilted["height"], longer["height"] + 4)

    def test_the_map_tells_the_pattern_where_a_finger_lies(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Timber crew'))}/bench#map", "Set-up bench")
        place = self.page.get_by_role("group", name="Set-up map")
        expect(place).to_be_visible()
        box = place.locator("svg").bounding_box()
        assert box is not None
        expect(self.page.get_by_text("Now", exact=True)).to_be_visible()
        place.locator("svg").tap(position={"x": box["width"] * 0.7, "y": box["height"] * 0.3})
        expect(self.page.get_by_text("At the cross")).to_be_visible()
        self.page.keyboard.press("Escape") if place.evaluate("one => one === document.activeElement") else place.press("Escape")
        expect(self.page.get_by_text("Now", exact=True)).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
