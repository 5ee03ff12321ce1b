"""A phone under a vehicle: a small screen, and fingers instead of a pointer."""

from __future__ import annotations

from playwright.sync_api import BrowserContext

from e2e.base import PATIENCE_MS, BrowserTestCase


class TouchTestCase(BrowserTestCase):
    """`self.page` on a phone."""

    size = (360, 740)

    def new_context(self) -> BrowserContext:
        context = self.browser.new_context(
            base_url=self.live_server_url,
            viewport={"width": self.size[0], "height": self.size[1]},
            has_touch=True,
            is_mobile=True,
            reduced_motion="reduce",
        )
        context.set_default_timeout(PATIENCE_MS)
        return context

    def drag(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        """One finger from here to there."""
        touch = self.context.new_cdp_session(self.page)

        def send(kind: str, *at: tuple[float, float]) -> None:
            touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in at]})

        send("touchStart", start)
        for share in (0.25, 0.5, 0.75, 1.0):
            send("touchMove", (start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])))
        send("touchEnd")
