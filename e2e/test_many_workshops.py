"""Two workshops of one organisation: each on its own, and somebody who looks after both."""

from __future__ import annotations

from playwright.sync_api import expect

from accounts import demo as people
from accounts.models import Shop
from e2e.base import BrowserTestCase
from e2e.touch import TouchTestCase


class BothWorkshops(BrowserTestCase):
    def look_at(self, name: str) -> None:
        self.page.get_by_label("Workshop that you look at").select_option(label=name)
        expect(self.page.get_by_role("heading", name="Floor")).to_be_visible()
        expect(self.page.get_by_label("Workshop that you look at").locator("option:checked")).to_have_text(name)

    def test_who_looks_after_both_sees_both_and_books_in_one(self) -> None:
        self.sign_in_by_form("halla")
        expect(self.page.get_by_text("Luggage van, Corrie Carrier")).to_be_visible()
        expect(self.page.get_by_text("Post van, Corrie Carrier")).to_be_visible()
        expect(self.page.get_by_text(people.SECOND).nth(1)).to_be_attached()
        expect(self.page.get_by_role("link", name="New job")).to_have_count(0)
        self.assertEqual(self.violations(self.page), [])
        self.go("/jobs/new", "New job")
        expect(self.page.get_by_text("A job belongs to one workshop")).to_be_visible()
        self.look_at(people.SECOND)
        expect(self.page.get_by_text("Luggage van, Corrie Carrier")).to_be_visible()
        expect(self.page.get_by_text("Post van, Corrie Carrier")).to_have_count(0)
        self.go("/jobs/new", "New job")
        expect(self.page.get_by_text(people.SECOND, exact=True).last).to_be_visible()
        self.go("/vehicles", "Vehicles")
        expect(self.page.get_by_text("Dive truck, Brannoch Fell")).to_be_visible()
        expect(self.page.get_by_text("Post van, Corrie Carrier")).to_have_count(0)

    def test_a_workshop_is_added_and_its_foreman_finds_it_empty(self) -> None:
        self.sign_in("halla")
        self.go("/people", "People")
        form = self.page.get_by_role("form", name="Add a workshop")
        form.get_by_label("Name of the new workshop").fill("West Shore Garage")
        form.get_by_label("Its foreman").fill("Signy Ronas")
        form.get_by_label("Foreman's login name").fill("signy")
        form.get_by_label("Foreman's first password").fill("short")
        form.get_by_role("button", name="Add workshop").click()
        expect(form.get_by_text("This password is too short")).to_be_visible()
        form.get_by_label("Foreman's first password").fill(people.PASSWORD)
        form.get_by_role("button", name="Add workshop").click()
        expect(self.page.get_by_text("West Shore Garage is there.")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.assertEqual(Shop.objects.count(), 3)
        foreman = self.sign_in_by_form("signy", self.new_page(self.new_context()))
        expect(foreman.get_by_text("No jobs yet.")).to_be_visible()
        foreman.context.close()

    def test_a_sheet_is_shared_and_the_other_workshop_copies_it_to_change_it(self) -> None:
        self.sign_in("greta")
        self.go("/stores", "Stores")
        shared = self.page.get_by_label("Share this sheet with the other workshops")
        expect(shared).to_be_visible()
        expect(self.page.get_by_role("heading", name="Brannoch BF21")).to_be_visible()
        with self.page.expect_response("**/sharing"):
            shared.uncheck()
        expect(shared).not_to_be_checked()
        self.assertEqual(self.violations(self.page), [])
        self.page.context.clear_cookies()
        self.sign_in("edda")
        self.go("/stores", "Stores")
        expect(self.page.get_by_text("Shared by Skerrow Island Transport Workshop. Copy it to change it.")).to_be_visible()
        expect(self.page.get_by_text("Corrie LS19").first).to_be_visible()
        expect(self.page.get_by_text("Brannoch BF21")).to_have_count(0)
        expect(self.page.get_by_role("button", name="Edit this sheet")).to_have_count(0)
        expect(self.page.get_by_role("button", name="Copy it to a new family")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])


class BothByTouch(TouchTestCase):
    def test_the_choice_fits_a_phone(self) -> None:
        self.sign_in_by_form("halla")
        expect(self.page.get_by_label("Workshop that you look at")).to_be_visible()
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 360)
        self.assertEqual(self.violations(self.page), [])
