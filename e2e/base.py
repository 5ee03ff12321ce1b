"""A real browser on the real application: the demo workshop, one page, and no error in its console."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any, ClassVar
from unittest import mock
from uuid import UUID

from django.conf import settings
from django.contrib.sessions.models import Session
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management import call_command
from django.db import OperationalError, connection, transaction
from django.db.backends.utils import CursorWrapper
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Locator, Page, Playwright, Route, expect, sync_playwright

from accounts import demo as people
from demo_world import world
from e2e.chromium import LAUNCHED
from jobs.models import Job

AXE = (Path(settings.ROOT) / "web/node_modules/axe-core/axe.min.js").read_text(encoding="utf-8")
# long, for a machine that is shared: what is there at once is found at once
PATIENCE_MS = 40_000
expect.set_options(timeout=PATIENCE_MS)
# a refusal or a lost connection is part of these tests; the browser notes each in the console
_EXPECTED = "Failed to load resource"

_WHERE = """element => {
    if (!element.checkVisibility()) return 'gone';
    if (element === document.activeElement) return 'in focus';
    return element.compareDocumentPosition(document.activeElement) & Node.DOCUMENT_POSITION_FOLLOWING ? 'before' : 'after';
}"""
_put_back: list[str] = []


def demo_workshop() -> None:
    """The demo world as it is made: worked out once in a run, and copied inside the database from then on."""
    if not _put_back:
        call_command("flush", interactive=False, verbosity=0)
        with transaction.atomic(), connection.cursor() as cursor:
            world.load()
            _put_back.extend(_kept_aside(cursor))
        return
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(";".join(_put_back))


def _kept_aside(cursor: CursorWrapper) -> list[str]:
    """Copies of all tables as they are now; the statements that put back what is in them."""
    tables = connection.introspection.django_table_names(only_existing=True, include_views=False)
    # a request of the test before may still be writing: it is waited for; rows that point to one another then go and come in any order
    back = [f"LOCK {', '.join(tables)} IN SHARE ROW EXCLUSIVE MODE", "SET LOCAL session_replication_role = replica"]
    for table in tables:
        back.append(f'DELETE FROM "{table}"')
        cursor.execute(f'DROP TABLE IF EXISTS "as_made_{table}"; CREATE TABLE "as_made_{table}" AS TABLE "{table}"')
        cursor.execute(f'SELECT count(*) FROM "{table}"')
        if cursor.fetchone() != (0,):
            back.append(f'INSERT INTO "{table}" SELECT * FROM "as_made_{table}"')
    for sequence in connection.introspection.sequence_list():
        table, column = sequence["table"], sequence["column"]
        back.append(f"""SELECT setval('{sequence["name"]}', (SELECT GREATEST(max("{column}"), 1) FROM "{table}"))""")
    return [*back, "SELECT setval('jobs_job_number', (SELECT max(number) FROM jobs_job))"]


def below(job: Job | UUID) -> str:
    """The address of the first piece of work of a job, which has the job's own id."""
    found = job.pk if isinstance(job, Job) else job
    return f"/jobs/{found}/work/{found}"


class BrowserTestCase(StaticLiveServerTestCase):
    """`self.page` at 1280x800, reduced motion, nobody signed in."""

    browser: Browser
    playwright: Playwright
    size = (1280, 800)
    device: ClassVar[dict[str, Any]] = {}

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        # Playwright's own loop runs in this thread; Django takes that for async code
        cls.enterClassContext(mock.patch.dict(os.environ, {"DJANGO_ALLOW_ASYNC_UNSAFE": "true"}))
        cls.playwright = cls.enterClassContext(sync_playwright())
        cls.browser = cls.playwright.chromium.launch(**LAUNCHED)
        cls.addClassCleanup(cls.browser.close)

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
        """Sign in by the form."""
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
        there = None
        for _ in range(most):
            # a control is looked for by its role and name once, not at every key: that asks the name of everything on the page
            if there is None and target.count() == 1:
                there = target.element_handle()
            where = there.evaluate(_WHERE) if there else "after"
            if where == "in focus" and target.count() == 1 and target.evaluate(_WHERE) == "in focus":
                return
            if where in ("gone", "in focus"):  # drawn anew meanwhile, or another one by now
                there = None
            if where != "gone":
                self.page.keyboard.press("Shift+Tab" if where == "before" else "Tab")
        self.fail(f"{target} was never reached by Tab")

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
