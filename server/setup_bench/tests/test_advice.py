"""The advice over the API: what blocks it, what it proposes from the drawers, the order line, the map, what a patch would say."""

from __future__ import annotations

from typing import Any

from setup_bench.models import Trial
from stores.models import AxleFamily, ShimRow
from test_support.api_case import ApiTestCase


class AdviceCase(ApiTestCase):
    def advice(self, job: str) -> dict[str, Any]:
        found: dict[str, Any] = self.call("get", f"/work/{job}/advice").json()
        return found

    def tight(self) -> str:
        """A job whose ring stands too near and whose pinion is about right."""
        job = self.make_job()
        self.measured(job, "0.09 mm")
        return job


class WhatBlocksIt(AdviceCase):
    def test_each_state_says_what_is_wanted(self) -> None:
        job = self.make_job(teeth=None)
        self.assertEqual(self.advice(job)["kind"], "begin")
        trial = self.trial_id(self.begin(job))
        self.assertEqual(self.advice(job)["kind"], "conditions")
        self.confirm(trial)
        self.assertEqual(self.advice(job)["kind"], "identify")
        self.post(f"/work/{job}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41})
        found = self.advice(job)
        self.assertEqual(found["kind"], "measure")
        self.assertIsNotNone(found["chart"])

    def test_a_sheet_without_a_window(self) -> None:
        before = self.tight()
        AxleFamily.objects.get(code="corrie-ls19").limits.filter(quantity="backlash").delete()
        self.assertEqual(self.advice(before)["kind"], "move")  # it is judged by the sheet that it was begun with
        self.assertEqual(self.advice(self.tight())["kind"], "no_window")

    def test_a_job_that_is_not_there(self) -> None:
        missing = "00000000-0000-4000-8000-000000000001"
        for path in ("advice", "contact"):
            self.assertEqual(self.call("get", f"/jobs/{missing}/{path}").status_code, 404)


class WhatItProposes(AdviceCase):
    def test_every_shim_lies_in_the_drawer_or_in_the_housing(self) -> None:
        job = self.tight()
        stock = {(row.place, float(row.thickness_mm)) for row in ShimRow.objects.filter(family__code="corrie-ls19")}
        housing = {("side", 4.6), ("side", 0.05), ("side", 4.5), ("depth", 0.8)}
        found = self.advice(job)
        self.assertEqual(found["kind"], "move")
        for one in found["advice"]["proposals"]:
            for place, pieces in (("depth", one["depth"]), ("side", one["ring_side"]), ("side", one["far_side"])):
                for piece in pieces or []:
                    with self.subTest(kind=one["kind"], place=place):
                        self.assertIn((place, piece["thickness_mm"]), stock | housing)

    def test_what_it_says_to_send_is_what_it_showed(self) -> None:
        job = self.tight()
        best = self.advice(job)["advice"]["proposals"][0]
        more = {"depth": best["typed_depth"]} if best["typed_depth"] else {}
        reply = self.begin(job, best["typed_ring_side"], best["typed_far_side"], after=1, from_drawer=True, **more)
        self.assertEqual(reply.status_code, 201, reply.content)
        trial = reply.json()["trials"][-1]
        self.assertAlmostEqual(trial["ring_side_mm"], best["ring_side_mm"])
        self.assertAlmostEqual(trial["far_side_mm"], best["far_side_mm"])
        self.assertAlmostEqual(trial["depth_shim_mm"], best["depth_shim_mm"])
        said = trial["expected"]
        self.assertAlmostEqual(said["backlash_mm"], best["expected"]["backlash_mm"], delta=0.004)
        self.assertAlmostEqual(said["pinion_mm"], best["place"]["pinion_mm"], delta=0.002)
        self.assertAlmostEqual(said["ring_mm"], best["place"]["ring_mm"], delta=0.002)
        self.assertEqual(said["odds_percent"] % 10, 0)

    def test_odds_are_never_a_certainty(self) -> None:
        job = self.tight()
        for one in self.advice(job)["advice"]["proposals"]:
            self.assertTrue(10 <= one["odds_percent"] <= 90)

    def test_a_drawer_that_lacks_the_right_shim_gets_an_order_line(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        self.confirm(trial)
        for place in range(8):
            self.read(trial, "0.10 mm", 45.0 * place)
        for flank in ("drive", "coast"):
            self.paint(trial, flank, u=0.5, v=0.78)
        ShimRow.objects.filter(family__code="corrie-ls19", place="depth").update(count=0)
        found = self.advice(job)["advice"]
        self.assertIn("Order: depth shim", found["order"])
        self.assertIn("Corrie LS19", found["order"])

    def test_nothing_is_ordered_while_the_drawer_is_good_enough(self) -> None:
        self.assertIsNone(self.advice(self.tight())["advice"]["order"])

    def test_behind_the_cup_the_preload_stack_follows_the_depth_shim(self) -> None:
        AxleFamily.objects.filter(code="corrie-ls19").update(shim_place="behind_cup", preload_method="spacer")
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        self.confirm(trial)
        for place in range(8):
            self.read(trial, "0.10 mm", 45.0 * place)
        for flank in ("drive", "coast"):
            self.paint(trial, flank, u=0.5, v=0.8)
        best = self.advice(job)["advice"]["proposals"][0]
        self.assertTrue(best["depth_changes"])
        self.assertAlmostEqual(best["spacer_change_mm"], best["depth_shim_mm"] - 0.8)


class TheModelAnswers(AdviceCase):
    def test_what_a_patch_would_say_keeps_nothing(self) -> None:
        job = self.tight()
        before = self.call("get", f"/work/{job}/bench").json()
        deep, shallow = (
            self.call("post", f"/work/{job}/patch-preview", {"flank": "drive", "u": 0.5, "v": v, "runs_off": []}).json() for v in (0.4, 0.6)
        )
        self.assertLess(deep["pinion_mm"], shallow["pinion_mm"])
        self.assertIn("With this reading the pinion is", shallow["text"])
        self.assertEqual(self.call("get", f"/work/{job}/bench").json(), before)

    def test_without_an_estimate_there_is_no_preview(self) -> None:
        job = self.make_job(teeth=None)
        self.begin(job)
        body = {"flank": "drive", "u": 0.5, "v": 0.5, "runs_off": []}
        self.assert_refused(self.call("post", f"/work/{job}/patch-preview", body), 422, "not_ready")

    def test_shallower_moves_the_pattern_toward_the_tip_on_both_sides(self) -> None:
        job = self.tight()
        deep, shallow = (self.call("get", f"/work/{job}/contact?pinion_mm={pinion}&ring_mm=0").json() for pinion in (-0.1, 0.1))
        for flank in ("drive", "coast"):
            self.assertLess(deep[flank]["v"], shallow[flank]["v"])
            self.assertEqual({len(row) for row in deep[flank]["mask"]}, {len(deep[flank]["mask"][0])})

    def test_places_off_the_map_are_refused(self) -> None:
        job = self.tight()
        self.assertEqual(self.call("get", f"/work/{job}/contact?pinion_mm=7&ring_mm=0").status_code, 422)

    def test_the_map_holds_the_trials_in_order(self) -> None:
        job = self.tight()
        self.begin(job, "4.50 mm", "4.65 mm", after=1)
        self.confirm(str(Trial.objects.latest("id").client_id))
        chart = self.advice(job)["chart"]
        self.assertEqual(len(chart["trials"]), 2)
        self.assertGreater(chart["trials"][1][0], chart["trials"][0][0])
        self.assertEqual((len(chart["margin"]), len(chart["margin"][0])), (len(chart["pinion_mm"]), len(chart["ring_mm"])))

    def test_the_rings_side_is_kept_with_the_rest_of_the_start(self) -> None:
        job = self.make_job()
        body = {"set_state": "new", "drive_flank": "concave", "ring_on": "left"}
        start = self.post(f"/work/{job}/basis", body).json()["start"]
        self.assertEqual((start["ring_on"], start["drive_flank"], start["asked"]), ("left", "concave", True))
        self.assertEqual(self.post(f"/work/{job}/basis", {**body, "ring_on": "port"}).status_code, 422)
