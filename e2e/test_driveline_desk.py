"""The driveline desk by keyboard and by touch: measured, judged, remedied, ordered, kept; joints by hand and eye."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Locator, expect

from driveline_desk.models import JointInspection
from e2e.base import BrowserTestCase, below
from e2e.touch import TouchTestCase
from work.models import KeptAnswer


class ByKeyboard(BrowserTestCase):
    def desk(self, vehicle: str = "Library van", by: str = "isla") -> None:
        self.sign_in(by)
        self.go(f"{below(self.job(vehicle))}/driveline", "Driveline desk")
        expect(self.page.get_by_role("group", name=re.compile("Side view"))).to_be_visible()

    def type_over(self, label: str, text: str) -> None:
        field = self.page.get_by_label(label, exact=True)
        self.tab_to(field)
        self.page.keyboard.press("Control+A")
        self.page.keyboard.press("Delete")
        self.page.keyboard.type(text)
        self.page.keyboard.press("Tab")

    def pinion(self) -> Locator:
        """The strip, asking for the pinion's slope."""
        self.page.get_by_role("button", name=re.compile("^Pinion slope: .* Edit")).click()
        return self.page.get_by_label("Pinion slope", exact=True)

    def reads(self, *figures: str) -> None:
        """One figure after another at the members, as the strip asks for them."""
        self.tab_to(self.page.locator("#member-reading"))
        for text in figures:
            self.page.keyboard.press("Control+A")
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def tab(self, name: str) -> None:
        """To another tab by its arrow keys."""
        self.tab_to(self.page.get_by_role("tab", selected=True))
        for _ in range(5):
            if self.page.get_by_role("tab", name=name, selected=True).count():
                return
            self.page.keyboard.press("ArrowRight")
        self.fail(f"no tab {name}")

    def test_measured_remedied_ordered_and_kept(self) -> None:
        self.sign_in("isla")
        self.go(f"/jobs/{self.job('Library van').pk}", "Run sheet")
        self.press(self.page.get_by_role("link", name="Driveline desk"))
        expect(self.page.get_by_text("Sample figures")).to_be_visible()
        expect(self.page.get_by_label("Output slope", exact=True)).to_have_value("3")
        self.reads("4", "8,5", "1250", "1")
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 1: 4.5°, in; Joint 2: 7.5°, OUT"))).to_be_visible()
        expect(self.page.get_by_text("Sample figures")).to_have_count(0)
        self.tab("Remedy")
        self.press(self.page.get_by_role("button", name="Find the fewest changes"))
        expect(self.page.get_by_text("One change, and every position is in")).to_be_visible()
        expect(self.page.get_by_text("pinion nose up")).to_be_visible()
        expect(self.page.get_by_text("that is included")).to_be_visible()
        self.press(self.page.get_by_role("button", name="Show on the drawing"))
        expect(self.page.get_by_text("with the remedy; dashed: as it is")).to_be_visible()
        expect(self.page.get_by_text("All angles are in").or_(self.page.get_by_text("In, close to a limit"))).to_be_visible()
        self.tab("Travel and length")
        for label, text in (("Spline diameter, mm", "35"), ("Spline engaged at ride height, mm", "60"), ("Room to push in, mm", "60")):
            self.type_over(label, text)
        expect(self.page.get_by_text("longer would have enough spline")).to_be_visible()
        expect(self.page.get_by_text("Tick all three")).to_be_visible()
        for name in ("At ride height", "Vehicle level", "Suspension loaded"):
            self.press(self.page.get_by_label(re.compile(name)), "Space")
        expect(self.page.get_by_text("Flange face to flange face at ride height.")).to_be_visible()
        self.fill("Title", "Wedged")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Show Wedged")).to_be_visible()
        kept = KeptAnswer.objects.get(title="Wedged")
        self.assertEqual(kept.inputs["readings"]["shafts"][0]["member"]["side"]["value_deg"], 8.5)
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Order sheet (PDF)").click()
        self.assertEqual(Path(download.value.path()).read_bytes()[:4], b"%PDF")

    def test_a_joint_is_moved_by_its_arrow_keys(self) -> None:
        self.desk()
        joint = self.page.get_by_role("button", name=re.compile("Joint 2 in the side view"))
        self.tab_to(joint)
        before = joint.get_attribute("aria-label")
        self.page.keyboard.press("Shift+ArrowUp")
        expect(self.page.get_by_label("Measured by")).to_have_value("points")
        expect(joint).not_to_have_attribute("aria-label", before or "")
        expect(self.page.get_by_label("Joint 2, up")).to_be_visible()
        self.page.get_by_label("Measured by").select_option("gauge")
        expect(joint).to_have_attribute("aria-label", before or "")

    def test_what_the_gauge_shows_is_taken_as_it_is_and_the_wrong_reference_asked_about(self) -> None:
        self.desk()
        strip = self.page.get_by_label("Output slope", exact=True)
        strip.fill("87")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("Was it read from plumb?").first).to_be_visible()
        expect(strip).to_have_value("87")
        strip.press("p")
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 1: 3.5°"))).to_be_visible()
        self.page.get_by_role("button", name="Pinion slope: edit").press("Enter")
        strip = self.page.get_by_label("Pinion slope", exact=True)
        expect(strip).to_be_focused()
        strip.fill("-x3")
        strip.press("Enter")
        expect(self.page.get_by_text("“-x3” is not a number.")).to_be_visible()
        expect(strip).to_be_focused()

    def test_a_shaft_in_two_parts(self) -> None:
        self.desk()
        self.page.get_by_role("combobox", name="Propshafts", exact=True).select_option("2")
        expect(self.page.get_by_role("button", name=re.compile("^Propshaft 2 slope: .* Edit"))).to_be_visible()
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 3"))).to_be_visible()
        expect(self.page.get_by_text("The centre bearing was not measured")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])

    def test_forks_are_set_over_by_whole_teeth(self) -> None:
        self.desk()
        self.press(self.page.get_by_text("Joints, phasing and splines"))
        expect(self.page.get_by_label("Propshaft 1: out of phase by (teeth)")).to_have_count(0)
        expect(self.page.get_by_text("The phasing of propshaft 1 is already the best.")).to_be_visible()
        self.type_over("Propshaft 1: spline teeth", "16")
        self.type_over("Propshaft 1: out of phase by (teeth)", "1")
        expect(self.page.get_by_text("Its equivalent angle goes from 3.1° to 0.0°")).to_contain_text("1 whole tooth anticlockwise, to 0.0°")
        expect(self.page.get_by_text("the rear yoke is at 22.5°")).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("Propshaft 1: rear yoke 22.5 degrees"))).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.type_over("Propshaft 1: spline teeth", "")
        expect(self.page.get_by_label("Propshaft 1: out of phase by (teeth)")).to_have_count(0)
        expect(self.page.get_by_role("img", name=re.compile("Propshaft 1: rear yoke 0.0 degrees"))).to_be_visible()

    def test_a_double_cardan_out_of_centre_is_told(self) -> None:
        self.desk()
        self.page.get_by_text("Joints, phasing and splines").click()
        self.page.get_by_role("combobox", name="Joint 1", exact=True).select_option("double_cardan")
        share = self.page.get_by_label("Joint 1: share of the front half (%)")
        expect(share).to_have_value("50")
        ripple = self.page.get_by_role("img", name=re.compile("speed over one turn", re.IGNORECASE))
        expect(ripple).to_be_visible()
        before = ripple.get_attribute("aria-label") or ""
        share.fill("80")
        self.page.keyboard.press("Tab")
        expect(ripple).not_to_have_attribute("aria-label", before)
        share.fill("800")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("Share must be 0 to 1.").first).to_be_visible()
        expect(share).to_have_value("800")

    def test_what_holds_a_shafts_ends_lowers_its_bending_speed(self) -> None:
        self.desk()
        self.page.get_by_role("tab", name="Tube").click()
        expect(self.page.get_by_text("Soft supports lower it by about 10 %")).to_be_visible()
        expect(self.page.get_by_text("On supports this soft")).to_have_count(0)
        self.page.get_by_text("End fittings and supports").click()
        for label in ("Front support stiffness (MN/m)", "Rear support stiffness (MN/m)"):
            self.page.get_by_label(label).fill("5")
            self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("On supports this soft the bending speed is")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])

    def test_every_tab_is_free_of_violations_and_forks_stand_still_when_asked(self) -> None:
        self.desk("Timber crew")
        turn = self.page.get_by_label("Angle of the output, degrees")
        expect(turn).to_have_value("0")
        turn.fill("90")
        expect(self.page.get_by_role("img", name=re.compile("Propshaft 1: rear yoke"))).to_be_visible()
        for name in ("Angles", "Remedy", "Travel and length", "Tube", "Joints"):
            self.page.get_by_role("tab", name=name).click()
            with self.subTest(name):
                self.assertEqual(self.violations(self.page), [])

    def test_a_tube_over_its_safe_speed_is_warned_of(self) -> None:
        self.desk()
        self.page.get_by_role("button", name=re.compile("^Propshaft length")).click()
        self.page.get_by_label("Propshaft length, joint to joint", exact=True).fill("2000")
        self.page.keyboard.press("Enter")
        self.page.get_by_label("or propshaft speed (rpm)").fill("4000")
        self.page.keyboard.press("Tab")
        self.page.get_by_role("tab", name="Tube").click()
        expect(self.page.get_by_text("comes through the floor")).to_be_visible()
        expect(self.page.get_by_text("licensed shaft maker")).to_be_visible()

    def test_joints_by_hand_and_eye(self) -> None:
        self.desk()
        self.page.get_by_role("tab", name="Joints").click()
        expect(self.page.get_by_text("never press harder")).to_be_visible()
        for label, word in (
            ("Movement, one way", "free"),
            ("Movement, other way", "notchy"),
            ("Play", "no"),
            ("Rust dust at a joint cap", "no"),
        ):
            self.page.get_by_role("combobox", name=label, exact=True).select_option(word)
        expect(self.page.get_by_text("It is notchy")).to_be_visible()
        self.page.get_by_role("combobox", name="Decision").select_option("reuse")
        self.page.get_by_role("button", name="Save this joint").click()
        expect(self.page.get_by_text("write why you decide otherwise")).to_be_visible()
        self.page.get_by_label("Note (a reason if you decide otherwise)").fill("shaft is scrap anyway")
        self.page.get_by_role("button", name="Save this joint").click()
        expect(self.page.get_by_text("Note: shaft is scrap anyway")).to_be_visible()
        found = JointInspection.objects.latest("id")
        self.assertEqual((found.proposed, found.decision), ("replace", "reuse"))

    def test_drawings_are_taken_along(self) -> None:
        self.desk("Timber crew", by="visitor")
        with self.page.expect_download() as download:
            self.page.get_by_role("button", name="Download drawings (SVG)").click()
        content = Path(download.value.path()).read_text()
        self.assertIn("http://www.w3.org/2000/svg", content)
        self.assertIn("200 mm", content)
        self.assertNotIn('role="button"', content)
        expect(self.page.get_by_role("button", name="Save to this job")).to_have_count(0)

    def test_typed_without_a_connection_it_is_kept_and_worked_out_when_it_is_back(self) -> None:
        self.desk()
        self.context.set_offline(True)
        self.pinion().fill("0.5")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("what you typed is kept")).to_be_visible()
        self.context.set_offline(False)
        expect(self.page.get_by_text("what you typed is kept")).to_have_count(0)
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 2: 6.0°"))).to_be_visible()
        self.page.reload()
        expect(self.pinion()).to_have_value("0.5")
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 2: 6.0°"))).to_be_visible()

    def test_worked_out_again_by_itself_after_a_server_that_was_away_and_after_a_new_login(self) -> None:
        self.desk()
        self.stumbles_at("**/driveline-work", 502, 503)
        self.pinion().fill("0.5")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_text("what you typed is kept")).to_be_visible()
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 2: 6.0°"))).to_be_visible()
        expect(self.page.get_by_text("what you typed is kept")).to_have_count(0)
        self.login_ends_at("**/driveline-work")
        self.pinion().fill("1")
        self.page.keyboard.press("Tab")
        self.sign_in_again("isla")
        expect(self.page.get_by_role("group", name=re.compile("Side view.*Joint 2: 5.5°"))).to_be_visible()


class ByTouch(TouchTestCase):
    def test_slopes_are_typed_at_the_members_and_the_verdict_stays_in_sight(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Library van'))}/driveline", "Driveline desk")
        verdict = self.page.get_by_text(re.compile("All angles are in|In, close to a limit|: out"))
        self.page.get_by_role("button", name="Propshaft slope: edit", exact=True).tap()
        strip = self.page.get_by_label("Propshaft slope", exact=True)
        expect(strip).to_be_focused()
        for label, text in (("Propshaft slope", "8.5"), ("Propshaft length, joint to joint", "1250"), ("Pinion slope", "1")):
            field = self.page.get_by_label(label, exact=True)
            expect(field).to_be_focused()
            field.fill(text)
            field.press("Enter")
            expect(verdict.first).to_be_in_viewport()
            expect(self.page.get_by_role("group", name=re.compile("view to scale"))).to_be_in_viewport()
        expect(self.page.get_by_text(": out").first).to_be_visible()
        expect(self.page.get_by_label("Output offset to the left", exact=True)).to_be_focused()
        expect(self.page.get_by_role("group", name=re.compile("Top view"))).to_be_in_viewport()
        self.page.get_by_role("button", name="Side view", exact=True).tap()
        expect(self.page.get_by_role("group", name=re.compile("Side view"))).to_be_in_viewport()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
        self.assertEqual(self.violations(self.page), [])

    def test_a_joint_is_dragged_with_a_finger(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Timber crew'))}/driveline", "Driveline desk")
        joint = self.page.get_by_role("button", name=re.compile("Joint 2 in the side view"))
        joint.scroll_into_view_if_needed()
        before = joint.get_attribute("aria-label") or ""
        box = joint.bounding_box()
        assert box is not None
        self.assertGreaterEqual(box["width"], 36)
        at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        self.drag(at, (at[0], at[1] - 18))
        expect(joint).not_to_have_attribute("aria-label", before)
        expect(self.page.get_by_label("Measured by")).to_have_value("points")
        up = [int(re.findall(r"(-?\d+) mm", text)[0]) for text in (before, joint.get_attribute("aria-label") or "")]
        self.assertGreater(up[1], up[0])
        self.page.get_by_role("tab", name="Remedy").tap()
        self.page.get_by_role("button", name="Find the fewest changes").tap()
        expect(self.page.get_by_role("region", name="Proposal")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)

    def test_what_was_kept_is_read_on_a_phone(self) -> None:
        self.sign_in("isla")
        for vehicle, desk in (("Timber crew", "driveline"), ("Library van", "ratios")):
            with self.subTest(desk):
                self.go(f"/jobs/{self.job(vehicle).pk}/{desk}", "desk")
                shown = self.page.get_by_role("button", name=re.compile("^Show ")).first
                shown.tap()
                expect(self.page.get_by_role("button", name=re.compile("^Close ")).first).to_be_visible()
                self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
        self.go(f"{below(self.job('Timber crew'))}/driveline", "Driveline desk")
        expect(self.page.get_by_text("up to 1000 rad/s², rule of thumb").first).to_be_visible()
