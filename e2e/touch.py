"""A phone under a vehicle: a small screen, and fingers instead of a pointer."""

from __future__ import annotations

from typing import Any, ClassVar

from e2e.base import BrowserTestCase


class TouchTestCase(BrowserTestCase):
    """`self.page` on a phone."""

    size = (360, 740)
    device: ClassVar[dict[str, Any]] = {"has_touch": True, "is_mobile": True}

    def drag(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        """One finger from here to there."""
        touch = self.context.new_cdp_session(self.page)

        def send(kind: str, *at: tuple[float, float]) -> None:
            touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in at]})

        send("touchStart", start)
        for share in (0.25, 0.5, 0.75, 1.0):
            send("touchMove", (start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])))
        send("touchEnd")
