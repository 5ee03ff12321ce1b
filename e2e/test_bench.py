"""The set-up bench: what each demo job's bench says, photos, spacer, first shim, used sets, the map by keyboard."""

from __future__ import annotations

import struct
import zlib

from playwright.sync_api import FilePayload, expect

from demo_world.world import Sits
from e2e.axle_on_the_bench import AxleOnTheBench
from e2e.base import BrowserTestCase, below
from setup_bench.models import PatternReading


def png(side: int = 4) -> bytes:
    """A small amber square."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = (b"\0" + b"\xe0\xa0\x20" * side) * side
    head = struct.pack(">IIBBBBB", side, side, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")


class TheBench(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("isla")

    def bench(self, vehicle: str, tab: str = "backlash") -> None:
        self.go("/you", "Isla Moray")
        self.go(f"{below(self.job(vehicle))}/bench#{tab}", "Set-up bench")

    def test_each_job_is_told_what_it_needs(self) -> None:
        for vehicle, said in (
            ("Library van", "Take another reading before you move anything."),
            ("Estate car", "No shim cures this."),
            ("Bread van", "Read it again before you move anything."),
            ("Timber crew", "The set-up is finished. Leave it"),
            ("Road-rail loader", "What shims are in now?"),
        ):
            with self.subTest(vehicle):
                self.bench(vehicle)
                expect(self.page.get_by_text(said).first).to_be_visible()
        self.bench("Estate car")
        expect(self.page.get_by_text("dirt or a burr under it")).to_be_visible()
        expect(self.page.get_by_role("button", name="Start trial")).to_have_count(0)
        self.bench("Bread van")
        expect(self.page.get_by_text("Trial 2: the backlash is")).to_be_visible()

    def test_a_photo_lies_under_the_patch_and_stays_with_it(self) -> None:
        self.bench("Library van", "pattern")
        drive = self.page.get_by_role("region", name="Drive side")
        picker = drive.get_by_label("Photo")
        picker.set_input_files([FilePayload(name="tooth.png", mimeType="text/plain", buffer=b"no picture")])
        expect(drive.get_by_text("This file cannot be opened as a picture.")).to_be_visible()
        picker.set_input_files([FilePayload(name="tooth.png", mimeType="image/png", buffer=png())])
        expect(drive.locator("svg image")).to_have_count(1)
        drive.get_by_text("Use sliders").click()
        drive.get_by_label("Toe to heel", exact=True).press("ArrowRight")
        drive.get_by_label("Size").press("ArrowRight")
        drive.get_by_role("button", name="Record the drive pattern").click()
        expect(drive.get_by_role("button", name="Record another reading")).to_be_visible()
        kept = PatternReading.objects.latest("id")
        assert kept.photo is not None and kept.photo_place is not None
        self.assertEqual((kept.photo.media_type, round(kept.photo_place["scale"], 2)), ("image/jpeg", 1.02))
        self.page.reload()
        expect(drive.locator("svg image")).to_have_count(1)
        drive.get_by_label("under the patch").uncheck()
        expect(drive.get_by_role("img", name="Painted tooth, drive side")).to_be_visible()

    def test_what_a_patch_would_say_is_told_while_it_is_moved(self) -> None:
        self.bench("Library van", "pattern")
        patch = self.page.get_by_role("group", name="Drive side: arrows move the patch")
        patch.focus()
        for _ in range(25):
            self.page.keyboard.press("ArrowUp")
        expect(self.page.get_by_text("With this reading the pinion is")).to_contain_text("too shallow")
        for _ in range(20):
            self.page.keyboard.press("ArrowUp")
        expect(self.page.get_by_role("img", name="Drive side: patch at")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("region", name="Drive side").get_by_role("button", name="Record another reading")).to_be_visible()
        self.assertIn("tip", PatternReading.objects.latest("id").runs_off)

    def test_the_spacer_goes_from_play_to_the_next_stack(self) -> None:
        self.bench("Timber crew", "preload")
        self.page.get_by_label("Stack fitted").fill("0.50 mm")
        self.page.get_by_role("region", name="shimmed solid spacer").get_by_role("button", name="Record").click()
        expect(self.page.get_by_text("Enter the end play or the rotating torque, read at full nut torque.")).to_be_visible()
        self.page.get_by_label("End play").fill("0.08 mm")
        self.page.get_by_role("region", name="shimmed solid spacer").get_by_role("button", name="Record").click()
        expect(self.page.get_by_text("Next stack: 0.4")).to_be_visible()

    def test_a_string_is_as_good_as_a_wrench(self) -> None:
        self.bench("Timber crew", "preload")
        self.page.get_by_label("Tool").select_option("Spring balance on a string or lever")
        self.page.get_by_label("Pull (N").fill("2.1 kgf")
        self.page.get_by_label("Radius (mm)").fill("100")
        self.page.get_by_role("region", name="Rotating torque").get_by_role("button", name="Record").click()
        expect(self.page.get_by_text("2.06 Nm", exact=True)).to_be_visible()
        expect(self.page.get_by_text("pulled at 100 mm")).to_be_visible()

    def test_the_first_shim_from_marks_and_heights(self) -> None:
        self.bench("Library van", "depth")
        first = self.page.get_by_role("region", name="First depth shim")
        first.get_by_label("Old shim").fill("0.80 mm")
        first.get_by_label("Old pinion mark").fill("3")
        first.get_by_label("New pinion mark").fill("-2")
        first.get_by_role("button", name="Calculate").click()
        expect(first.get_by_text("0.85 mm", exact=True)).to_be_visible()
        first.get_by_label("Old bearing height").fill("22.1x")
        first.get_by_role("button", name="Calculate").click()
        expect(first.get_by_text("is not a length")).to_be_visible()

    def test_one_unlucky_reading_is_read_again_and_nothing_is_taken_apart(self) -> None:
        crew = self.job("Timber crew")
        self.bench("Timber crew")
        self.page.get_by_text("New trial").click()
        self.page.get_by_role("button", name="Start trial 2").click()
        self.page.get_by_role("button", name="Confirm all").click()
        axle = AxleOnTheBench(crew, Sits(-0.01, 0.195, 0.010, 40.0))
        self.read_round(axle)
        self.page.get_by_role("tab", name="Pattern").click()
        self.paint("drive", 62, 50, "Record the drive pattern")
        self.paint("coast", *axle.painted("coast"), "Record the coast pattern")
        expect(self.page.get_by_text("The drive pattern is too far toward the heel.").first).to_be_visible()
        expect(self.page.get_by_text("Read it again before you move anything.", exact=True)).to_be_visible()
        expect(
            self.page.get_by_text("% likely to be in as it stands. Painting and reading everything again takes 8 minutes")
        ).to_be_visible()
        self.page.get_by_role("button", name="Read the backlash again").click()
        expect(self.page.get_by_text("0 of 8 positions, round 2")).to_be_visible()
        self.read_round(axle, ", round 2")
        self.page.get_by_role("tab", name="Pattern").click()
        for number in range(2, 5):
            self.paint("drive", *axle.painted("drive"), "Record another reading")
            self.paint("coast", *axle.painted("coast"), "Record another reading")
            expect(self.page.get_by_text(f"By the mean of {number} readings.")).to_be_visible()
            expect(self.page.get_by_text("calculating…")).to_have_count(0)
            if self.page.get_by_text("The set-up is finished.").count():
                break
        expect(self.page.get_by_text("The set-up is finished. Leave it").first).to_be_visible()
        self.assertEqual(crew.works.get().trials.count(), 2)
        self.assertEqual(crew.works.get().trials.get(number=2).readings.count(), 16)

    def read_round(self, axle: AxleOnTheBench, which: str = "") -> None:
        """Once round the ring, position by position as the strip asks."""
        for count, typed in enumerate(axle.backlash(), start=1):
            self.page.keyboard.type(f"{int(typed) / 100:.2f} mm")
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_text(f"{count} of 8 positions{which}", exact=True)).to_be_visible()

    def paint(self, flank: str, u: int, v: int, button: str) -> None:
        """A patch set by the sliders, in per cent."""
        side = self.page.get_by_role("region", name=f"{flank.capitalize()} side")
        if not side.get_by_label("Toe to heel", exact=True).is_visible():
            side.get_by_text("Use sliders").click()
        side.get_by_label("Toe to heel", exact=True).fill(f"{u / 100:.2f}")
        side.get_by_label("Root to tip", exact=True).fill(f"{v / 100:.2f}")
        with self.page.expect_response("**/patterns"):
            side.get_by_role("button", name=button).click()

    def test_a_used_set_is_told_to_go_back(self) -> None:
        self.bench("Timber crew", "pattern")
        self.page.get_by_text("Assumed so far").click()
        self.page.get_by_label("Used: set it back").check()
        self.page.get_by_label("Backlash as found").fill("0.31 mm")
        self.page.get_by_role("button", name="Save").click()
        expect(self.page.get_by_text("used set, back to as found")).to_be_visible()
        expect(self.page.get_by_text("The set-up is finished. Leave it")).to_have_count(0)

    def test_the_map_is_walked_by_keyboard(self) -> None:
        self.bench("Timber crew", "map")
        place = self.page.get_by_role("group", name="Set-up map")
        place.focus()
        for _ in range(3):
            self.page.keyboard.press("Shift+ArrowRight")
        expect(self.page.get_by_text("At the cross")).to_be_visible()
        drawing = self.page.get_by_role("img", name="Drive side at this point")
        expect(drawing).to_be_visible()
        before = drawing.get_attribute("aria-label") or ""
        self.page.keyboard.press("Shift+ArrowUp")
        self.page.keyboard.press("Shift+ArrowUp")
        expect(drawing).not_to_have_attribute("aria-label", before)
        self.page.get_by_text("Show as a table").click()
        expect(self.page.get_by_role("columnheader", name="Pinion")).to_be_visible()

    def test_somebody_elses_trial_shows_when_the_page_is_looked_at_again(self) -> None:
        self.bench("Timber crew")
        other = self.new_page(self.new_context())
        self.sign_in("tam", other)
        self.go(f"{below(self.job('Timber crew'))}/bench", "Set-up bench, trial 1", other)
        other.get_by_text("New trial").click()
        other.get_by_label("Ring gear side, notches").fill("1")
        other.get_by_label("Far side, notches").fill("-1")
        other.get_by_role("button", name="Start trial 2").click()
        expect(other.get_by_role("heading", name="Set-up bench, trial 2")).to_be_visible()
        self.page.get_by_role("button", name="Start the final reading").click()
        expect(self.page.get_by_role("heading", name="Set-up bench, trial 2")).to_be_visible()
        expect(self.page.get_by_text("Somebody else has started a new trial").first).to_be_visible()
        other.context.close()
