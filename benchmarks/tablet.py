"""A browser at the bench of a workshop that is being killed, killed itself as well: what its page took in has to arrive, once each."""

from __future__ import annotations

import contextlib
import json
import random
import re
import shutil
import tempfile
import time

from playwright.sync_api import BrowserContext, Error, Page, Playwright, Response, sync_playwright

from benchmarks.writers import AWAY, PATIENCE_S, Writer
from e2e import chromium

_POSITIONS = 8
_OFFLINE = (2, 5)
"""Of every other trial the readings from the third to the fifth are typed without a connection."""
_ANSWER_MS = 15_000


class Tablet:
    """Reads one trial after another round the ring, typed into the page. Killed, it is opened again with the same profile."""

    def __init__(self, writer: Writer) -> None:
        self.writer, self.seen, self.ended = writer, writer.seen, writer.ended
        self.profile = tempfile.mkdtemp(prefix="amber-tablet-")
        self._open: BrowserContext | None = None
        self._trials = 0

    def kill(self, chosen: random.Random) -> None:
        """The browser, all of it at once.

        Raises
        ------
        LookupError
            When it is not open just now.
        """
        chromium.kill(self.profile)

    def work(self) -> None:
        """Until told to end, and then until all that was typed has arrived."""
        try:
            self.writer.sign_in()
            with sync_playwright() as playwright:
                while not self.ended.is_set():
                    begun = self.writer.begin_trial()
                    if begun is not None:
                        self._read(playwright, *begun)
                self._close()
        finally:
            shutil.rmtree(self.profile, ignore_errors=True)

    def _read(self, playwright: Playwright, job: str, trial: str) -> None:
        self._trials += 1
        address, until, best = f"{self.writer.address.rstrip('/')}/jobs/{job}/work/{job}/bench", time.monotonic() + PATIENCE_S, 0
        while time.monotonic() < until:
            try:
                page = self._page(playwright, address)
                while self._one_more(page, trial):
                    if self.seen.promised.get(trial, 0) > best:
                        best, until = self.seen.promised[trial], time.monotonic() + PATIENCE_S
            except Error:  # killed, or nobody answers
                self._close()
                time.sleep(0.2)
            else:
                return
        self.seen.refused.append(f"browser: {best} of {_POSITIONS} readings of trial {trial}, and no further in {PATIENCE_S:.0f} s")

    def _page(self, playwright: Playwright, address: str) -> Page:
        """The bench in the browser of this profile, with somebody signed in."""
        if self._open is None:
            self._open = playwright.chromium.launch_persistent_context(
                self.profile, **chromium.LAUNCHED, viewport={"width": 1280, "height": 800}, ignore_https_errors=True
            )
            self._open.set_default_timeout(_ANSWER_MS)
            self._open.on("response", self._note)
        self._open.set_offline(False)
        page = self._open.pages[0] if self._open.pages else self._open.new_page()
        page.goto(address)
        name, strip = page.get_by_label("Login name"), page.locator("[data-strip]")
        name.or_(strip).first.wait_for()
        if name.count():  # the cookie had not reached the disk
            name.fill(self.writer.name)
            page.get_by_label("Password").fill(self.writer.password)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("heading", name="Floor").wait_for()
            page.goto(address)
        strip.wait_for()
        return page

    def _one_more(self, page: Page, trial: str) -> bool:
        """One more reading typed, and what the page then says it has; False when all have arrived."""
        before = self.seen.promised.get(trial, 0)
        read = self._until(page, before)
        if read == _POSITIONS:
            page.get_by_text(re.compile(r"\d+ waiting:")).wait_for(state="detached", timeout=1000 * PATIENCE_S)
            return False
        if self._trials % 2 and read in _OFFLINE and self._open is not None:
            self._open.set_offline(read == _OFFLINE[0])
        strip = page.locator("[data-strip]")
        strip.fill("0.15 mm")
        strip.press("Enter")
        self.seen.promised[trial] = self._until(page, read + 1)
        return True

    def _until(self, page: Page, least: int) -> int:
        """How many positions the page says are read, as soon as it says so many."""
        said = page.get_by_text(re.compile(rf"^[{least}-{_POSITIONS}] of {_POSITIONS} positions$"))
        said.wait_for()
        count = int(str(said.text_content())[0])
        page.get_by_text("saving on this device").wait_for(state="detached")  # until then it is promised to nobody
        return count

    def _note(self, response: Response) -> None:
        """What the server answered the page to a reading."""
        if response.request.method != "POST" or not response.url.endswith("/readings"):
            return
        with contextlib.suppress(Error):
            write = str(json.loads(response.request.post_data or "{}").get("client_id"))
            if response.status in (200, 201):
                self.seen.answered(write, "reading")
            elif response.status not in AWAY:
                path = response.url.removeprefix(self.writer.address)
                self.seen.turned_away.append(f"{response.status} to {write} at {path}: {_words(response)}")

    def _close(self) -> None:
        if self._open is not None:
            with contextlib.suppress(Error):
                self._open.close()
            self._open = None


def _words(response: Response) -> str:
    """The beginning of an answer, where the browser still has it."""
    try:
        return response.text()[:200]
    except Error:
        return ""
