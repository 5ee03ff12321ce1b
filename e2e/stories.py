"""A job of the island from the counter to the customer: booked, worked on, signed off and handed over in the browser."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from accounts.models import User
from demo_world.world import JobBuilder, Sits
from e2e.base import below
from e2e.run_sheet import RunSheetTestCase
from hand_over.models import HandOver
from jobs.models import Job
from stores.models import Quantity
from work.models import Work


class StoryTestCase(RunSheetTestCase):
    """`self.page` of a technician. What lies between the turning points is prepared in the database."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in("isla")

    def story(
        self,
        vehicle: str,
        kind: str,
        family: str,
        complaint: str,
        *,
        place: str = "rear_axle",
        layout: str = "rear_drive",
        more: tuple[tuple[str, str, str], ...] = (),
        to: str | None = None,
    ) -> JobBuilder:
        """Booked in the browser with its pieces of work, and then worked on as far as its turning point."""
        self.go("/jobs/new", "New job")
        self.page.get_by_label("Customer", exact=True).fill("Skerrow")
        self.page.get_by_role("textbox", name="Vehicle").fill(vehicle)
        self.page.get_by_label("Layout").select_option(layout)
        return self.books(complaint, (kind, place, family), *more, to=to)

    def books(self, complaint: str, *works: tuple[str, str, str], to: str | None = None, odometer: str = "81000") -> JobBuilder:
        """The rest of the form, and the job as far as its turning point."""
        self.page.get_by_label("Complaint").fill(complaint)
        self.page.get_by_label("Odometer").fill(odometer)
        for number, (code, where, sheet) in enumerate(works, start=1):
            if number > 1:
                self.page.get_by_role("button", name="Add another piece of work").click()
            work = self.page.get_by_role("group", name=f"Work {number}", exact=True)
            work.get_by_label("Kind of work").select_option(code)
            work.get_by_label("Part of the vehicle").select_option(where)
            if sheet:
                work.get_by_label(re.compile("^(Axle family|Family)")).select_option(sheet)
        self.page.get_by_role("button", name="Save job").click()
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        job = Job.objects.select_related("vehicle").get(complaint=complaint)
        made = JobBuilder.of(job, days_ago=0.2, by=User.objects.get(username="isla")).quickly()
        if to is not None:
            made.passes_to(to)
        made.done()
        return made

    def sets_up(self, builder: JobBuilder) -> None:
        """The set-up bench of the work in hand: one trial that is in, and the final assembly."""
        limit = builder.work.sheet.limit(Quantity.BACKLASH)
        assert limit is not None
        builder.sits(Sits(0.0, ((limit.least or 0.0) + (limit.greatest or 0.0)) / 2.0, 0.006))
        adjusters = builder.work.sheet.carrier_method == "adjusters"
        spacer = {"preload_part": "spacer", "spacer_pieces": [(0.3, 1)]}
        ends = spacer if builder.work.sheet.preload_method == "spacer" else {"preload_part": "sleeve"}
        for final in ({}, {**ends, "is_final": True}):
            if adjusters:
                builder.notches([(0.8, 1)], 0, 0, **final)
            else:
                builder.shims([(0.8, 1)], [(4.5, 1)], [(4.7, 1)], **final)
            if final:
                builder.turns(2.1, 2.7)
            builder.reads().paints().done()

    def hands_over(self, builder: JobBuilder, *says: str) -> None:
        """What is left is done; a foreman signs each piece of work off and gives the vehicle back. `says` stands on the customer's page."""
        job = builder.job
        builder.passes_to().done()
        foreman = self.sign_in("greta", self.new_page(self.new_context()))
        for work in Work.objects.filter(job=job, signed_off_at=None).order_by("number"):
            self.go(f"/jobs/{job.pk}/work/{work.pk}/sheet", "Build sheet", foreman)
            foreman.get_by_role("button", name="Sign off").click()
            expect(foreman.get_by_role("heading", name="Signed off", exact=True)).to_be_visible()
        self._gives_back(job, foreman, says)
        foreman.context.close()

    def _gives_back(self, job: Job, page: Page, says: tuple[str, ...]) -> None:
        self.go(f"/jobs/{job.pk}/hand-over", "Hand-over", page)
        page.get_by_label("Odometer (km)").fill("94300")
        page.get_by_label("Received by").fill("A. Skerrow")
        page.get_by_role("button", name="Hand over", exact=True).click()
        expect(page.get_by_text("Handed over to A. Skerrow")).to_be_visible()
        paper = page.frame_locator("#paper")
        for words in says:
            expect(paper.get_by_text(re.compile(words, re.I)).first).to_be_visible()
        self.assertEqual(HandOver.objects.get(job=job).by_name, "Greta Fell")

    def opens(self, builder: JobBuilder, code: str) -> Locator:
        """The run sheet with this step in hand."""
        self.go(below(builder.job), "Run sheet")
        expect(self.page.locator(f"#step-{code}.step-in-hand")).to_be_visible()
        return self.in_hand

    def measures(self, tool: str, *texts: str) -> Locator:
        """The tool of the step in hand, with these readings in its strip."""
        self.in_hand.get_by_role("link", name=f"Diff bench: {tool}").click()
        self.reads(*texts)
        return self.page.get_by_role("region", name="Answer")

    def reads(self, *texts: str) -> None:
        """Into the strip, one after the other."""
        strip = self.page.get_by_role("form", name="Reading")
        strip.get_by_role("textbox").focus()
        for text in texts:
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def reads_at(self, name: str, text: str) -> None:
        """The reading of this name."""
        listed = self.page.get_by_role("list", name="Readings")
        listed.get_by_role("button", name=re.compile(f"^{re.escape(name)}")).first.click()
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")

    def sets(self, label: str, text: str) -> None:
        """A field of a tool."""
        self.page.get_by_label(label, exact=True).fill(text)
        self.page.keyboard.press("Tab")

    def rows(self, group: str, *rows: dict[str, str]) -> None:
        """Rows of a tool's table."""
        table = self.page.get_by_role("group", name=group, exact=True)
        for row in rows:
            table.get_by_role("button", name=re.compile("^Add a row")).click()
            for label, text in row.items():
                cell = table.get_by_label(re.compile(rf"^{re.escape(label)}.*, row \d+$")).last
                if cell.evaluate("one => one.tagName") == "SELECT":
                    cell.select_option(label=text)
                else:
                    cell.fill(text)
        self.page.keyboard.press("Tab")

    def back_to_the_step(self) -> Locator:
        """The answer is saved to its step, and the run sheet shows it."""
        answer = self.page.get_by_role("region", name="Answer")
        answer.get_by_role("button", name="Save to the step").click()
        answer.get_by_role("link", name="Back to the run sheet").click()
        expect(self.in_hand).to_be_visible()
        return self.in_hand

    def chooses(self, way: str, reason: str) -> None:
        """A way of the step in hand; the reason where it asks for one."""
        self.in_hand.get_by_role("radio", name=re.compile(way, re.I)).first.check()
        why = self.in_hand.get_by_label("Reason")
        if why.count():
            why.fill(reason)
        self.in_hand.get_by_role("button", name="Choose").click()

    def passed(self, code: str) -> None:
        """The step is not in hand any more."""
        expect(self.page.locator(f"#step-{code}.step-in-hand")).to_have_count(0)
