"""A real browser on the real application: the demo workshop, one page, and no error in its console."""

from __future__ import annotations

import atexit
import os
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any, ClassVar
from uuid import UUID

from django.conf import settings
from django.contrib.sessions.models import Session
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.db import OperationalError
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Locator, Page, Playwright, Route, expect, sync_playwright

from accounts import demo as people
from e2e.chromium import LAUNCHED
from jobs.models import Job
from test_support.demo import demo_workshop

AXE = (Path(settings.ROOT) / "web/node_modules/axe-core/axe.min.js").read_text(encoding="utf-8")
# long, for a machine that is shared: what is there at once is found at once
PATIENCE_MS = 40_000
expect.set_options(timeout=PATIENCE_MS)
# a refusal or a lost connection is part of these tests; the browser notes each in the console
_EXPECTED = "Failed to load resource"

# how many Tabs away a control is at least: below 0 before what is in focus, 0 in focus itself, null when it is gone
_AWAY = """element => {
    if (!element.checkVisibility()) return null;
    const now = document.activeElement ?? document.body;
    if (element === now) return 0;
    const before = element.compareDocumentPosition(now) & Node.DOCUMENT_POSITION_FOLLOWING;
    const [from, to] = before ? [element, now] : [now, element];
    const stops = [...document.querySelectorAll('a[href], button:enabled, input:enabled, select:enabled, textarea:enabled')];
    const between = stops.filter(one => one.tabIndex >= 0 && one.type !== 'radio' && !one.closest('[inert]') && one.checkVisibility()
        && from.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING && !from.contains(one)
        && to.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_PRECEDING && !one.contains(to));
    return before ? -1 - between.length : 1 + between.length;
}"""

_open: list[Browser] = []


@cache
def _playwright() -> Playwright:
    """One to a process, until it ends: its driver and a browser take two seconds to start."""
    # Playwright's own loop runs in this thread; Django takes that for async code
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
    started = sync_playwright().start()
    atexit.register(started.stop)
    return started


def _browser() -> Browser:
    """The process's browser; another one where the last one has gone. Every test has a context of its own in it."""
    if not _open or not _open[-1].is_connected():
        _open.append(_playwright().chromium.launch(**LAUNCHED))
    return _open[-1]


def below(job: Job | UUID) -> str:
    """The address of the first piece of work of a job, which has the job's own id."""
    found = job.pk if isinstance(job, Job) else job
    return f"/jobs/{found}/work/{found}"


class BrowserTestCase(StaticLiveServerTestCase):
    """`self.page` at 1280x800, reduced motion, nobody signed in."""

    playwright: Playwright
    browser: Browser
    size = (1280, 800)
    device: ClassVar[dict[str, Any]] = {}

    @classmethod
    def setUpClass(cls) -> None:
        cls.playwright = _playwright()
        cls.browser = _browser()
        super().setUpClass()

    def setUp(self) -> None:
        try:
            demo_workshop()
        except OperationalError:  # two that wait for each other: the request of before has gone by now
            demo_workshop()
        self.problems: list[str] = []
        self.context = self.new_context()
        self.page = self.new_page(self.context)

    def tearDown(self) -> None:
        self.context.close()
        self.assertEqual(self.problems, [])

    def _fixture_teardown(self) -> None:
        """Nothing: the next test puts everything back as it was made, and to empty all tables takes as long."""

    def new_context(self) -> BrowserContext:
        """Another person's browser."""
        width, height = self.size
        context = self.browser.new_context(
            base_url=self.live_server_url, viewport={"width": width, "height": height}, reduced_motion="reduce", **self.device
        )
        context.set_default_timeout(PATIENCE_MS)
        return context

    def new_page(self, context: BrowserContext) -> Page:
        """A page whose errors fail the test."""
        page = context.new_page()
        page.on("console", self._note)
        page.on("pageerror", lambda error: self.problems.append(f"page error: {error}"))
        return page

    def _note(self, message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and _EXPECTED not in message.text:
            self.problems.append(f"{message.type}: {message.text}")

    def sign_in(self, username: str, page: Page | None = None) -> Page:
        """Signed in as the form does it, with no page open yet."""
        page = page or self.page
        asked = page.context.request  # its cookies are the page's
        asked.get("/api/v1/csrf")
        token = next(one["value"] for one in page.context.cookies() if one["name"] == "csrftoken")
        answer = asked.post("/api/v1/sign-in", data={"username": username, "password": people.PASSWORD}, headers={"X-CSRFToken": token})
        self.assertTrue(answer.ok, answer.text())
        return page

    def sign_in_by_form(self, username: str, page: Page | None = None) -> Page:
        """Sign in by the form, which leads to the Floor."""
        page = page or self.page
        page.goto("/")
        page.get_by_label("Login name").fill(username)
        page.get_by_label("Password").fill(people.PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Floor")).to_be_visible()
        return page

    def loses_the_answer_to(self, address: str) -> list[int]:
        """The first write to an address arrives and its answer does not; what the server answered stands in the list."""
        lost: list[int] = []

        def lose(route: Route) -> None:
            if route.request.method == "GET" or lost:
                route.continue_()
            else:
                lost.append(route.fetch().status)
                route.abort()

        self.page.route(address, lose)
        return lost

    def stumbles_at(self, address: str, *statuses: int) -> None:
        """The server answers one question to an address after another with these statuses, then as it should."""
        left = list(statuses)

        def stumble(route: Route) -> None:
            if left:
                route.fulfill(status=left.pop(0), body="oh")
            else:
                route.continue_()

        self.page.route(address, stumble)

    def login_ends_at(self, address: str) -> None:
        """The login ends while the first write to an address is on its way: nothing that was asked before it can notice."""
        ended: list[str] = []

        def end(route: Route) -> None:
            if route.request.method != "GET" and not ended:
                ended.append(route.request.url)
                Session.objects.all().delete()
            route.continue_()

        self.page.route(address, end)

    def sign_in_again(self, username: str) -> None:
        """Sign in where the page asks for it because the login has ended."""
        dialog = self.page.get_by_role("dialog", name="You have been signed out")
        expect(dialog).to_be_visible()  # where it is not, what the page shows instead stands in the failure
        dialog.get_by_label("Login name").fill(username)
        dialog.get_by_label("Password").fill(people.PASSWORD)
        dialog.get_by_role("button", name="Sign in").click()
        expect(dialog).to_have_count(0)

    def job(self, vehicle: str) -> Job:
        """A demo job by the beginning of its vehicle."""
        return Job.objects.filter(vehicle__name__startswith=vehicle).earliest("number")

    def go(self, address: str, heading: str, page: Page | None = None) -> Page:
        """Open an address and wait for its heading."""
        page = page or self.page
        page.goto(address)
        expect(page.get_by_role("heading", name=heading).first).to_be_visible()
        return page

    def tab_to(self, target: Locator, *, most: int = 150) -> None:
        """Reach a control as somebody without a mouse does."""
        there, pressed, before = None, 0, 0
        while pressed < most:
            # a control is looked for by its role and name once, not at every key: that asks the name of everything on the page
            if there is None and target.count() == 1:
                there = target.element_handle()
            away = there.evaluate(_AWAY) if there else 1
            if away == 0 and target.count() == 1 and target.evaluate(_AWAY) == 0:
                return
            if not away:  # drawn anew meanwhile, or another one by now
                there, pressed = None, pressed + 1
                continue
            # many at once towards it; one at a time where that led past it
            times = abs(away) if away * before >= 0 else 1
            for _ in range(times):
                self.page.keyboard.press("Shift+Tab" if away < 0 else "Tab")
            before, pressed = away, pressed + times
        self.fail(f"{target} was never reached by Tab")

    def until(self, done: Callable[[], bool]) -> None:
        """Wait for what the page does not show."""
        for _ in range(PATIENCE_MS // 100):
            if done():
                return
            self.page.wait_for_timeout(100)
        self.fail("it never came about")

    def press(self, target: Locator, key: str = "Enter") -> None:
        """Tab to a control and press a key on it."""
        self.tab_to(target)
        self.page.keyboard.press(key)

    def fill(self, label: str, text: str, *, exact: bool = False) -> None:
        """Tab to a field and type."""
        self.tab_to(self.page.get_by_label(label, exact=exact))
        self.page.keyboard.type(text)

    def violations(self, page: Page, *rules: str) -> list[Any]:
        """What axe-core finds, briefly; by these rules alone, where some are named."""
        if not page.evaluate("() => 'axe' in window"):
            page.evaluate(AXE)
        only = {"runOnly": {"type": "rule", "values": rules}} if rules else {}
        found = page.evaluate("only => axe.run(document, {resultTypes: ['violations'], ...only})", only)
        return [(one["id"], [node["html"][:160] for node in one["nodes"][:3]]) for one in found["violations"]]
