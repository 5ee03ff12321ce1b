"""The driveline desk over the API: worked out, remedied, kept, ordered; joints inspected; what is refused."""

from __future__ import annotations

import csv
import io
import uuid
from copy import deepcopy
from typing import Any
from unittest import mock

from django.db import IntegrityError, connection, transaction

import amber_core
from driveline_desk.models import JointInspection
from test_support.api_case import API, ApiTestCase
from work.models import KeptAnswer


def member(value: float, **more: Any) -> dict[str, Any]:
    return {"side": {"value_deg": value}, **more}


def inputs(**more: Any) -> dict[str, Any]:
    """A lifted vehicle: the pinion points too low for its shaft."""
    usual: dict[str, Any] = {
        "readings": {
            "output": member(4.0),
            "shafts": [{"length_mm": 1310, "member": member(7.0, left_mm=40, over_mm=1300)}],
            "pinion": member(1.0),
            "axle": {"along_mm": 280, "down_mm": 30},
        },
        "teeth": [32],
        "speed": {"speed_kmh": 90, "circumference_m": 2.43, "ratio": 4.1},
        "allowed": {},
        "travel": {"droop_mm": -80, "bump_mm": 70, "pivot_ahead_mm": 700, "pivot_above_mm": 60, "drive_wrap_deg": 1.5},
        "slip": {"spline_diameter_mm": 35, "engaged_ride_mm": 95, "collapse_ride_mm": 45},
        "tube": {"tube": {"outer_mm": 76.2, "wall_mm": 2.1, "material": "steel"}, "other": {"outer_mm": 88.9, "wall_mm": 2.1}},
        "load": {"engine_nm": 380, "low_ratio": 10.6, "axle_load_kg": 1600},
    }
    return {**usual, **more}


FREE = {"wedge_deg": [-6, 8], "clock_deg": {"1": [-45, 45]}}
LOADED = {"at_ride_height": True, "vehicle_level": True, "suspension_loaded": True}


class Worked(ApiTestCase):
    def ask(self, **more: Any) -> Any:
        return self.call("post", "/driveline-work", inputs(**more))

    def test_everything_the_desk_shows(self) -> None:
        found = self.ask().json()
        self.assertAlmostEqual(found["rpm"], 90 / 3.6 / 2.43 * 4.1 * 60, places=6)
        now = found["now"]
        self.assertEqual([one["name"] for one in now["cases"]], ["ride", "bump", "droop", "full drive"])
        self.assertEqual(len(now["analysed"]["turn"]["speed_ratio"]), 3)
        self.assertAlmostEqual(now["analysed"]["joint_angle_deg"][1], 6.24, delta=0.05)
        self.assertGreater(now["travel"]["plunge_in_mm"] + now["travel"]["plunge_out_mm"], 1.0)
        self.assertIn(now["slip"]["verdict"], ("in", "edge", "out"))
        self.assertGreater(found["tubes"][0]["other"]["critical_rpm"], found["tubes"][0]["shaft"]["critical_rpm"])
        self.assertLess(found["tubes"][0]["with_ends_rpm"], 1.2 * found["tubes"][0]["shaft"]["critical_rpm"])
        self.assertAlmostEqual(found["torque"]["design_nm"], 1184.06, delta=0.1)
        self.assertIsNone(found["tried"])
        self.assertEqual(found["warnings"], [])

    def test_readings_may_be_typed_as_the_gauge_shows_them(self) -> None:
        plumb = deepcopy(inputs()["readings"])
        plumb["output"] = {"side": {"value_deg": 86, "reference": "plumb", "axle_end": "lower"}}
        a, b = self.ask().json(), self.ask(readings=plumb).json()
        self.assertEqual(a["now"]["analysed"]["joint_angle_deg"], b["now"]["analysed"]["joint_angle_deg"])
        plumb["output"]["side"]["reference"] = "level"
        self.assert_refused(self.ask(readings=plumb), 422, "bad_input", words="Was it read from plumb?")

    def test_measured_points_work_as_well(self) -> None:
        read = self.ask().json()["read"]
        readings = {**inputs()["readings"], "points_mm": read["points_mm"], "shafts": [{}]}
        a, b = self.ask().json(), self.ask(readings=readings).json()
        for one, two in zip(a["now"]["analysed"]["joint_angle_deg"], b["now"]["analysed"]["joint_angle_deg"], strict=True):
            self.assertAlmostEqual(one, two, places=9)

    def test_what_is_tried_stands_beside_what_is(self) -> None:
        found = self.ask(tried={"wedge_deg": 2.5}).json()
        self.assertLess(found["tried"]["analysed"]["b_eq_deg"], found["now"]["analysed"]["b_eq_deg"])
        self.assertLess(max(one["use"] for one in found["tried"]["cases"]), max(one["use"] for one in found["now"]["cases"]))

    def test_a_shaft_over_its_safe_speed_is_warned_of(self) -> None:
        readings = deepcopy(inputs()["readings"])
        readings["shafts"][0]["length_mm"] = 1900
        found = self.ask(readings=readings, speed={"rpm": 4500}).json()
        self.assertIn("comes through the floor", found["warnings"][0])
        self.assertEqual(found["tubes"][0]["shaft"]["verdict"], "out")

    def test_without_speed_travel_or_tube_the_angles_still_come(self) -> None:
        found = self.ask(speed={}, travel=None, slip=None, tube=None, load=None).json()
        self.assertEqual((found["rpm"], found["tubes"], found["torque"], found["now"]["travel"]), (0, [], None, None))
        self.assertEqual(len(found["now"]["cases"]), 1)

    def test_two_and_three_shafts(self) -> None:
        two: dict[str, Any] = {
            "output": member(3),
            "shafts": [{"length_mm": 700, "member": member(3.5), "bearing_from_front_mm": 640}, {"length_mm": 1100, "member": member(7)}],
            "pinion": member(4),
        }
        found = self.ask(readings=two, teeth=[None, 16]).json()
        self.assertEqual(len(found["now"]["analysed"]["joint_angle_deg"]), 3)
        three = {**two, "shafts": [*two["shafts"], {"length_mm": 900, "member": member(6)}]}
        self.assertEqual(len(self.ask(readings=three, teeth=None).json()["now"]["analysed"]["joint_angle_deg"]), 4)

    def test_refused(self) -> None:
        deep = deepcopy(inputs()["readings"])
        deep["shafts"][0]["length_mm"] = 1.31
        cases: list[tuple[dict[str, Any], str]] = [
            ({"readings": deep}, "length_mm"),
            ({"tried": {"shim_mm": 5}}, "tried.shim_mm"),
            ({"travel": {"pivot_ahead_mm": 20, "pivot_above_mm": 0}}, "travel.pivot_mm"),
            ({"teeth": [32, 32]}, "teeth"),
        ]
        for change, field in cases:
            with self.subTest(field):
                self.assert_refused(self.ask(**change), 422, "bad_input", field=field)
        self.assertEqual(self.call("post", "/driveline-work", inputs(), by=None).status_code, 401)


class Remedied(ApiTestCase):
    def test_the_plan_tried_brings_it_in(self) -> None:
        found = self.call("post", "/driveline-remedies", {"inputs": inputs(), "free": FREE}).json()["recommended"]
        plan = found["plan"]
        self.assertTrue(plan["within"], plan["reasons"])
        self.assertEqual([one["name"] for one in plan["changes"]], ["wedge_deg"])
        tried = {"wedge_deg": plan["settings"]["wedge_deg"], "clock_deg": [plan["settings"]["clock_shaft_1"]]}
        worked = self.call("post", "/driveline-work", inputs(tried=tried)).json()
        self.assertLessEqual(max(one["use"] for one in worked["tried"]["cases"]), 1.0)

    def test_a_tail_mount_tells_the_front_driveline(self) -> None:
        rear = deepcopy(inputs())
        rear["readings"]["mount"] = {"front_ahead_mm": 900, "tail_ahead_mm": 60}
        front = inputs(
            readings={
                "output": member(3),
                "shafts": [{"length_mm": 800, "member": member(7)}],
                "pinion": member(3),
                "chain": "front",
            },
            travel=None,
            slip=None,
        )
        body = {"inputs": rear, "free": {"mount_mm": [-20, 20]}, "front": front}
        plan = self.call("post", "/driveline-remedies", body).json()["recommended"]["plan"]
        self.assertIn("front propshaft", " ".join(cost for one in plan["changes"] for cost in one["costs"]))

    def test_refused(self) -> None:
        reply = self.call("post", "/driveline-remedies", {"inputs": inputs(), "free": {"shim_mm": [-5, 5]}})
        self.assert_refused(reply, 422, "bad_input", field="free.shim_mm")


class Kept(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()

    def keep(self, title: str = "As it came", *, by: str = "isla", **more: Any) -> Any:
        return self.post(f"/work/{self.job}/driveline-results", {"title": title, "inputs": inputs(**more)}, by=by)

    def test_kept_as_it_was_and_never_changed(self) -> None:
        kept = self.keep().json()
        with mock.patch.object(amber_core, "__version__", "99"):
            old = self.call("get", f"/driveline-results/{kept['id']}").json()
        self.assertEqual((old["is_current"], old["shaft"], old["inputs"]["teeth"]), (False, "rear", [32]))
        with self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
            KeptAnswer.objects.update(title="other")

    def test_the_same_id_again_keeps_one(self) -> None:
        body = {"client_id": str(uuid.uuid4()), "title": "once", "inputs": inputs()}
        for _ in range(2):
            self.assertEqual(self.call("post", f"/work/{self.job}/driveline-results", body).status_code, 201)
        self.assertEqual(KeptAnswer.objects.count(), 1)

    def test_files(self) -> None:
        kept = self.keep(tried={"wedge_deg": 2.5}).json()["id"]
        client = self.client_of("isla")
        rows = list(csv.DictReader(io.StringIO(client.get(f"{API}/driveline-results/{kept}/file.csv").content.decode())))
        self.assertEqual(len(rows), 2 * 4 * 2)
        self.assertEqual((rows[0]["setting"], rows[0]["place"], rows[-1]["setting"]), ("now", "ride", "tried"))
        whole = client.get(f"{API}/driveline-results/{kept}/file.json").json()
        self.assertEqual(whole["format"], "amber-pinion.driveline")

    def test_an_order_wants_the_length_taken_loaded(self) -> None:
        kept = self.keep().json()
        self.assertFalse(kept["can_order"])
        reply = self.call("get", f"/driveline-results/{kept['id']}/order.pdf")
        self.assert_refused(reply, 422, "bad_input", words="suspension loaded")
        kept = self.keep(order={**LOADED, "flange_out_mm": 46, "flange_pinion_mm": 50, "ends": "Four-bolt <flanges>"}).json()
        pdf = self.call("get", f"/driveline-results/{kept['id']}/order.pdf")
        self.assertEqual((pdf.status_code, pdf["Content-Type"], pdf.content[:4]), (200, "application/pdf", b"%PDF"))

    def test_the_order_says_what_a_shaft_maker_needs(self) -> None:
        from django.template.loader import render_to_string

        from driveline_desk.order import order_context

        self.keep(
            order={**LOADED, "flange_out_mm": 46, "flange_pinion_mm": 50, "ends": "Four-bolt <flanges>"}, tried={"clock_deg": [11.25]}
        )
        page = render_to_string("driveline_desk/order.html", order_context(KeptAnswer.objects.get()))
        for words in (
            "1406 mm flange face to flange face",
            "1 of 32 teeth",
            "76.2 × 2.1 mm",
            "Four-bolt &lt;flanges&gt;",
            "licensed",
            "balance at",
        ):
            with self.subTest(words):
                self.assertIn(words, page)

    def test_it_stands_on_the_build_sheet(self) -> None:
        self.keep("After the <lift>")
        page = self.call("get", f"/work/{self.job}/sheet.html").content.decode()
        self.assertIn("After the &lt;lift&gt;", page)
        self.assertIn("Equivalent angle", page)

    def test_who_may_and_where(self) -> None:
        self.assertEqual(self.keep(by="visitor").status_code, 403)
        front = {**inputs()["readings"], "chain": "front"}
        self.assert_refused(self.keep(readings=front), 422, "bad_input", words="no front propshaft")
        self.assertEqual(KeptAnswer.objects.count(), 0)

    def test_a_full_job_takes_no_more(self) -> None:
        self.keep()
        with mock.patch("work.kept.MOST_KEPT", 1):
            self.assert_refused(self.keep(), 422, "bad_input", words="already has 1 of these")
        self.assertEqual(KeptAnswer.objects.count(), 1)

    def test_what_is_not_there_is_not_found(self) -> None:
        nothing = uuid.uuid4()
        for path in (f"/driveline-results/{nothing}", f"/driveline-results/{nothing}/order.pdf", f"/work/{nothing}/driveline-desk"):
            with self.subTest(path):
                self.assertEqual(self.call("get", path).status_code, 404)

    def test_forks_set_over_come_back_as_they_were_kept(self) -> None:
        kept = self.keep(set_over=[2]).json()
        whole = self.call("get", f"/driveline-results/{kept['id']}").json()
        self.assertEqual(whole["inputs"]["set_over"], [2])
        self.assertEqual(whole["answer"]["read"]["vehicle"]["clock_deg"], [22.5])

    def test_the_desk_in_a_fixed_number_of_queries(self) -> None:
        client = self.client_of("isla")
        counts = []
        for _ in range(3):
            self.keep()
            self.post(f"/work/{self.job}/joint-inspections", {"shaft": "rear", "joint": 1, "felt": {}, "decision": "look"})
            with self.assertNumQueries(10):  # session, person, whose, work, kept answers, inspections, axle facts, works, parts, gear sets
                found = client.get(f"{API}/work/{self.job}/driveline-desk").json()
            counts.append((len(found["results"]), len(found["inspections"])))
        self.assertEqual(counts, [(1, 1), (2, 2), (3, 3)])


class InputsOfBefore(ApiTestCase):
    """What was kept or typed before a field was there is read as if it had been left alone."""

    def test_without_set_over_shares_and_supports(self) -> None:
        before = inputs()
        for name in ("set_over", "front_share"):
            before.pop(name, None)
        answer = self.call("post", "/driveline-work", before).json()
        self.assertEqual(answer["read"]["vehicle"]["clock_deg"], [0.0])
        self.assertIsNone(answer["read"]["vehicle"]["front_share"])
        self.assertEqual((answer["tubes"][0]["on_supports"], answer["tubes"][0]["on_supports_kmh"]), (None, None))

    def test_a_tooth_without_a_spline_is_refused_on_its_field(self) -> None:
        reply = self.call("post", "/driveline-work", inputs(teeth=[None], set_over=[1]))
        self.assert_refused(reply, 422, "bad_input", field="set_over[0]", words="Enter the spline teeth")

    def test_absurd_supports_and_shares(self) -> None:
        tube = {"tube": {"outer_mm": 76.2, "wall_mm": 2.1}}
        for change in (
            {"tube": {**tube, "support_front_mn_per_m": 0}},
            {"tube": {**tube, "support_rear_mn_per_m": 5e6}},
            {"set_over": [99]},
            {"set_over": [1.5]},
            {"readings": {**inputs()["readings"], "front_share": [0.5, 55]}},
            {"readings": {**inputs()["readings"], "front_share": [0.5]}},
            {"travel": {"extreme_share": 60}},
        ):
            with self.subTest(str(change)[:60]):
                self.assertEqual(self.call("post", "/driveline-work", inputs(**change)).status_code, 422)


class Joints(ApiTestCase):
    GOOD = {"first_way": "free", "other_way": "free", "play": False, "rust": False, "clips": "seated", "nipple": "none"}

    def setUp(self) -> None:
        self.job = self.make_job()

    def look(self, *, by: str = "isla", decision: str = "reuse", felt: Any = None, **more: Any) -> Any:
        body = {"shaft": "rear", "joint": 1, "felt": felt or self.GOOD, "decision": decision, **more}
        return self.post(f"/work/{self.job}/joint-inspections", body, by=by)

    def test_kept_with_what_the_rules_say(self) -> None:
        found = self.look().json()
        self.assertEqual((found["judged"]["decision"], found["decision"], found["by_name"]), ("reuse", "reuse", str(self.who["isla"])))
        self.assertIn("needle", " ".join(found["judged"]["cautions"]))
        with self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
            JointInspection.objects.all().delete()

    def test_another_decision_wants_a_reason_here_and_in_the_database(self) -> None:
        worn = {**self.GOOD, "play": True}
        self.assert_refused(self.look(felt=worn), 422, "bad_input", field="note")
        self.assertEqual(self.look(felt=worn, note="replaced next week with the shaft").status_code, 201)
        sql = (
            "INSERT INTO driveline_desk_jointinspection (client_id, by_name, at, work_id, shaft, joint, felt, proposed, decision, note) "
            "VALUES (%s, 'x', now(), %s, 'rear', 1, '{}', 'replace', 'reuse', '')"
        )
        with self.assertRaisesMessage(IntegrityError, "joint_inspection_reason"), transaction.atomic():
            connection.cursor().execute(sql, [uuid.uuid4(), self.job])

    def test_who_may_and_what(self) -> None:
        self.assertEqual(self.look(by="visitor").status_code, 403)
        self.assertEqual(self.look(joint=9).status_code, 422)
        self.assert_refused(self.look(shaft="front"), 422, "bad_input", field="shaft")
        self.assertEqual(self.look(felt={**self.GOOD, "first_way": "so-so"}).status_code, 422)
