"""The ratio desk: worked out, kept as it was, lent by a link that shows nothing else; front against rear holds the road test."""

from __future__ import annotations

import csv
import io
import uuid
from dataclasses import asdict
from datetime import timedelta
from typing import Any
from unittest import mock

from django.db import IntegrityError, connection, transaction
from django.utils import timezone

import amber_core
from amber_core.ratios.choose import Weights
from amber_core.ratios.vehicle import Load
from demo_world import gearboxes
from jobs.models import AxleFact
from ratio_desk.models import RatioLink
from stores.models import Gearbox
from test_support.api_case import API, ApiTestCase
from work.models import KeptAnswer


def inputs(**more: Any) -> dict[str, Any]:
    """What the desk sends for the light semi-float family."""
    usual: dict[str, Any] = {
        "tyre_now": {"text": "215/75R16"},
        "tyre_planned": {"text": "225/85R16"},
        "gearboxes": [{"name": "five", "gears": [3.95, 2.19, 1.42, 1.0, 0.82]}, {"name": "six", "gears": [4.2, 2.4, 1.5, 1.1, 0.9, 0.7]}],
        "axles": [{"pinion_teeth": 11, "ring_teeth": 41}, {"pinion_teeth": 10, "ring_teeth": 41}, {"pinion_teeth": 9, "ring_teeth": 41}],
        "now": {"gearbox": 0, "axle": 0},
        "candidates": [{"gearbox": 0, "axle": 1}, {"gearbox": 1, "axle": 2}],
        "engine": {"idle_rpm": 800, "redline_rpm": 4200, "torque": [{"rpm": 1500, "torque_nm": 280}, {"rpm": 4000, "torque_nm": 220}]},
        "load": {"mass_kg": 3000},
        "use": {"cruise_kmh": 80, "cruise_rpm_min": 1800, "cruise_rpm_max": 2300, "hold_grade_pct": 6},
        "weights": {},
        "speedometer": {},
    }
    return {**usual, **more}


class Working(ApiTestCase):
    def work(self, **more: Any) -> Any:
        return self.call("post", "/ratio-work", inputs(**more))

    def test_everything_is_worked_out_at_once(self) -> None:
        found = self.work().json()
        names = [one["name"] for one in found["compared"]["gearings"]]
        self.assertEqual(names, ["As it is", "As it is, new tyres", "10/41", "9/41, six"])
        self.assertGreater(found["change"]["longer_pct"], 5)
        self.assertEqual(len(found["speedometers"]), 3)
        self.assertEqual(found["chosen"]["combinations"], 6)
        self.assertTrue(any(one["better"] for one in found["compared"]["gearings"][1:]))
        self.assertEqual(found["compared"]["gearings"][0]["better"], [])

    def test_tyres_that_stay_leave_the_line_of_new_tyres_out(self) -> None:
        found = self.work(tyre_planned={"text": ""}).json()
        self.assertEqual([one["name"] for one in found["compared"]["gearings"]], ["As it is", "10/41", "9/41, six"])
        self.assertAlmostEqual(found["change"]["longer_pct"], 0.0)

    def test_the_ratio_that_gives_the_old_feel_back_is_named(self) -> None:
        found = self.work(axles=[{"pinion_teeth": 11, "ring_teeth": 41}, {"pinion_teeth": 10, "ring_teeth": 40}], candidates=[]).json()
        said = found["feel"]
        self.assertRegex(said[0], r"^The new tyres gear it 8\.2 % longer, like an axle ratio of 3\.44\d on the old tyres\.$")
        self.assertRegex(said[1], r"^10/40 \(4\.000\) restores the old gearing, which needs 4\.03\d\.$")
        self.assertEqual(self.work(tyre_planned={"text": ""}).json()["feel"], [])

    def test_where_none_does_it_says_by_how_much_and_which_tyres_would(self) -> None:
        only = [{"pinion_teeth": 11, "ring_teeth": 41}]
        longer = self.work(axles=only, candidates=[]).json()["feel"]
        self.assertIn("is still 8 % too long.", longer[1])
        self.assertRegex(longer[2], r"^11/41 would do it on tyres with a rolling circumference of 2\.21 m\.$")
        shorter = self.work(axles=only, candidates=[], tyre_planned={"text": "195/75R16"}).json()["feel"]
        self.assertIn("% shorter", shorter[0])
        self.assertIn("% too short.", shorter[1])

    def test_terms_say_how_far_inside_what_was_asked_they_are(self) -> None:
        first = self.work().json()["chosen"]["choices"][0]
        margins = {one["name"]: one["margin"] for one in first["terms"]}
        values = {one["name"]: one["value"] for one in first["terms"]}
        self.assertAlmostEqual(margins["hold"], values["hold"] - 6, places=9)
        self.assertAlmostEqual(margins["cruise"], min(values["cruise"] - 1800, 2300 - values["cruise"]), places=9)
        self.assertIsNone(margins["parts"])

    def test_a_tyre_that_cannot_be_read_leaves_the_rest_for_later(self) -> None:
        found = self.work(tyre_now={"text": "L78-15"}).json()
        self.assertIsNone(found["compared"])
        self.assertFalse(found["tyre_now"]["valid"])
        self.assertIn("letter-coded", found["tyre_now"]["reasons"][0]["text"])

    def test_a_roll_out_counts_before_the_size(self) -> None:
        found = self.work(tyre_now={"text": "215/75R16", "rollout_mm": 11000, "turns": 5}).json()
        self.assertEqual((found["tyre_now"]["circumference_m"], found["tyre_now"]["measured"]), (2.2, True))

    def test_absurd_inputs_are_refused_on_their_field(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"now": {"gearbox": 7, "axle": 0}}, "now"),
            ({"gearboxes": [{"name": "up", "gears": [1.0, 2.0]}]}, "gears[1]"),
            ({"axles": [{"pinion_teeth": 20, "ring_teeth": 15}]}, "ring_teeth"),
            ({"load": {"mass_kg": 0}}, "mass_kg"),
        ]
        for change, field in cases:
            with self.subTest(field):
                reply = self.work(**change)
                self.assertEqual(reply.status_code, 422, reply.content)
                self.assertIn(field, reply.json()["error"]["field"])

    def test_what_the_desk_begins_with_can_be_worked_out_and_weighs_as_the_core_does(self) -> None:
        first = self.call("get", f"/work/{self.make_job()}/ratio-desk").json()["first"]
        found = self.work(**first).json()
        self.assertEqual(found["chosen"]["combinations"], 6)
        self.assertEqual(first["weights"], asdict(Weights()))
        self.assertEqual(first["load"]["efficiency"], Load(mass_kg=1000).efficiency)
        asked = {term["name"] for one in found["chosen"]["choices"] for term in one["terms"]}
        self.assertLessEqual({"cruise", "hold", "start"}, asked)

    def test_it_begins_with_the_gearbox_on_the_vehicles_record(self) -> None:
        job = self.make_job()
        desk = self.call("get", f"/work/{job}/ratio-desk").json()
        self.assertEqual((desk["gearbox"], desk["transfer_case"]), ("", ""))
        gearboxes.load()
        address = f"/vehicles/{desk['vehicle_id']}"
        sent = {"version": desk["vehicle_version"], "gearbox": "corrie-c5"}
        known = self.call("patch", address, sent).json()
        self.assertEqual(known["gearbox"], "corrie-c5")
        names = {one["place"]: one["family_name"] for one in known["assemblies"]}
        self.assertEqual((names["gearbox"], names["rear_shaft"]), (Gearbox.objects.get(code="corrie-c5").name, None))
        self.assertEqual(self.call("get", f"/work/{job}/ratio-desk").json()["gearbox"], "corrie-c5")
        wrong = self.call("patch", address, {"version": desk["vehicle_version"] + 1, "gearbox": "none-such"})
        self.assert_refused(wrong, 422, "bad_input", field="gearbox", words="nothing with the code “none-such”")

    def test_a_stranger_reads_miles_when_asked(self) -> None:
        job = self.make_job()
        kept = self.post(f"/work/{job}/ratio-results", {"title": "kept", "inputs": inputs()}).json()["id"]
        token = self.post(f"/ratio-results/{kept}/links", {}).json()["token"]
        for asked, unit in (("", "km/h"), ("?imperial=true", "mph")):
            shown = self.call("get", f"/shared-ratios/{token}{asked}", by=None).json()["answer"]
            self.assertIn(unit, shown["chosen"]["choices"][0]["terms"][0]["text"])

    def test_the_desk_takes_a_fixed_number_of_queries(self) -> None:
        Gearbox.objects.create(code="five", name="Five", maker="Corrie", gears=[4.0, 2.0, 1.0])
        job = self.make_job()
        for number in range(3):
            self.post(f"/work/{job}/ratio-results", {"title": f"number {number}", "inputs": inputs()})
        client = self.client_of("isla")
        with self.assertNumQueries(
            12
        ):  # session, person, whose, work, kept answers, links, axle facts, works, their parts, gear sets, gearboxes, cases
            found = client.get(f"{API}/work/{job}/ratio-desk").json()
        self.assertEqual([one["title"] for one in found["results"]], ["number 0", "number 1", "number 2"])


class Keeping(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()

    def keep(self, title: str = "Taller tyres", *, by: str = "callum", **more: Any) -> Any:
        return self.post(f"/work/{self.job}/ratio-results", {"title": title, "inputs": inputs(**more)}, by=by)

    def test_kept_as_it_was_with_the_version_that_worked_it_out(self) -> None:
        kept = self.keep().json()
        self.assertEqual((kept["engine_version"], kept["is_current"]), (amber_core.__version__, True))
        with mock.patch.object(amber_core, "__version__", "99"):
            old = self.call("get", f"/ratio-results/{kept['id']}").json()
        self.assertFalse(old["is_current"])
        self.assertEqual(old["answer"]["compared"]["gearings"][0]["name"], "As it is")
        with self.assertRaises(IntegrityError), transaction.atomic():
            KeptAnswer.objects.update(title="other")

    def test_what_was_fitted_goes_onto_every_driven_end(self) -> None:
        self.job = self.make_job(layout="four_wheel_drive")
        kept = self.keep().json()["id"]
        names = [one["name"] for one in self.call("get", f"/ratio-results/{kept}").json()["answer"]["compared"]["gearings"]]
        body = {"client_id": str(uuid.uuid4()), "gearing": names.index("9/41, six")}
        for _ in range(2):
            reply = self.call("post", f"/ratio-results/{kept}/fitted", body)
            self.assertEqual(reply.status_code, 201, reply.content)
        facts = [(one.end, one.tyre, one.pinion_teeth, one.ring_teeth) for one in AxleFact.objects.order_by("end")]
        planned = inputs()["tyre_planned"]["text"]
        self.assertEqual(facts, [("front", planned, 9, 41), ("rear", planned, 9, 41)])
        self.post(f"/ratio-results/{kept}/fitted", {"gearing": 0})
        self.assertEqual(AxleFact.objects.latest("id").tyre, inputs()["tyre_now"]["text"])
        self.assert_refused(self.post(f"/ratio-results/{kept}/fitted", {"gearing": 9}), 422, "bad_input", field="gearing")

    def test_the_same_id_again_keeps_one(self) -> None:
        body = {"client_id": str(uuid.uuid4()), "title": "once", "inputs": inputs()}
        for _ in range(2):
            self.assertEqual(self.call("post", f"/work/{self.job}/ratio-results", body).status_code, 201)
        self.assertEqual(KeptAnswer.objects.count(), 1)

    def test_nothing_is_kept_of_a_tyre_that_cannot_be_read(self) -> None:
        self.assert_refused(self.keep(tyre_now={"text": "what"}), 422, "bad_input", field="tyre_now")
        self.assertEqual(self.post(f"/work/{self.job}/ratio-results", {"title": " ", "inputs": inputs()}).status_code, 422)
        self.assertEqual(self.keep(by="visitor").status_code, 403)
        self.assertEqual(KeptAnswer.objects.count(), 0)

    def test_files_hold_every_gear(self) -> None:
        kept = self.keep().json()["id"]
        client = self.client_of("isla")
        rows = list(csv.DictReader(io.StringIO(client.get(f"{API}/ratio-results/{kept}/file.csv").content.decode())))
        self.assertEqual(len(rows), 5 + 5 + 5 + 6)
        self.assertEqual((rows[0]["gearing"], rows[0]["gear"]), ("As it is", "1"))
        whole = client.get(f"{API}/ratio-results/{kept}/file.json").json()
        self.assertEqual((whole["format"], whole["inputs"]["tyre_now"]["text"]), ("amber-pinion.ratio", "215/75R16"))

    def test_it_stands_on_the_build_sheet(self) -> None:
        self.keep("Taller & <longer>")
        page = self.call("get", f"/work/{self.job}/sheet.html").content.decode()
        self.assertIn("Taller &amp; &lt;longer&gt;", page)
        self.assertIn("As it is, new tyres", page)


class Lending(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job(customer="Somebody private", complaint="A secret howl")
        self.kept = self.post(f"/work/{self.job}/ratio-results", {"title": "For you", "inputs": inputs()}).json()["id"]

    def lend(self, *, by: str = "callum", **more: Any) -> Any:
        return self.post(f"/ratio-results/{self.kept}/links", more, by=by)

    def test_a_stranger_sees_this_page_alone(self) -> None:
        token = self.lend().json()["token"]
        reply = self.call("get", f"/shared-ratios/{token}", by=None)
        self.assertEqual(reply.status_code, 200)
        self.assertEqual(reply.json()["title"], "For you")
        for secret in ("Somebody private", "secret howl", str(self.job), str(self.kept), "isla", "callum", "Callum"):
            with self.subTest(secret):
                self.assertNotIn(secret, reply.content.decode())
        for path in (f"/ratio-results/{self.kept}", f"/jobs/{self.job}", f"/work/{self.job}/ratio-desk"):
            self.assertEqual(self.call("get", path, by=None).status_code, 401)

    def test_it_expires_and_a_wrong_one_is_told_no_difference(self) -> None:
        token = self.lend(days=3).json()["token"]
        later = timezone.now() + timedelta(days=3, minutes=1)
        with mock.patch("django.utils.timezone.now", return_value=later):
            gone = self.call("get", f"/shared-ratios/{token}", by=None)
        never = self.call("get", f"/shared-ratios/{'x' * 43}", by=None)
        self.assertEqual((gone.status_code, gone.json()), (404, never.json()))

    def test_the_token_is_told_once_and_not_stored(self) -> None:
        made = self.lend().json()
        self.assertNotIn(made["token"], str(RatioLink.objects.values_list()))
        body = {"client_id": str(RatioLink.objects.get().client_id), "days": 14}
        self.assert_refused(self.call("post", f"/ratio-results/{self.kept}/links", body, by="callum"), 422, "told_once")

    def test_who_may_and_for_how_long(self) -> None:
        self.assertEqual(self.lend(by="visitor").status_code, 403)
        self.assertEqual(self.lend(days=400).status_code, 422)


class FrontAndRear(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job(layout="four_wheel_drive", axle="front", family="brannoch-bf21", teeth=(10, 41))

    def tell(self, **more: Any) -> Any:
        return self.post(f"/jobs/{self.job}/axle-facts", {"end": "rear", **more})

    def test_checked_as_soon_as_both_are_known_wherever_they_were_entered(self) -> None:
        self.assertIsNone(self.call("get", f"/jobs/{self.job}").json()["match"])
        found = self.tell(pinion_teeth=11, ring_teeth=41).json()["match"]
        self.assertEqual((found["verdict"], found["leads"], found["tyres_known"]), ("out", "rear", False))
        found = self.tell(tyre="235/85R16", pinion_teeth=10, ring_teeth=41).json()["match"]
        self.assertEqual((found["verdict"], found["tyres_known"]), ("in", True))
        # another set is counted on the bench
        self.post(f"/work/{self.job}/gear-set", {"pinion_teeth": 9, "ring_teeth": 40})
        self.assertEqual(self.call("get", f"/jobs/{self.job}").json()["match"]["verdict"], "out")

    def test_other_tyres_at_one_end_are_a_mismatch_too(self) -> None:
        self.tell(tyre="235/85R16", pinion_teeth=10, ring_teeth=41)
        found = self.tell(end="front", tyre="215/85R16").json()["match"]
        self.assertEqual((found["verdict"], found["leads"]), ("out", "rear"))

    def test_a_mismatch_keeps_the_road_test_shut(self) -> None:
        self.measured_front()
        self.tell(pinion_teeth=11, ring_teeth=41)
        self.pass_all(self.job, until="road_test", oil="1.8")
        reply = self.post(f"/work/{self.job}/steps/road_test/pass", {"typed": ""})
        self.assert_refused(reply, 422, "held", words="Front and rear do not match")
        self.tell(pinion_teeth=10, ring_teeth=41)
        self.assertEqual(self.post(f"/work/{self.job}/steps/road_test/pass", {"typed": ""}).status_code, 201)

    def measured_front(self) -> None:
        body = {"after": 0, "depth": "0.80 mm", "ring_side_notches": 0, "far_side_notches": 0}
        for after, more in ((0, {}), (1, {"is_final": True, "preload_part": "spacer"})):
            trial = self.trial_id(self.post(f"/work/{self.job}/trials", {**body, "after": after, **more}))
            self.confirm(trial)
            self.read_all(trial, "0.20 mm")
            self.post(f"/trials/{trial}/torques", {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"})

    def test_refused(self) -> None:
        for change, field in (
            ({"tyre": "what"}, "tyre"),
            ({"pinion_teeth": 10}, "pinion_teeth"),
            ({"pinion_teeth": 40, "ring_teeth": 10}, "ring_teeth"),
        ):
            with self.subTest(field):
                self.assert_refused(self.tell(**change), 422, "bad_input", field=field)
        two = self.make_job()
        self.assert_refused(self.post(f"/jobs/{two}/axle-facts", {"end": "front", "tyre": "215/75R16"}), 422, "bad_input", field="end")
        self.assertEqual(AxleFact.objects.count(), 0)

    def test_what_was_told_is_never_changed(self) -> None:
        self.tell(tyre="235/85R16")
        for table in ("jobs_axlefact",):
            with self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
                connection.cursor().execute(f"UPDATE {table} SET tyre = 'x'")
