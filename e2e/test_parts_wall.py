"""The Parts wall: by touch on a phone that loses its connection, and at the desk with the customer's quote."""

from __future__ import annotations

import io
import re
import tempfile
from pathlib import Path
from uuid import UUID

import segno
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from accounts.models import User
from e2e.base import PATIENCE_MS, BrowserTestCase, below
from e2e.chromium import LAUNCHED
from e2e.touch import TouchTestCase
from parts_wall import services
from parts_wall.models import PartPhoto, PartRecord
from parts_wall.wall import find_wall
from records.writing import Writing


def take_off_all(work: UUID) -> None:
    """Everything that this work takes off and is still on, as another pair of hands does it."""
    wall = find_wall(work)
    for key in wall.planned:
        if key not in wall.states:
            given = services.Taken()
            services.take_off(Writing.of(User.objects.get(username="tam")), work_id=work, key=key, given=given, replaces=None, sure=False)


def put_back_all(work: UUID, *, but: set[str]) -> None:
    """Everything but these goes on again, new where it has to be, as far as it may."""
    for step in find_wall(work).assembly.order_back([one.key for one in find_wall(work).in_order]):
        if step.key not in but:
            by = Writing.of(User.objects.get(username="tam"))
            services.put_back(by, work_id=work, key=step.key, is_new=True, stays_out=False, counted=None, sure=True, note="")


class OnAPhone(TouchTestCase):
    """A locker goes into the second minibus: spider gears out, one with a tooth broken off."""

    def tab(self, name: str) -> None:
        self.page.get_by_role("tab", name=name).tap()

    def row(self, name: str) -> Locator:
        return self.page.get_by_role("listitem").filter(has_text=re.compile(rf"^\s*\d* ?{name}", re.I)).first

    def test_off_with_half_of_it_offline_pieces_missing_found_and_a_washer_caught(self) -> None:
        bus = self.job("Second school minibus")
        self.context.grant_permissions(["camera"])
        self.sign_in("isla")
        page = self.go(f"{below(bus)}/parts", "Parts wall")
        page.get_by_role("button", name="Open the camera").tap()
        shoot = page.get_by_role("button", name="Picture, and off")
        expect(shoot).to_be_visible()
        page.wait_for_function("() => document.querySelector('video').videoWidth > 0")
        expect(page.get_by_role("heading", name="Wheel nut, left")).to_be_visible()
        shoot.tap()
        expect(page.get_by_role("heading", name=re.compile("^Off: 1"))).to_be_visible()
        expect(page.get_by_role("img", name="Picture of wheel nut, left")).to_be_visible()
        page.get_by_role("button", name="Off", exact=True).tap()
        # what is on its way counts already; its button is there once the server has it
        expect(page.get_by_role("button", name=re.compile("Undo.*wheel nut, right"))).to_be_visible()

        self.context.set_offline(True)
        shoot.tap()
        expect(page.get_by_text("kept on this device, not sent yet")).to_be_visible()
        page.get_by_label("Bag or tray").fill("12")
        page.get_by_role("button", name="Off", exact=True).tap()
        expect(page.get_by_text("3 kept on this device")).to_be_visible()
        page.get_by_role("button", name="Off", exact=True).tap()
        expect(page.get_by_text("4 kept on this device")).to_be_visible()
        expect(page.get_by_role("heading", name=re.compile("^Off: 5"))).to_be_visible()
        kept, photos = PartRecord.objects.filter(work=bus.pk), PartPhoto.objects.filter(work=bus.pk)
        self.assertEqual((kept.count(), photos.count()), (2, 1))

        self.context.set_offline(False)
        expect(page.get_by_text("kept on this device")).to_have_count(0)
        rows = list(kept.order_by("id").values_list("key", "bag"))
        in_order = ["wheelnut.left", "wheelnut.right", "wheel.left", "wheel.right", "calbolt.left"]
        self.assertEqual([key for key, _ in rows], in_order)
        self.assertEqual((rows[3][1], photos.count()), ("12", 2))
        page.get_by_role("button", name="Close the camera").tap()

        take_off_all(bus.pk)
        self._breaks_a_tooth(page)
        put_back_all(bus.pk, but={"cover", "gask", "covbolt", "spwash", "oil", "fill", "drain", "magnet", "cwash"})
        page.reload()
        self.tab("Put back")
        self._put(page, "Spider washer", open_only=True)
        self._put(page, "Cover")
        expect(page.get_by_role("alert").filter(has_text="pieces are missing from spider gear").first).to_be_visible()
        self.tab("Decide")
        page.get_by_role("button", name=re.compile("again.*spider gear")).tap()
        page.get_by_role("button", name="All found").tap()
        expect(page.get_by_text("All accounted for")).to_be_visible()
        self.tab("Put back")
        self._put(page, "Cover")
        expect(page.get_by_role("alert").filter(has_text=re.compile("still on the wall: .*spider washer")).first).to_be_visible()
        self._put(page, "Spider washer")
        expect(page.get_by_role("button", name=re.compile("Undo.*spider washer"))).to_be_visible()

    def _breaks_a_tooth(self, page: Page) -> None:
        page.reload()
        self.tab("Decide")
        page.get_by_role("button", name=re.compile("^Decide.*spider gear")).tap()
        page.get_by_role("button", name="Broken tooth").tap()
        expect(page.get_by_text("Find every piece before closing.")).to_be_visible()
        page.get_by_text("Replace", exact=True).tap()
        page.get_by_label("Pieces missing").fill("1")
        page.get_by_role("button", name="Save").tap()
        expect(page.get_by_text("1 piece missing")).to_be_visible()

    def _put(self, page: Page, name: str, *, open_only: bool = False) -> None:
        card = page.locator("div", has=page.get_by_text("Next on", exact=True)).last
        pick = page.get_by_role("button", name=re.compile(f"This one.*: ?{name}$", re.I))
        if pick.count():
            pick.first.tap()
        expect(card.get_by_text(name, exact=True).first).to_be_visible()
        if not open_only:
            page.get_by_role("button", name=re.compile("^(Back on|New one fitted)$")).first.tap()


class AtTheDesk(BrowserTestCase):
    def test_the_customer_says_yes_by_the_link(self) -> None:
        float_ = self.job("Milk float")
        self.sign_in("callum")
        page = self.go(f"{below(float_)}/parts?tab=quote", "Parts wall")
        page.get_by_label("Side shim, ring side").uncheck()
        page.get_by_label("Pinion: scoring").uncheck()
        expect(page.get_by_label("Price of an hour")).to_have_value("62.00")
        page.get_by_role("button", name="Link for the customer").click()
        address = page.locator("output").inner_text()
        stranger = self.new_context()
        shown = self.new_page(stranger)
        shown.goto(address)
        expect(shown.get_by_role("heading", name="Ring gear: broken tooth")).to_be_visible()
        self.assertEqual(self.violations(shown), [])
        shown.get_by_role("radiogroup", name="Your answer: ring gear").get_by_text("Yes, do it").click()
        shown.get_by_role("radiogroup", name="Your answer: inner pinion cone").get_by_text("No").click()
        expect(shown.get_by_text("756.00").last).to_be_visible()
        shown.get_by_label("Your name").fill("M. Dairy")
        shown.get_by_role("button", name="Send the answer").click()
        expect(shown.get_by_text("Answered by M. Dairy")).to_be_visible()
        page.reload()
        expect(page.get_by_text("ring gear yes, inner pinion cone no")).to_be_visible()
        page.get_by_role("button", name="Withdraw").last.click()
        expect(page.get_by_role("button", name="Withdraw")).to_have_count(1)
        stranger.close()

    def test_a_picture_is_taken_back(self) -> None:
        float_ = self.job("Milk float")
        self.sign_in("isla")
        page = self.go(f"{below(float_)}/parts?tab=off", "Parts wall")
        picture = page.get_by_role("img", name="Picture of cover", exact=True)
        expect(picture).to_have_count(1)
        page.get_by_role("button", name=re.compile("^Undo picture ?: cover$")).click()
        expect(picture).to_have_count(0)
        self.assertEqual(PartRecord.objects.get(work=float_.pk, key="cover", act="undo").by_name, "Isla Moray")

    def test_the_map_by_keyboard_and_a_label_by_its_number(self) -> None:
        self.sign_in("isla")
        page = self.go(f"{below(self.job('Milk float'))}/parts?tab=map", "Parts wall")
        first = page.get_by_role("button", name=re.compile("^Wheel nut, left, off"))
        self.tab_to(first)
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name="Part in hand: wheel, left")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Ring gear, off, broken tooth"))).to_be_visible()
        page.get_by_role("tab", name="Put back").click()
        page.get_by_role("button", name="Scan a label").click()
        dialog = page.get_by_role("dialog", name="Scan a label")
        dialog.get_by_label("Number on the label").fill("2")
        dialog.get_by_role("button", name="Open").click()
        expect(page.get_by_text("0.50 mm + 0.34 mm, damaged + 3.80 mm").first).to_be_visible()
        page.goto(f"{below(self.job('Milk float'))}/parts?bag=5")
        expect(page.get_by_text("Next on")).to_be_visible()
        expect(page.get_by_text("Goes back in before the cover.")).to_be_visible()

    def test_what_can_never_be_taken_is_said_and_nothing_after_it_waits(self) -> None:
        self.sign_in("tam")
        page = self.go(f"{below(self.job('Grain lorry'))}/parts", "Parts wall")
        page.get_by_label("Counted").fill("4")
        page.get_by_role("button", name="Off", exact=True).click()
        expect(page.get_by_role("heading", name=re.compile("^Off: 1"))).to_be_visible()
        page.get_by_text("Way up, mark, note, another part").click()
        page.get_by_label("Another part of this assembly").select_option(label="side shim, ring side (not planned)")
        page.get_by_label("Stack, outermost first").fill("50 mm")
        page.get_by_role("button", name="Off", exact=True).click()
        expect(page.get_by_role("alert").filter(has_text="which no shim is").first).to_be_visible()
        page.get_by_role("button", name="Correct it").click()
        expect(page.get_by_label("Stack, outermost first")).to_have_value("50 mm")
        page.get_by_label("Stack, outermost first").fill("0.50 mm")
        page.get_by_role("button", name="Off", exact=True).click()
        expect(page.get_by_role("heading", name=re.compile("^Off: 2"))).to_be_visible()
        expect(page.get_by_role("alert").filter(has_text="which no shim is")).to_have_count(0)

    def test_a_label_before_the_camera_leads_to_its_part(self) -> None:
        """A camera of this test's own, that sees a label and nothing else."""
        float_ = self.job("Milk float")
        code = io.BytesIO()
        segno.make(f"{self.live_server_url}{below(float_)}/parts?bag=2", error="m", micro=False).save(code, kind="png", scale=8, border=6)
        seen = Image.new("RGB", (640, 480), "white")
        with Image.open(code) as label:
            seen.paste(label.convert("RGB"), (80, 40))
        frame = io.BytesIO()
        seen.save(frame, "JPEG", quality=90)
        with tempfile.TemporaryDirectory() as folder:
            film = Path(folder) / "label.mjpeg"
            film.write_bytes(frame.getvalue() * 30)
            arguments = [*LAUNCHED["args"], f"--use-file-for-fake-video-capture={film}"]
            browser = self.browser.browser_type.launch(**{**LAUNCHED, "args": arguments})
            try:
                context = browser.new_context(base_url=self.live_server_url, permissions=["camera"])
                context.set_default_timeout(PATIENCE_MS)
                page = self.sign_in("isla", self.new_page(context))
                self.go(f"{below(float_)}/parts?tab=back", "Parts wall", page)
                page.get_by_role("button", name="Scan a label").click()
                expect(page.get_by_role("dialog", name="Scan a label")).to_have_count(0)
                expect(page.get_by_text("0.50 mm + 0.34 mm, damaged + 3.80 mm").first).to_be_visible()
            finally:
                browser.close()
