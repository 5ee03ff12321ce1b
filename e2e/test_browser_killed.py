"""A browser that is killed while it holds what could not be sent: it is there when the browser comes back, once each."""

from __future__ import annotations

import contextlib
import re
import shutil
import tempfile

from playwright.sync_api import BrowserContext, Error, expect

from e2e.base import PATIENCE_MS, BrowserTestCase, below
from e2e.chromium import LAUNCHED, kill
from parts_wall.models import PartRecord
from setup_bench.models import Reading


class Killed(BrowserTestCase):
    """Its own profile on disk, which outlives it."""

    def setUp(self) -> None:
        super().setUp()
        self.context.close()
        self.profile = tempfile.mkdtemp(prefix="amber-profile-")
        self.addCleanup(shutil.rmtree, self.profile, ignore_errors=True)
        self.open()

    def open(self) -> None:
        """The browser with that profile, and Isla signed in: a cookie reaches the disk late, so that it may be gone."""
        more = {"base_url": self.live_server_url, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}
        self.context: BrowserContext = self.playwright.chromium.launch_persistent_context(self.profile, **LAUNCHED, **more)
        self.context.set_default_timeout(PATIENCE_MS)
        self.page = self.new_page(self.context)
        self.page.goto("/")
        floor, name = self.page.get_by_role("heading", name="Floor"), self.page.get_by_label("Login name")
        expect(floor.or_(name)).to_be_visible()
        if name.count():
            self.sign_in_by_form("isla")

    def kill(self) -> None:
        """As when a phone's battery comes out."""
        kill(self.profile)
        with contextlib.suppress(Error):
            self.context.close()

    def test_parts_that_came_off_meanwhile_go_out_when_it_is_back(self) -> None:
        bus = self.job("Second school minibus")
        off = self.page.get_by_role("button", name="Off", exact=True)
        self.go(f"{below(bus)}/parts", "Parts wall")
        off.click()
        kept = PartRecord.objects.filter(work=bus.pk).order_by("id")
        expect(self.page.get_by_role("button", name=re.compile("Undo.*wheel nut, left"))).to_be_visible()  # the server has it
        self.context.set_offline(True)
        for waiting in (1, 2, 3):
            off.click()
            expect(self.page.get_by_text(f"{waiting} kept on this device")).to_be_visible()
        self.kill()
        self.assertEqual(kept.count(), 1)
        self.open()
        self.go(f"{below(bus)}/parts", "Parts wall")
        expect(self.page.get_by_role("button", name="Undo").nth(3)).to_be_visible()
        expect(self.page.get_by_text("kept on this device")).to_have_count(0)
        self.assertEqual([one.key for one in kept], ["wheelnut.left", "wheelnut.right", "wheel.left", "wheel.right"])

    def test_readings_typed_meanwhile_go_out_when_it_is_back(self) -> None:
        van, before = self.job("Library van"), Reading.objects.count()
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("4 of 8 positions")).to_be_visible()
        self.context.set_offline(True)
        for text in ("9", "10", "11"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("3 waiting: no connection")).to_be_visible()
        self.kill()
        self.assertEqual(Reading.objects.count(), before)
        self.open()
        self.go(f"{below(van)}/bench", "Set-up bench")
        expect(self.page.get_by_text("7 of 8 positions")).to_be_visible()
        rows = Reading.objects.order_by("id")[before:]
        self.until(lambda: rows.all().count() == 3)  # the strip counts what is on its way
        self.assertEqual([(row.angle_deg, row.typed) for row in rows], [(45.0, "9"), (135.0, "10"), (225.0, "11")])
