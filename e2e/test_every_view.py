"""Every main view in both themes: no axe violation, nothing wider than a phone, and targets a gloved finger hits."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from accounts.models import User
from e2e.base import BrowserTestCase, below

_OF_COLOUR = ("color-contrast", "link-in-text-block")


class EveryView(BrowserTestCase):
    def views(self) -> dict[str, tuple[str, str]]:
        van, loader = self.job("Library van").pk, self.job("Road-rail loader").pk
        return {
            "floor": ("/", "Floor"),
            "job": (f"/jobs/{van}", "Run sheet"),
            "four-wheel drive": (f"/jobs/{self.job('Four-wheel-drive').pk}", "Run sheet"),
            "new job": ("/jobs/new", "New job"),
            "gear set": (f"{below(loader)}/gear-set", "Identify the gear set"),
            "empty bench": (f"{below(loader)}/bench", "What shims are in now?"),
            "bench": (f"{below(van)}/bench", "Trials"),
            **{f"bench, {tab}": (f"{below(van)}/bench#{tab}", "Trials") for tab in ("pattern", "preload", "depth", "map")},
            "bench, no shim cures it": (f"{below(self.job('Estate car'))}/bench#backlash", "Set-up bench"),
            "bench, sleeve drawn up": (f"{below(self.job('Post van'))}/bench#preload", "Crush sleeve"),
            "bench with adjusters": (f"{below(self.job('Ferry-ramp tug'))}/bench", "Trials"),
            "ratio desk": (f"{below(van)}/ratios", "Compared"),
            "ratio desk, four-wheel drive": (f"{below(self.job('Four-wheel-drive'))}/ratios", "Front and rear match"),
            "driveline desk": (f"{below(self.job('Timber crew'))}/driveline", "Driveline desk"),
            "driveline desk, nothing measured": (f"{below(loader)}/driveline", "Driveline desk"),
            "noise finder": (f"{below(self.job('Launch tender'))}/noise", "Possible causes"),
            "noise finder, nothing told": (f"{below(loader)}/noise", "Possible causes"),
            **{
                f"parts wall, {tab}": (f"{below(self.job('Milk float'))}/parts?tab={tab}", "Parts wall")
                for tab in ("off", "map", "decide", "get", "back", "quote")
            },
            "parts wall, nothing off": (f"{below(self.job('Grain lorry'))}/parts", "Wheel nut"),
            "diff bench alone": ("/diff-bench", "Clutch pack order"),
            **{
                f"diff bench, {tool}": (f"{below(self.job('Old field car'))}/diff-bench?tool={tool}", heading)
                for tool, heading in (
                    ("end_play", "End play by shims"),
                    ("rollers", "Loose rollers"),
                    ("tube_end", "Tube end"),
                    ("gasket", "Gasket"),
                )
            },
            "sheet": (f"{below(self.job('Post van'))}/sheet", "Build sheet"),
            "vehicles": ("/vehicles", "Vehicles"),
            "vehicle": (f"/vehicles/{self.job('Four-wheel-drive').vehicle_id}", "Four-wheel-drive"),
            "import": ("/jobs/import", "Import a job"),
            "stores": ("/stores", "Stores"),
            "you": ("/you", "Greta Fell"),
            "people": ("/people", "People"),
            "glossary": ("/glossary", "Glossary"),
            "keys": ("/keys", "Keys"),
            "no such page": ("/nowhere", "Page not found"),
        }

    def opened(self, name: str, page: Page) -> Page:
        address, heading = self.views()[name]
        return self.go(address, heading, page)

    def test_axe_finds_nothing_in_either_theme(self) -> None:
        self.page.goto("/")
        expect(self.page.get_by_text("This is the demo")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])
        self.sign_in("greta")
        for name in self.views():
            with self.subTest(name):
                self.opened(name, self.page)
                self.assertEqual(self.violations(self.page), [])
                # the other theme is other colours and nothing else
                self.page.evaluate("() => (document.documentElement.dataset.theme = 'pit')")
                self.assertEqual(self.violations(self.page, *_OF_COLOUR), [])

    def test_the_dark_theme_is_the_persons_own(self) -> None:
        User.objects.filter(username="greta").update(theme="pit")
        self.sign_in_by_form("greta")
        expect(self.page.locator("html")).to_have_attribute("data-theme", "pit")
        self.assertEqual(self.violations(self.page), [])

    def test_axe_finds_nothing_on_the_printed_sheet(self) -> None:
        self.sign_in("greta")
        self.go(f"/api/v1/work/{self.job('Post van').pk}/sheet.html", "Job 417: Post van")
        self.assertEqual(self.violations(self.page), [])

    def test_axe_finds_nothing_in_the_dialogs(self) -> None:
        self.sign_in("greta")
        self.opened("job", self.page)
        self.page.get_by_role("button", name="Gearbox").click()
        self.assertEqual(self.violations(self.page), [])
        self.page.keyboard.press("Escape")
        self.opened("bench", self.page)
        self.page.keyboard.type("0.09")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("group", name="A question about a reading")).to_be_visible()
        self.assertEqual(self.violations(self.page), [])

    def test_a_phone_needs_no_sideways_scrolling_and_a_glove_hits_every_target(self) -> None:
        self.sign_in("greta")
        self.page.set_viewport_size({"width": 360, "height": 740})
        for name in self.views():
            with self.subTest(name):
                self.opened(name, self.page)
                self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 360)
                small = self.page.evaluate(
                    """() => [...document.querySelectorAll("main button, main .btn, section[aria-label='Reading strip'] button")]
                        .filter((one) => one.offsetParent !== null && one.getBoundingClientRect().height < 43.5)
                        .map((one) => one.textContent.trim())"""
                )
                self.assertEqual(small, [])
