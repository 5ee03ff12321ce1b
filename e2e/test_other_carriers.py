"""Set-ups of other axles, each by the advice until contact is finished: adjusters with a cartridge, shims under side covers; in thou."""

from __future__ import annotations

from playwright.sync_api import expect

from demo_world.world import Sits
from e2e.axle_on_the_bench import AxleOnTheBench
from e2e.base import BrowserTestCase, below
from jobs.models import Job
from setup_bench.models import Trial

MOST_TRIALS = 4
MOST_READINGS = 5


class OtherCarriers(BrowserTestCase):
    def make(self, family: str, vehicle: str, teeth: tuple[int, int]) -> Job:
        self.page.goto("/jobs/new")
        self.page.get_by_label("Customer", exact=True).fill("Island Roads")
        self.page.get_by_label("Vehicle", exact=True).fill(vehicle)
        self.page.get_by_label("Complaint").fill("Whine on drive")
        self.page.get_by_label("Axle family").select_option(value=family)
        self.page.get_by_role("button", name="Save job").click()
        expect(self.page.get_by_role("heading", name="Run sheet")).to_be_visible()
        job = Job.objects.get(vehicle__name=vehicle)
        self.go(f"{below(job)}/gear-set", "Identify the gear set")
        self.page.get_by_label("Pinion teeth").fill(str(teeth[0]))
        self.page.get_by_label("Ring teeth").fill(str(teeth[1]))
        self.page.keyboard.press("Enter")
        self.page.get_by_role("button", name=f"Save {teeth[0]} / {teeth[1]}").click()
        expect(self.page.get_by_role("link", name=f"Gear set {teeth[0]}/{teeth[1]}")).to_be_visible()
        return job

    def read_all(self, axle: AxleOnTheBench) -> None:
        """Conditions, eight readings in millimetres whatever the person's unit, both patches by their sliders."""
        self.page.get_by_role("button", name="Confirm all").click()
        self.page.get_by_role("tab", name="Backlash").click()
        for count, typed in enumerate(axle.backlash(), start=1):
            self.page.keyboard.type(f"{int(typed) / 100:.2f} mm")
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_text(f"{count} of 8 positions")).to_be_visible()
            expect(self.page.get_by_text("waiting:")).to_have_count(0)
        self.page.get_by_role("tab", name="Pattern").click()
        for name in ("Drive side", "Coast side"):
            self.page.get_by_role("region", name=name).get_by_text("Use sliders").click()
        self.paint(axle, "Record the {} pattern")
        for _ in range(MOST_READINGS):
            if not self.page.get_by_text("Read it again before you move anything.").count():
                break
            self.paint(axle, "Record another reading")

    def paint(self, axle: AxleOnTheBench, button: str) -> None:
        for flank, name in (("drive", "Drive side"), ("coast", "Coast side")):
            side = self.page.get_by_role("region", name=name)
            u, v = axle.painted(flank)  # type: ignore[arg-type]
            side.get_by_label("Toe to heel", exact=True).fill(f"{u / 100:.2f}")
            side.get_by_label("Root to tip", exact=True).fill(f"{v / 100:.2f}")
            with self.page.expect_response("**/patterns"):
                side.get_by_role("button", name=button.format(flank)).click()
        expect(self.page.get_by_text("calculating…")).to_have_count(0)

    def until_finished(self, axle: AxleOnTheBench) -> int:
        for number in range(2, MOST_TRIALS + 1):
            if self.page.get_by_text("The set-up is finished. Leave it").count():
                return number - 1
            self.page.get_by_role("button", name=f"Start trial {number}").click()
            expect(self.page.get_by_role("heading", name=f"Set-up bench, trial {number}")).to_be_visible()
            axle.fit()
            self.read_all(axle)
        expect(self.page.get_by_text("The set-up is finished. Leave it").first).to_be_visible()
        return MOST_TRIALS

    def test_adjusters_and_a_cartridge_whose_shim_works_the_other_way(self) -> None:
        self.sign_in("isla")
        job = self.make("halden-hf25", "Gritter, Halden T8", (8, 41))
        self.go(f"{below(job)}/bench", "What shims are in now?")
        self.page.get_by_label("Depth shim, ").fill("0.35 mm")
        self.page.get_by_role("button", name="Start trial 1").click()
        expect(self.page.get_by_role("heading", name="Set-up bench, trial 1")).to_be_visible()
        axle = AxleOnTheBench(job, Sits(0.10, 0.36, 0.012))
        self.read_all(axle)
        expect(self.page.get_by_text("Ring-side adjuster").first).to_be_visible()
        trials = self.until_finished(axle)
        trials_made = Trial.objects.filter(work=job.pk)
        first, last = trials_made.earliest("number"), trials_made.latest("number")
        self.assertEqual(last.number, trials)
        # too shallow: under a cartridge flange the shim gets thinner
        self.assertLess(sum(mm * count for mm, count in last.depth_pieces), sum(mm * count for mm, count in first.depth_pieces))
        self.assertEqual(last.ring_side_notches, -last.far_side_notches)
        self.assertGreater(last.ring_side_notches, 0)  # loose: the ring-side adjuster goes in

    def test_shims_under_side_covers_read_in_thou(self) -> None:
        self.sign_in("tam")
        job = self.make("ostrel-ir20", "Bus, Ostrel Strand", (10, 37))
        self.go(f"{below(job)}/bench", "What shims are in now?")
        self.page.get_by_label("Ring gear on the vehicle's (left / right)").select_option("left")
        self.page.get_by_role("button", name="Save").click()
        expect(self.page.get_by_label("Ring gear side, left")).to_be_visible()
        self.page.get_by_label("Depth shim, ").fill("0.80 mm")
        self.page.get_by_label("Ring gear side, left").fill("0.40 mm")
        self.page.get_by_label("Far side, right").fill("0.60 mm")
        self.page.get_by_role("button", name="Start trial 1").click()
        expect(self.page.get_by_role("heading", name="Set-up bench, trial 1")).to_be_visible()
        axle = AxleOnTheBench(job, Sits(-0.09, 0.07, 0.008))
        self.read_all(axle)
        expect(self.page.get_by_text("thou").first).to_be_visible()
        self.until_finished(axle)
        last = Trial.objects.filter(work__job=job).latest("number")
        ring = sum(mm * count for mm, count in last.ring_side_pieces)
        self.assertGreater(ring, 0.40)  # tight: under a cover a thicker ring gear-side shim takes the ring away
