"""Files in and out of the browser, and what each role sees."""

from __future__ import annotations

import json
from pathlib import Path
from tempfile import TemporaryDirectory
from uuid import UUID

from playwright.sync_api import FilePayload, expect

from build_sheet.job_file import VERSION
from e2e.base import BrowserTestCase, below
from jobs.models import Job
from stores.models import ShimRow


class Importing(BrowserTestCase):
    def send(self, content: bytes) -> None:
        self.page.get_by_label("Job file").set_input_files([FilePayload(name="job.json", mimeType="application/json", buffer=content)])
        self.page.get_by_role("button", name="Import").click()

    def test_a_job_taken_along_comes_back_and_a_damaged_file_does_not(self) -> None:
        self.sign_in("isla")
        job = self.job("Library van")
        self.go(f"{below(job)}/sheet", "Build sheet")
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Whole job as JSON").click()
        content = Path(download.value.path()).read_bytes()
        plain = json.loads(content)
        elsewhere = str(UUID(int=42))
        works = [
            {**work, "id": elsewhere, **{part: [] for part, rows in work.items() if isinstance(rows, list)}} for work in plain["works"]
        ]
        other = {
            **plain,
            "job": {**plain["job"], "id": elsewhere},
            "vehicle": {**plain["vehicle"], "id": elsewhere, "name": "Van from elsewhere"},
            "station_records": [],
            "axle_facts": [],
            "works": works,
        }

        self.go("/jobs/import", "Import a job")
        self.page.get_by_role("button", name="Import").click()
        expect(self.page.get_by_role("alert")).to_contain_text("Choose a job file")
        cases = [
            (content[:3000], "cut off or damaged"),
            (b"{}", "not an Amber Pinion job file"),
            (json.dumps({**plain, "version": VERSION + 1}).encode(), "newer release"),
            (content, "is already here"),
        ]
        for damaged, sentence in cases:
            self.send(damaged)
            expect(self.page.get_by_role("alert")).to_contain_text(sentence)
        before = Job.objects.count()
        self.send(json.dumps(other).encode())
        expect(self.page.get_by_role("heading", name="Van from elsewhere")).to_be_visible()
        expect(self.page.get_by_text("by Isla Moray; names and dates are the file's")).to_be_visible()
        expect(self.page.get_by_text("This file was changed after it was written")).to_be_visible()
        self.assertEqual(Job.objects.count(), before + 1)
        third = str(UUID(int=43))
        visit = {
            **other,
            "job": {**other["job"], "id": third},
            "vehicle": {**other["vehicle"], "id": third},
            "works": [{**work, "id": third} for work in works],
        }
        self.go("/jobs/import", "Import a job")
        self.send(json.dumps(visit).encode())
        expect(self.page.get_by_role("alert")).to_contain_text("A vehicle here looks the same")
        self.page.get_by_role("radio", name="Van from elsewhere").check()
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Import").click()
        expect(self.page.get_by_role("heading", name="Van from elsewhere")).to_be_visible()
        self.assertEqual(len({job.vehicle_id for job in Job.objects.filter(pk__in=(elsewhere, third))}), 1)

    def test_fifty_megabytes_get_their_sentence(self) -> None:
        self.sign_in("isla")
        self.go("/jobs/import", "Import a job")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "large.json"
            path.write_bytes(b" " * (50 * 2**20))
            self.page.get_by_label("Job file").set_input_files(path)
            self.page.get_by_role("button", name="Import").click()
            expect(self.page.get_by_role("alert")).to_contain_text("The file is 50 MB")


class Roles(BrowserTestCase):
    def test_a_visitor_reads_and_writes_nothing(self) -> None:
        self.sign_in_by_form("visitor")
        expect(self.page.get_by_role("link", name="New job")).to_have_count(0)
        van = self.job("Library van")
        self.go(f"/jobs/{van.pk}", "Run sheet")
        for name in ("Edit", "Undo", "Confirm"):
            expect(self.page.get_by_role("button", name=name)).to_have_count(0)
        self.go(f"{below(van)}/bench", "Trials")
        expect(self.page.get_by_label("Reading strip")).to_have_count(0)
        self.go(f"{below(self.job('Ferry-ramp tug'))}/sheet", "Build sheet")
        expect(self.page.get_by_text("Your login cannot sign off work")).to_be_visible()

    def test_the_counter_keeps_the_drawer(self) -> None:
        self.sign_in("callum")
        self.go("/stores", "Stores")
        self.page.get_by_text("Corrie LS19", exact=True).first.click()
        self.page.get_by_role("combobox", name="Drawer").select_option("Side shims")
        self.page.get_by_label("Thickness (mm)").fill("4.55")
        self.page.get_by_label("Number in the drawer").fill("3")
        self.page.get_by_role("button", name="Save count").click()
        expect(self.page.get_by_text("4.55", exact=True)).to_be_visible()
        self.assertEqual(ShimRow.objects.get(thickness_mm="4.55").count, 3)

    def test_a_foreman_signs_and_takes_it_back(self) -> None:
        self.sign_in("greta")
        self.go(f"{below(self.job('Ferry-ramp tug'))}/sheet", "Build sheet")
        self.page.get_by_role("button", name="Sign off").click()
        expect(self.page.get_by_role("heading", name="Signed off")).to_be_visible()
        self.page.get_by_role("button", name="Take back the sign-off").click()
        self.page.get_by_role("dialog").get_by_role("textbox").fill("Wrong oil noted")
        self.page.get_by_role("button", name="Confirm").click()
        expect(self.page.get_by_text("Taken back: Wrong oil noted")).to_be_visible()

    def test_units_and_theme_follow_the_person(self) -> None:
        self.sign_in("tam")
        self.go("/you", "Tam Birsay")
        self.page.get_by_label("Theme").select_option("pit")
        expect(self.page.locator("html")).to_have_attribute("data-theme", "pit")
        self.go(f"{below(self.job('Library van'))}/bench", "Trials")
        expect(self.page.get_by_text("5.1 to 7.9 thou")).to_be_visible()

    def test_the_station_of_the_map_is_set(self) -> None:
        self.sign_in("isla")
        self.go(f"/jobs/{self.job('Library van').pk}", "Run sheet")
        self.page.get_by_role("button", name="Gearbox").click()
        self.page.get_by_role("dialog").get_by_label("Fault").check()
        self.page.get_by_role("dialog").get_by_label("Note").fill("Output seal wet")
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(self.page.get_by_role("button", name="Gearbox")).to_contain_text("Output seal wet")

    def test_the_floor_filters_and_searches(self) -> None:
        self.sign_in_by_form("isla")
        self.page.get_by_text("Waiting", exact=True).first.click()
        expect(self.page.get_by_role("listitem")).to_have_count(Job.objects.filter(state="waiting").count())
        self.page.get_by_role("searchbox").fill("school")
        expect(self.page.get_by_role("listitem")).to_have_count(1)
        self.page.get_by_role("searchbox").fill("nobody")
        expect(self.page.get_by_text("No job matches.")).to_be_visible()
