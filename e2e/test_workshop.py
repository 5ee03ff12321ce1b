"""Around the bench: a vehicle handed over, a sheet copied in the Stores, a kind of work shaped, a run sheet typed in from paper."""

from __future__ import annotations

import re
from pathlib import Path

from django.utils import timezone
from playwright.sync_api import expect

from accounts.models import ShopHours, User
from e2e.base import BrowserTestCase, below
from e2e.touch import TouchTestCase
from hand_over.models import FollowUp, HandOver
from jobs.models import Job
from stores.models import AxleFamily
from work.models import KindShape, OwnKindRevision, StepRecord


class Workshop(BrowserTestCase):
    def test_a_vehicle_is_handed_over_and_its_follow_ups_come_up(self) -> None:
        self.sign_in("callum")
        van = self.job("Post van")
        self.go(f"/jobs/{van.pk}", "Run sheet")
        self.page.get_by_role("link", name="Hand-over").click()
        paper = self.page.frame_locator("#paper")
        expect(paper.get_by_text("Not handed over yet")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_label("Odometer (km)").fill("8126")
        self.page.get_by_label("Received by").fill("A. Postmistress")
        self.page.get_by_label("Found and not done").fill("Worn front tyres: declined")
        self.page.get_by_role("button", name="Hand over", exact=True).click()
        expect(self.page.get_by_text("Check the figure. Record it anyway if it was replaced.")).to_be_visible()
        self.page.get_by_label("Odometer (km)").fill("81260")
        self.page.get_by_role("button", name="Hand over", exact=True).click()
        expect(self.page.get_by_text("Handed over to A. Postmistress")).to_be_visible()
        expect(paper.get_by_text("Worn front tyres: declined")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Dates for a calendar").click()
        self.assertTrue(Path(download.value.path()).read_text().startswith("BEGIN:VCALENDAR"))
        self.assertEqual(HandOver.objects.get(job=van).received_by, "A. Postmistress")
        # a hundred kilometres later
        self.go(f"/vehicles/{van.vehicle_id}", "Odometer")
        self.page.context.clear_cookies()
        self.sign_in("isla")
        self.go(f"/vehicles/{van.vehicle_id}", "Odometer")
        expect(self.page.get_by_role("heading", name="What it measured when it left")).to_be_visible()
        self.page.get_by_label("Odometer (km)").fill("81330")
        self.page.get_by_role("button", name="Record").click()
        expect(self.page.get_by_text(re.compile("^81.330 km$"))).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.go("/", "Due today")
        due = self.page.get_by_role("region", name="Today")
        expect(due.get_by_text("Torque the wheel nuts again, by hand.").first).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        due.get_by_role("button", name=re.compile("^Done ?: Torque the wheel nuts")).click()
        expect(due.get_by_text("Torque the wheel nuts again, by hand.")).to_have_count(0)
        self.assertEqual(FollowUp.objects.get(code="wheel_nuts").end.by_name, "Isla Moray")

    def test_a_sheet_is_copied_and_a_wrong_line_is_named(self) -> None:
        self.sign_in("greta")
        self.go("/stores", "Stores")
        self.page.get_by_role("button", name="Copy it to a new family").click()
        self.page.get_by_label("Code (small letters, digits, hyphens)").fill("brannoch-bf21-long")
        self.page.get_by_label("Add fasteners").select_option("cover_bolts")
        self.page.get_by_label("Count: Cover bolts").fill("10")
        self.page.get_by_label("Torque: Cover bolts").fill("32")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(self.page.get_by_text("Cover bolts: say where the figure comes from.")).to_be_visible()
        self.page.get_by_label("Source: Cover bolts").fill("Counted")
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(self.page.get_by_role("heading", name="Brannoch BF21 copy")).to_be_visible()
        kept = AxleFamily.objects.get(code="brannoch-bf21-long").fasteners.get(place="cover_bolts")
        self.assertEqual((kept.count, kept.torque_nm), (10, 32.0))

    def test_a_sheet_for_a_propshaft_is_made_from_nothing_and_judges_its_work(self) -> None:
        self.sign_in("greta")
        self.go("/stores", "Stores")
        self.page.get_by_role("button", name="New family", exact=True).click()
        self.page.get_by_label("Sheet for").select_option("propshaft")
        expect(self.page.get_by_label("Ring gear diameter (mm)")).to_have_count(0)
        for field, text in (("Name", "Corrie P60"), ("Code (small letters, digits, hyphens)", "corrie-p60"), ("Maker", "Corrie")):
            self.page.get_by_label(field, exact=True).fill(text)
        self.page.get_by_label("Build").fill("One-piece propshaft, 60 mm tube")
        self.page.get_by_label("Add fasteners").select_option("propshaft_bolts")
        self.page.get_by_label("Count: Propshaft bolts").fill("4")
        self.page.get_by_label("Torque: Propshaft bolts").fill("60")
        self.page.get_by_label("Source: Propshaft bolts").fill("Manual")
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(self.page.get_by_role("heading", name="Corrie P60")).to_be_visible()
        self.go("/jobs/new", "New job")
        self.page.get_by_label("Kind of work").select_option("joint")
        self.page.get_by_label("Part of the vehicle").select_option("rear_shaft")
        offered = self.page.get_by_label("Family, where it is known")
        expect(offered.get_by_role("option", name=re.compile("Corrie P60"))).to_have_count(1)
        expect(offered.get_by_role("option", name=re.compile("Corrie LS19"))).to_have_count(0)

    def test_a_foreman_adds_a_step_and_the_next_job_has_it(self) -> None:
        self.sign_in("greta")
        self.go("/kinds", "Kinds of work")
        self.page.get_by_label("Kind of work").select_option("oil_service")
        expect(self.page.get_by_text(re.compile("^2. steps"))).to_be_visible()
        self.page.get_by_role("button", name=re.compile("^Add ?: Oil drained")).click()
        self.page.get_by_role("button", name="Add a step after this one").click()
        own = self.page.get_by_role("group", name="Own step")
        own.get_by_label("What is done").fill("Oil held against the light")
        own.get_by_label("Why", exact=True).fill("Water shows at once.")
        own.get_by_label("Hold point").check()
        self.page.get_by_label("Reason for the change").fill("Two came back")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(self.page.get_by_text("Work that is booked from now on has it.")).to_be_visible()
        self.assertEqual(KindShape.objects.get().content["steps"][0]["title"], "Oil held against the light")

    def test_a_foreman_puts_a_kind_together_and_it_is_booked(self) -> None:
        self.sign_in("greta")
        self.go("/kinds", "Kinds of work")
        self.page.get_by_role("button", name="New kind of work").click()
        form = self.page.get_by_role("form", name="Own kind of work")
        form.get_by_label("Name").fill("Hub seal on the trailer")
        form.get_by_role("checkbox", name=re.compile("^Cover off and on")).check()
        expect(form.get_by_role("checkbox", name=re.compile("^Oil out, and in again"))).to_be_checked()
        form.get_by_role("checkbox", name=re.compile("^New seal in")).check()
        form.get_by_role("checkbox", name="Rear propshaft").check()
        form.get_by_role("button", name="Save").click()
        expect(self.page.get_by_text("is not done on every part that you chose.")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        form.get_by_role("checkbox", name="Rear propshaft").uncheck()
        form.get_by_role("button", name="Save").click()
        expect(self.page.get_by_text("Work that is booked from now on has it.")).to_be_visible()
        self.assertEqual(OwnKindRevision.objects.get().content["blocks"], ["oil", "cover", "seal"])
        self.go("/jobs/new", "New job")
        self.page.get_by_label("Kind of work").select_option("Hub seal on the trailer")
        expect(self.page.get_by_label("Part of the vehicle")).to_have_value("rear_axle")

    def test_a_foreman_sets_the_hours_and_the_plan_goes_by_them(self) -> None:
        self.sign_in("greta")
        self.go("/you", "Greta Fell")
        self.page.get_by_role("checkbox", name="Saturday").check()
        self.page.get_by_label("Saturday to").fill("07:00")
        self.page.get_by_role("button", name="Save hours").click()
        expect(self.page.get_by_text("Opening time must be before closing time.")).to_be_visible()
        self.page.get_by_label("Saturday to").fill("12:00")
        self.page.get_by_label("Closing day").fill("2026-12-24")
        self.page.get_by_label("People at work").fill("3")
        self.assertEqual(self.violations(self.page), [])
        self.page.get_by_role("button", name="Save hours").click()
        expect(self.page.get_by_text("Saved.")).to_be_visible()
        self.assertEqual((ShopHours.now().hands, ShopHours.now().closed), (3, ["2026-12-24"]))
        self.go("/", "Floor")
        self.page.get_by_text("Plan: when each piece of work is ready").click()
        expect(self.page.get_by_text("3 people, by the opening hours")).to_be_visible()
        expect(self.page.get_by_role("link", name=re.compile("418 .*Library van.* ready "))).to_be_visible()
        self.assertEqual(self.violations(self.page), [])

    def test_a_foreman_adds_somebody_closes_a_login_and_keeps_files_in_the_house(self) -> None:
        self.sign_in("greta")
        self.go("/you", "Greta Fell")
        self.page.get_by_role("checkbox", name="Read only").uncheck()
        self.page.get_by_text("Earlier settings").click()
        expect(self.page.get_by_text("files: foreman, technician, counter")).to_be_visible()
        self.page.get_by_role("link", name="People and logins").click()
        form = self.page.locator("form", has_text="First password")
        form.get_by_role("textbox", name="Name", exact=False).first.fill("Fergus Holm")
        form.get_by_label("Login name").fill("fergus")
        form.get_by_label("First password").fill("fergus")
        form.get_by_role("button", name="Add login").click()
        expect(form.get_by_role("alert")).to_contain_text("too short")
        form.get_by_label("First password").fill("anvil-lantern-47")
        form.get_by_role("button", name="Add login").click()
        expect(self.page.get_by_text("Fergus Holm can sign in now.")).to_be_visible()
        logins = self.page.get_by_role("region", name="Logins")
        logins.get_by_label("Role of Fergus Holm").select_option("Counter")
        tam = logins.get_by_role("listitem").filter(has_text="Tam Birsay")
        tam.get_by_role("button", name="Close login").click()
        expect(tam.get_by_role("button", name="Open again")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.assertEqual(User.objects.get(username="fergus").role, "counter")
        self.page.context.clear_cookies()
        self.sign_in("visitor")
        self.go(f"{below(self.job('Post van'))}/sheet", "Build sheet")
        expect(self.page.get_by_role("link", name="Build sheet as PDF")).to_be_visible()
        expect(self.page.get_by_role("link", name="Whole job as JSON")).to_have_count(0)

    def test_an_operator_signs_in_by_the_same_page_and_gets_to_the_operators_pages(self) -> None:
        User.objects.create_superuser("root", password="anvil-lantern-47")
        self.page.goto("/admin/")
        self.page.get_by_label("Login name").fill("root")
        self.page.get_by_label("Password").fill("anvil-lantern-47")
        self.page.get_by_role("button", name="Sign in").click()
        expect(self.page.get_by_role("heading", name="Site administration")).to_be_visible()

    def test_a_run_sheet_is_typed_in_from_paper_and_stops_at_what_is_not_taken(self) -> None:
        self.sign_in("isla")
        job = Job.objects.filter(works__kind="oil_service").earliest("number")
        self.go(f"/jobs/{job.pk}/work/{job.pk}/typed-in", "Type in from paper")
        self.assertEqual(self.violations(self.page), [])
        for title in ("Complaint noted", "Tyres checked", "No high-voltage drive", "Vehicle on axle stands", "Key away", "Fill plug loose"):
            self.page.get_by_role("checkbox", name=re.compile(f"Done ?: {title}")).check()
        self.page.get_by_label("Oil drained (l)").fill("a lot")
        self.page.get_by_role("button", name="Save 7 steps").click()
        expect(self.page.get_by_text("6 saved.")).to_be_visible()
        expect(self.page.get_by_text("does not start with a number")).to_be_visible()
        self.page.get_by_label("Oil drained (l)").fill("1.4")
        self.page.get_by_role("button", name="Save 1 step", exact=True).click()
        expect(self.page.get_by_text("1 saved.")).to_be_visible()
        self.assertEqual(StepRecord.objects.filter(work=job.pk, outcome="passed").count(), 7)
        self.assertEqual(StepRecord.objects.get(work=job.pk, step_code="drained").at.date(), timezone.now().date())


class OnAPhone(TouchTestCase):
    def test_new_screens_fit(self) -> None:
        self.sign_in("greta")
        van = self.job("Post van")
        work = self.job("Forest ranger")
        for address, heading in (
            (f"/jobs/{van.pk}/hand-over", "Hand-over"),
            (f"/jobs/{work.pk}", "Run sheet"),
            (f"/jobs/{work.pk}/work/{work.pk}/typed-in", "Type in from paper"),
            ("/kinds", "Kinds of work"),
            ("/jobs/new", "New job"),
            ("/", "Floor"),
        ):
            with self.subTest(address):
                self.go(address, heading)
                self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
                self.assertEqual(self.violations(self.page), [])
