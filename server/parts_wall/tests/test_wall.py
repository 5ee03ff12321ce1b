"""The wall: off, decided, got and back on, one record after another; what cannot be is refused and nothing is lost."""

from __future__ import annotations

import io
import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from unittest import mock
from uuid import UUID

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, connection, transaction
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from PIL import Image

from jobs.models import Job
from parts_wall.kept import wall_answer
from parts_wall.models import PartNeed, PartPhoto, PartRecord, QuoteLink, WallBuild
from parts_wall.present import last_shown, wall_out
from parts_wall.schemas import WallOut
from parts_wall.wall import find_wall
from records.writing import body_of
from test_support.api_case import API, ApiTestCase, picture
from work.models import Work


class WallCase(ApiTestCase):
    """A strip and report on the minibus's rear axle."""

    def setUp(self) -> None:
        self.work = self.make_job(teeth=None, kind="strip_and_report", family="corrie-ls19")

    def wall(self) -> Any:
        reply = self.call("get", f"/work/{self.work}/parts")
        self.assertEqual(reply.status_code, 200, reply.content)
        return reply.json()

    def part(self, key: str) -> Any:
        return next(one for one in self.wall()["parts"] if one["key"] == key)

    def send(self, what: str, *, by: str = "isla", status: int = 201, **body: Any) -> Any:
        reply = self.post(f"/work/{self.work}/parts/{what}", body, by=by)
        self.assertEqual(reply.status_code, status, reply.content)
        return reply.json()

    def off(self, *keys: str, **more: Any) -> Any:
        for key in keys:
            shown = self.send("off", key=key, **more)
        return shown

    def refused(self, what: str, code: str, *, by: str = "isla", status: int = 422, **body: Any) -> str:
        error = self.send(what, by=by, status=status, **body)["error"]
        self.assertEqual(error["code"], code)
        return str(error["message"])

    def photo(self, key: str, content: bytes | None = None, client_id: str | None = None) -> Any:
        file = SimpleUploadedFile("a.jpg", content or picture(size=(900, 600)), "image/jpeg")
        form = {"client_id": client_id or str(uuid.uuid4()), "key": key, "file": file}
        return self.client_of("isla").post(f"{API}/work/{self.work}/parts/photos", form)


class TakingOff(WallCase):
    def test_the_parts_of_the_axle_follow_from_its_sheet(self) -> None:
        wall = self.wall()
        self.assertTrue(wall["guessed"])
        self.assertEqual({one["name"]: one["value"] for one in wall["build"]}["carrier"], "outb")
        planned = [one["key"] for one in wall["parts"] if one["planned"]]
        self.assertLess(planned.index("cover"), planned.index("carr"))
        self.assertIn("aclip.left", planned)
        self.assertNotIn("spider", planned)  # asked for, not usual
        self.assertEqual(self.part("cap.far")["suggested_mark"], "B")

    def test_nothing_but_the_part_is_needed_and_order_keeps_itself(self) -> None:
        self.off("cover", "capbolt.ring", "cap.ring")
        orders = {one["key"]: one["off"]["order"] for one in self.wall()["parts"] if one["off"]}
        self.assertEqual(orders, {"cover": 1, "capbolt.ring": 2, "cap.ring": 3})

    def test_a_part_that_is_in_no_list_is_typed(self) -> None:
        shown = self.send("off", key="own_4f3a", name="Cover guard", bag="7")
        one = next(one for one in shown["parts"] if one["key"] == "own_4f3a")
        self.assertEqual((one["name"], one["off"]["bag"], one["group"]), ("Cover guard", "7", "typed in"))

    def test_a_stack_keeps_order_thickness_and_damage(self) -> None:
        self.off("sshim.ring", stack="0.50 mm + 0.34 mm + 12 thou", damaged=[1])
        one = self.part("sshim.ring")["off"]
        self.assertEqual(
            [(piece["entered"], piece["damaged"]) for piece in one["stack"]], [("0.50 mm", False), ("0.34 mm", True), ("12 thou", False)]
        )
        self.assertAlmostEqual(one["stack_mm"], 1.1448)

    def test_a_stack_that_cannot_be_is_refused(self) -> None:
        self.assertIn("which no shim is", self.refused("off", "bad_input", key="sshim.ring", stack="50 mm"))
        self.assertIn("3 thicknesses", self.refused("off", "bad_input", key="sshim.ring", counted=2, stack="0.5 mm + 0.3 mm + 0.2 mm"))
        self.assertIn("should be 2", self.refused("off", "more_than_there_are", key="capbolt.ring", counted=3))
        self.send("off", key="capbolt.ring", counted=3, sure=True)

    def test_two_people_at_one_part(self) -> None:
        self.off("cover")
        self.assertIn("on the wall already: Isla", self.refused("off", "already_off", by="tam", status=409, key="cover", bag="3"))
        first = self.part("cover")["off"]["id"]
        self.send("off", by="tam", key="cover", bag="3", replaces=first)
        one = self.part("cover")["off"]
        self.assertEqual((one["bag"], one["order"]), ("3", 1))
        self.refused("off", "already_off", status=409, key="cover", bag="4", replaces=first)

    def test_a_part_that_this_build_has_not_got(self) -> None:
        self.refused("off", "not_found", key="hubnut.left")
        facts = {one["name"]: one["value"] for one in self.wall()["build"]}
        self.send("build", facts={**facts, "ends": "half"}, asked=[])
        self.off("hubnut.left")
        self.assertIn("half shafts", self.refused("build", "bad_input", facts={**facts, "unit": "sides", "carrier": "cov"}))
        self.assertIn("lies on the wall", self.refused("build", "bad_input", facts=facts))

    def test_what_is_asked_for_brings_what_must_be_off_first(self) -> None:
        facts = {one["name"]: one["value"] for one in self.wall()["build"]}
        wall = self.send("build", facts=facts, asked=["G2"])
        planned = {one["key"] for one in wall["parts"] if one["planned"]}
        self.assertLessEqual({"pinbolt", "pin", "spider"}, planned)

    def test_the_same_write_again_is_one_record(self) -> None:
        body: dict[str, Any] = {"client_id": str(uuid.uuid4()), "key": "cover"}
        for _ in range(2):
            self.send("off", **body)
        self.assertEqual(PartRecord.objects.count(), 1)
        self.assertEqual(self.refused("off", "id_reused", status=409, **{**body, "key": "gask"})[:9], "Something")

    def test_undo_leaves_the_record(self) -> None:
        self.off("cover", "gask")
        self.send("undo", record=self.part("gask")["off"]["id"])
        self.assertEqual(self.part("gask")["state"], "on")
        self.assertEqual(PartRecord.objects.count(), 3)
        self.refused("undo", "already_undone", status=409, record=str(PartRecord.objects.get(key="gask", act="off").client_id))
        with self.assertRaises(IntegrityError), transaction.atomic():
            PartRecord.objects.filter(key="cover").update(bag="9")

    def test_the_work_begins_with_the_first_part(self) -> None:
        self.off("wheelnut.left")
        self.assertEqual(Job.objects.get().state, "in_work")

    def test_an_announced_queue_is_shown_until_it_is_empty(self) -> None:
        self.send("announced", waiting=3, device="browser-12ab")
        phone = self.wall()["phones"][0]
        self.assertEqual((phone["device"], phone["waiting"], phone["person_name"]), ("browser-12ab", 3, "Isla Moray"))
        self.send("announced", waiting=0, device="browser-12ab")
        self.assertEqual(self.wall()["phones"], [])


class Kept(WallCase):
    def answered(self) -> Any:
        """As it is answered, which is what it would be if it were worked out now."""
        reply = self.call("get", f"/work/{self.work}/parts")
        last_shown.cache_clear()
        self.assertEqual(reply.json(), json.loads(body_of(WallOut, wall_out(find_wall(uuid.UUID(self.work))))))
        return reply.json()

    def test_whatever_changes_it_is_seen(self) -> None:
        line, ways = str(uuid.uuid4()), {"hourly": 5000, "ways": [{"name": "set", "minutes": 240, "parts": []}]}
        vehicle = Job.objects.get().vehicle
        link: dict[str, str] = {}
        seen = str(uuid.uuid4())

        def quote() -> None:
            link["token"] = self.post(f"/work/{self.work}/parts/quotes", {"hourly": "60", "keys": ["ring"]}).json()["token"]

        def answer() -> None:
            said = {"answers": {"ring": True}, "name": "A. Postmistress", "note": ""}
            self.assertLess(self.post(f"/shared-quotes/{link['token']}/answer", said).status_code, 300)

        changes: list[Callable[[], Any]] = [
            lambda: self.off("cover"),
            lambda: self.photo("cover"),
            lambda: self.send("looks", key="ring", findings=["chip"], decision="replace", ways=ways, way="set"),
            lambda: self.photo("pinion", client_id=seen),
            lambda: self.send("looks", key="ring", findings=["chip", "scoring"], decision="replace", photo=seen),
            lambda: self.send("undo", record=seen),
            lambda: self.off("gask", "carr"),
            lambda: self.send("undo", record=self.part("gask")["off"]["id"]),  # the carrier moves up
            lambda: self.send("pieces", key="ring", missing=1),
            lambda: self.send("back", key="cover", sure=True, stays_out=True, note="bent"),
            lambda: self.send("undo", record=self.part("ring")["pieces"]["id"]),
            lambda: self.send("needs", line=line, name="Gear set"),
            lambda: self.send("announced", waiting=2, device="phone-1"),
            lambda: self.send("announced", waiting=1, device="phone-1"),
            lambda: self.send("build", facts={**{one["name"]: one["value"] for one in self.wall()["build"]}, "sensors": True}, asked=[]),
            quote,
            answer,
            lambda: self.call("patch", f"/vehicles/{vehicle.pk}", {"version": vehicle.version, "name": "Renamed"}),
            lambda: Work.objects.update(signed_off_at=timezone.now(), state="done"),
        ]
        before = self.answered()
        for number, change in enumerate(changes):
            with self.subTest(number):
                change()
                after = self.answered()
                self.assertNotEqual(after, before)
                before = after

    def test_a_link_that_expires_and_another_day(self) -> None:
        self.send("looks", key="ring", findings=["chip"], decision="replace")
        self.post(f"/work/{self.work}/parts/quotes", {"hourly": "60", "keys": ["ring"], "days": 1})
        due = (timezone.localdate() + timedelta(days=2)).isoformat()
        line = str(uuid.uuid4())
        self.send("needs", line=line, name="Gear set")
        self.send("needs", line=line, name="Gear set", version=self.wall()["needs"][0]["version"], state="ordered", due_on=due)
        now = self.answered()
        self.assertEqual((now["links"][0]["state"], now["needs"][0]["late"]), ("open", False))
        with mock.patch("django.utils.timezone.now", return_value=timezone.now() + timedelta(days=4)):
            later = json.loads(wall_answer(uuid.UUID(self.work)).content)
        self.assertEqual((later["links"][0]["state"], later["needs"][0]["late"]), ("expired", True))


class Pictures(WallCase):
    def test_a_picture_is_taken_back_once_and_stays_readable(self) -> None:
        ids = [str(uuid.uuid4()) for _ in range(2)]
        for one in ids:
            self.photo("ring", client_id=one)
        self.send("looks", key="ring", findings=["chip"], decision="replace", photo=ids[1])
        self.send("undo", record=ids[1])
        ring = self.part("ring")
        self.assertEqual((ring["photos"], ring["seen"]["photo"]), ([ids[0]], None))
        self.refused("undo", "already_undone", status=409, record=ids[1])
        self.refused("looks", "bad_input", key="ring", findings=[], decision="good", photo=ids[1])
        self.assertEqual(self.call("get", f"/part-photos/{ids[1]}").status_code, 200)
        self.send("undo", record=ids[0])
        self.assertEqual(self.part("ring")["photos"], [])
        file = self.call("get", f"/jobs/{self.work}/job.json").json()["works"][0]
        self.assertEqual([one["photo"] for one in file["part_records"] if one["act"] == "undo"], [ids[1], ids[0]])
        self.assertEqual(len(file["part_photos"]), 2)

    def test_a_picture_is_made_again_and_small(self) -> None:
        out = io.BytesIO()
        exif = Image.Exif()
        exif[0x010F] = "A camera"
        Image.new("RGB", (3000, 2000), (10, 90, 40)).save(out, "JPEG", exif=exif)
        self.assertEqual(self.photo("cover", out.getvalue()).status_code, 201)
        kept = PartPhoto.objects.get()
        with Image.open(io.BytesIO(bytes(kept.content))) as found, Image.open(io.BytesIO(bytes(kept.small))) as small:
            self.assertEqual((found.size, small.size, len(found.getexif())), ((2048, 1365), (320, 213), 0))
        reply = self.client_of("isla").get(f"{API}/part-photos/{kept.client_id}/small")
        self.assertEqual(reply["Content-Type"], "image/jpeg")
        self.assertEqual(self.client_of(None).get(f"{API}/part-photos/{kept.client_id}").status_code, 401)

    def test_what_is_no_picture(self) -> None:
        for content, said in (
            (b"oil 1.6 l", "not a picture"),
            (picture(size=(400, 400))[:-60], "cut off"),
            (b"\0\0\0\x18ftypheic" + b"\0" * 400, "HEIC"),
        ):
            reply = self.photo("cover", content)
            self.assertEqual(reply.status_code, 422)
            self.assertIn(said, reply.json()["error"]["message"])
        large = self.photo("cover", b"\xff\xd8" + b"\0" * (12 * 2**20 + 2))
        self.assertEqual((large.status_code, PartPhoto.objects.count()), (413, 0))

    def test_the_same_picture_again_is_one(self) -> None:
        again = str(uuid.uuid4())
        self.assertEqual([self.photo("cover", client_id=again).status_code for _ in range(2)], [201, 201])
        self.assertEqual(PartPhoto.objects.count(), 1)


class Deciding(WallCase):
    def test_a_finding_says_what_else_to_look_at(self) -> None:
        self.off("cover")
        wall = self.send("looks", key="ring", findings=["chip"], decision="replace")
        looked = {one["key"] for one in wall["parts"] if one["look_at"]}
        self.assertLessEqual({"pinion", "icone", "scone.ring", "magnet"}, looked)
        seen = self.part("ring")["seen"]
        self.assertEqual((seen["findings_word"], seen["decision_word"]), ("broken tooth", "Replace"))
        self.assertIn("Find every piece", seen["then"][0])

    def test_a_finding_of_another_kind_of_part_is_refused(self) -> None:
        self.assertIn("from its list", self.refused("looks", "bad_input", key="cover", findings=["spalling"]))

    def test_ways_are_priced_and_one_is_chosen(self) -> None:
        ways = {
            "hourly": 6000,
            "ways": [
                {"name": "sleeve", "minutes": 30, "parts": [{"name": "sleeve", "price": 2400, "count": 1}]},
                {"name": "new flange", "minutes": 20, "parts": [{"name": "flange", "price": 11000, "count": 1}], "wait_days": 4},
            ],
        }
        self.send("looks", key="flange", findings=["groove"], decision="repair", ways=ways, way="sleeve", measured="41.82 mm")
        self.assertEqual(self.part("flange")["seen"]["total"], 5400)
        self.refused("looks", "bad_input", key="flange", ways=ways, way="weld")

    def test_missing_pieces_hold_what_closes(self) -> None:
        self.off("magnet", "cover", "gask")
        self.send("looks", key="ring", findings=["chip"])
        self.send("pieces", key="ring", missing=1)
        self.send("back", key="gask", is_new=True)
        self.assertIn("pieces are missing from ring gear", self.refused("back", "held", key="cover"))
        self.assertIn("Hold point", self.wall()["hold"])
        said = self.refused("pieces", "not_allowed", status=403, key="ring", missing=1, given_up=True, note="Flushed twice")
        self.assertIn("foreman", said)
        self.refused("pieces", "bad_input", by="greta", key="ring", missing=1, given_up=True)
        self.send("pieces", key="ring", missing=0)
        self.send("back", key="cover")

    def test_a_foreman_gives_pieces_up_with_a_reason(self) -> None:
        self.off("cover")
        self.send("pieces", key="ring", missing=2)
        self.send("pieces", by="greta", key="ring", missing=2, given_up=True, note="Flushed twice, lamp and magnet")
        self.send("back", key="cover")


class PuttingBack(WallCase):
    def test_the_way_back_is_the_reverse(self) -> None:
        self.off("wheelnut.left", "wheel.left", "oil", "covbolt", "cover", "gask", "cap.ring")
        back = [one["key"] for one in self.wall()["back"]]
        self.assertEqual(back, ["cap.ring", "gask", "cover", "covbolt", "oil", "wheel.left", "wheelnut.left"])

    def test_what_is_used_once_asks_for_a_new_one(self) -> None:
        self.off("cover", "gask")
        self.assertIn("Fit a new one", self.refused("back", "one_time", key="gask", sure=True))
        self.send("back", key="gask", is_new=True)

    def test_nothing_is_put_back_twice(self) -> None:
        self.off("cover")
        self.send("back", key="cover")
        self.assertIn("back on already: Isla", self.refused("back", "already_back", by="tam", status=409, key="cover"))
        self.refused("back", "not_off", key="gask")

    def test_a_forgotten_washer_is_caught_before_the_cover(self) -> None:
        facts = {one["name"]: one["value"] for one in self.wall()["build"]}
        self.send("build", facts=facts, asked=["G2"])
        self.off("cover", "pinbolt", "pin", "spider", "spwash")
        for key in ("spider", "pin"):
            self.send("back", key=key, sure=True)
        self.send("back", key="pinbolt", is_new=True, sure=True)
        self.assertIn("spider washer", self.refused("back", "held", key="cover", sure=True))
        self.send("back", key="spwash", sure=True)
        self.send("back", key="cover")

    def test_out_of_turn_is_asked_about(self) -> None:
        self.off("pnut", "flange")
        self.assertIn("pinion flange goes on before this", self.refused("back", "out_of_order", key="pnut", is_new=True))
        self.send("back", key="flange")
        self.send("back", key="pnut", is_new=True)

    def test_fewer_than_came_off(self) -> None:
        self.off("wheelnut.left", counted=5)
        self.assertIn("still missing", self.refused("back", "short", key="wheelnut.left", counted=4))
        self.assertIn("5 came off", self.refused("back", "bad_input", key="wheelnut.left", counted=6))
        self.send("back", key="wheelnut.left", counted=5)

    def test_a_part_stays_out_with_a_reason(self) -> None:
        self.off("spider")
        self.refused("back", "bad_input", key="spider", stays_out=True)
        self.send("back", key="spider", stays_out=True, note="The locker takes its place")
        self.assertEqual(self.part("spider")["state"], "stays_out")

    def test_the_run_sheet_is_held_and_so_is_the_sign_off(self) -> None:
        work = self.make_job(teeth=None, kind="oil_service", family="corrie-ls19")
        self.work = work
        self.send("off", key="cover")
        self.pass_all(work, until="oil")
        reply = self.post(f"/work/{work}/steps/oil/pass", {"values": {"oil": "1.6 l"}})
        self.assertEqual(reply.status_code, 422)
        self.assertIn("still on the wall: cover", reply.json()["error"]["message"])
        self.send("back", key="cover")
        self.assertEqual(self.post(f"/work/{work}/steps/oil/pass", {"values": {"oil": "1.6 l"}}).status_code, 201)


class ToGet(WallCase):
    def line(self, **more: Any) -> dict[str, Any]:
        return {"line": str(uuid.uuid4()), "name": "Pinion nut", **more}

    def test_parts_used_once_are_proposed_and_taken_over(self) -> None:
        proposals = {one["key"]: one for one in self.wall()["proposals"]}
        self.assertEqual((proposals["ringbolt"]["count"], proposals["ringbolt"]["why"]), (10, "Used once"))
        wall = self.send("needs/proposed", keys=["ringbolt", "pnut"])
        self.assertEqual([(one["name"], one["count"]) for one in wall["needs"]], [("ring gear bolt", 10), ("pinion nut", 1)])
        self.assertNotIn("pnut", {one["key"] for one in wall["proposals"]})

    def planned(self) -> Any:
        return self.call("get", "/floor/plan").json()["works"]

    def test_the_job_waits_by_itself_and_comes_back(self) -> None:
        line = self.line()
        self.send("needs", **line)
        due = (timezone.localdate() + timedelta(days=3)).isoformat()
        version = self.wall()["needs"][0]["version"]
        self.send("needs", **line, version=version, state="ordered", due_on=due, supplier="Brannoch Supplies", price="12,50")
        job = Job.objects.get()
        self.assertEqual((job.waits_for, job.state), ("parts", "waiting"))
        self.assertIn("Pinion nut", job.waits_note)
        need = self.wall()["needs"][0]
        self.assertEqual((need["price"], need["late"]), (1250, False))
        self.assertEqual([one["parts_due_on"] for one in self.planned()], [due])
        self.assertGreaterEqual(self.planned()[0]["begin"][:10], due)
        undated = self.line(name="Seal")
        self.send("needs", **undated)
        self.assertEqual(self.planned(), [])  # nobody knows when all of it is here
        self.send("needs", **undated, version=self.wall()["needs"][1]["version"], state="dropped")
        self.assertEqual(len(self.planned()), 1)
        self.send("needs", **line, version=need["version"], state="arrived")
        self.assertEqual(Job.objects.get().waits_for, "nothing")
        self.assertIsNone(self.planned()[0]["parts_due_on"])

    def test_what_is_no_price(self) -> None:
        self.assertIn("is no price", self.refused("needs", "bad_input", **self.line(price="twelve")))
        self.assertEqual(PartNeed.objects.count(), 0)

    def test_two_people_at_one_line(self) -> None:
        line = self.line()
        self.send("needs", **line)
        first = self.wall()["needs"][0]["version"]
        self.send("needs", **line, version=first, count=2)
        self.refused("needs", "conflict", status=409, by="tam", **line, version=first, count=3)

    def test_the_list_by_supplier(self) -> None:
        self.send("needs", **self.line(name="=Nut", supplier="Corrie Parts", price="3"), count=4)
        self.send("needs", **self.line(name="Seal", supplier="Brannoch Supplies"))
        lines = self.call("get", f"/work/{self.work}/parts/order.csv").content.decode().splitlines()
        self.assertEqual(lines[1].split(",")[:2], ["Brannoch Supplies", "Seal"])
        self.assertEqual(lines[2], "Corrie Parts,'=Nut,4,3.00,12.00,to get,,")
        self.assertEqual(self.call("get", f"/work/{self.work}/parts/order.pdf").content[:5], b"%PDF-")

    def test_labels_have_their_codes(self) -> None:
        reply = self.call("get", f"/work/{self.work}/parts/labels.pdf?first=25&count=3")
        self.assertEqual((reply.status_code, reply.content[:5]), (200, b"%PDF-"))


class Quotes(WallCase):
    def made(self, **more: Any) -> Any:
        self.photo("ring")
        ways = {"hourly": 5000, "ways": [{"name": "new gear set", "minutes": 240, "parts": [{"name": "set", "price": 60000, "count": 1}]}]}
        self.send("looks", key="ring", findings=["chip"], decision="replace", ways=ways, way="new gear set")
        return self.post(f"/work/{self.work}/parts/quotes", {"hourly": "60", "tax_pct": 20, "keys": ["ring"], **more})

    def test_the_customer_answers_by_the_link(self) -> None:
        token = self.made().json()["token"]
        shown = self.call("get", f"/shared-quotes/{token}", by=None).json()
        line = shown["lines"][0]
        self.assertEqual((line["part"], line["found"], line["ways"][0]["total"]), ("ring gear", "broken tooth", 100800))
        self.assertEqual(self.call("get", f"/shared-quotes/{token}/photos/{line['photo']}", by=None).status_code, 200)
        other = str(uuid.uuid4())
        self.assertEqual(self.call("get", f"/shared-quotes/{token}/photos/{other}", by=None).status_code, 404)
        body = {"client_id": str(uuid.uuid4()), "answers": {"ring": True}, "name": "A. Customer"}
        Job.objects.update(waits_for="customer", waits_note="Carrier on the bench")
        for _ in range(2):  # the answer was lost on the way, and is sent again
            self.assertEqual(self.call("post", f"/shared-quotes/{token}/answer", body, by=None).status_code, 201)
        self.assertEqual(Job.objects.get().waits_note, "Answered by A. Customer: yes to 1 of 1. Carrier on the bench")
        said = self.wall()["links"][0]
        self.assertEqual((said["state"], said["answer"]["name"], said["answer"]["answers"]), ("answered", "A. Customer", {"ring": True}))
        again = self.call("post", f"/shared-quotes/{token}/answer", {**body, "client_id": other}, by=None)
        self.assertEqual(again.json()["error"]["code"], "already_answered")

    def test_every_line_wants_its_answer(self) -> None:
        token = self.made().json()["token"]
        body = {"client_id": str(uuid.uuid4()), "answers": {}, "name": "A. Customer"}
        self.assertEqual(self.call("post", f"/shared-quotes/{token}/answer", body, by=None).status_code, 422)

    def test_a_link_ends(self) -> None:
        token = self.made().json()["token"]
        link = QuoteLink.objects.get()
        self.assertNotIn(token, link.token_hash)
        self.assertEqual(self.post(f"/quote-links/{link.client_id}/end", {}).status_code, 201)
        self.assertEqual(self.call("get", f"/shared-quotes/{token}", by=None).status_code, 404)
        self.assertEqual(self.post(f"/quote-links/{link.client_id}/end", {}).status_code, 409)
        self.assertEqual(self.wall()["links"][0]["state"], "called_back")

    def test_nothing_is_quoted_that_is_not_decided(self) -> None:
        reply = self.post(f"/work/{self.work}/parts/quotes", {"hourly": "60", "keys": ["pinion"]})
        self.assertIn("Nothing is decided yet on pinion", reply.json()["error"]["message"])


class Reading(WallCase):
    def test_a_wall_is_read_in_one_query_however_much_is_on_it(self) -> None:
        client = self.client_of("isla")
        path = f"{API}/work/{self.work}/parts"
        client.get(path)
        with CaptureQueriesContext(connection) as empty:
            client.get(path)
        self.off("cover", "gask", "cap.ring", "cap.far", "carr")
        for key in ("cover", "carr"):
            self.photo(key)
        self.send("needs", line=str(uuid.uuid4()), name="Seal")
        with CaptureQueriesContext(connection) as full:
            self.assertEqual(client.get(path).status_code, 200)
        # the session, the person, whose it is, whether anything changed; and the wall, when it has
        self.assertEqual((len(empty), len(full)), (4, 5))
        self.assert_refused(self.call("get", f"/work/{uuid.uuid4()}/parts"), 404, "not_found")

    def test_a_signed_work_takes_nothing(self) -> None:
        self.off("cover")
        Work.objects.filter(pk=self.work).update(state="done", signed_off_at=timezone.now())
        self.assertEqual(self.refused("back", "signed_off", status=409, key="cover")[:4], "This")

    def test_a_counter_reads_and_does_not_write(self) -> None:
        self.refused("off", "not_allowed", by="callum", status=403, key="cover")


class OneAssembly(WallCase):
    """A strip and report is taken up as ring and pinion: the parts are the axle's, not the work's."""

    def setUp(self) -> None:
        super().setUp()
        self.off("covbolt", "cover", "gask")
        self.strip, self.work = self.work, str(uuid.uuid4())
        more = {"id": self.work, "place": "rear_axle", "kind": "ring_and_pinion", "family": "corrie-ls19"}
        self.assertEqual(self.post(f"/jobs/{self.strip}/work", more).status_code, 201)

    def test_what_came_off_goes_back_under_the_work_that_takes_it_up(self) -> None:
        self.assertEqual([one["key"] for one in self.wall()["back"]], ["gask", "cover", "covbolt"])
        self.send("back", key="gask", is_new=True)
        self.send("back", key="cover")
        self.assertEqual(PartRecord.objects.filter(work_id=UUID(self.strip)).count(), 3)
        self.work = self.strip
        self.assertEqual((self.part("cover")["state"], self.part("covbolt")["state"]), ("back", "off"))

    def test_what_was_signed_under_one_is_not_undone_under_the_other(self) -> None:
        record = self.part("gask")["off"]["id"]
        Work.objects.filter(pk=self.strip).update(state="done", signed_off_at=timezone.now())
        self.assertIn("signed off", self.refused("undo", "signed_off", status=409, record=record))
        self.send("back", key="gask", is_new=True)

    def test_another_axle_has_its_own(self) -> None:
        other = self.make_job(teeth=None, kind="strip_and_report", family="corrie-ls19")
        self.work = other
        self.assertEqual([one for one in self.wall()["parts"] if one["off"]], [])


class ThisAxleAgain(WallCase):
    """The same vehicle on another visit."""

    def setUp(self) -> None:
        super().setUp()
        self.send("build", facts=self.facts(ends="float", sensors=True), asked=["spider"])
        self.first, vehicle = self.work, self.call("get", f"/jobs/{self.work}").json()["vehicle_id"]
        self.again = {"teeth": None, "vehicle": "", "vehicle_id": vehicle, "family": "corrie-ls19"}

    def facts(self, **changed: Any) -> dict[str, Any]:
        return {one["name"]: one["value"] for one in self.wall()["build"]} | changed

    def test_how_it_is_built_is_taken_over_and_what_came_off_beside_the_usual_is_not(self) -> None:
        self.work = self.make_job(kind="strip_and_report", **self.again)
        wall = self.wall()
        self.assertEqual((wall["guessed"], wall["taken_over"]["by_name"]), (True, "Isla Moray"))
        self.assertEqual((self.facts()["ends"], self.facts()["sensors"]), ("float", True))
        self.assertEqual([one for one in wall["asked"] if one["on"]], [])

    def test_the_first_part_on_the_wall_settles_it_for_this_visit(self) -> None:
        self.work = self.make_job(kind="strip_and_report", **self.again)
        self.off("cover")
        (kept,) = WallBuild.objects.filter(work_id=self.work)
        self.assertEqual((kept.facts["ends"], kept.asked), ("float", []))
        self.assertEqual((self.wall()["guessed"], self.wall()["taken_over"]), (False, None))

    def test_what_is_said_on_the_first_visit_later_changes_nothing_here(self) -> None:
        self.work = self.make_job(kind="strip_and_report", **self.again)
        self.work, second = self.first, self.work
        self.send("build", facts=self.facts(ends="clip"))
        self.work = second
        self.assertEqual(self.facts()["ends"], "float")

    def test_work_that_needs_another_differential_or_unit_says_so_itself(self) -> None:
        self.work = self.make_job(kind="clutch_packs", **self.again)
        self.assertEqual((self.facts()["ends"], self.facts()["differential"]), ("float", "pack"))
        self.work = self.make_job(kind="third_member", **self.again)
        self.assertIsNone(self.wall()["taken_over"])

    def test_a_visit_that_comes_in_by_a_file_is_seen_at_once(self) -> None:
        self.work = self.make_job(kind="strip_and_report", **self.again)
        self.assertEqual(self.facts()["ends"], "float")
        told = WallBuild.objects.get(work_id=self.first)
        WallBuild.objects.create(work_id=self.first, facts={**told.facts, "ends": "half"}, at=told.at, by_name="said by a file")
        self.assertEqual(self.facts()["ends"], "half")

    def test_another_vehicle_knows_nothing_of_it(self) -> None:
        self.work = self.make_job(teeth=None, kind="strip_and_report", family="corrie-ls19")
        self.assertEqual((self.wall()["taken_over"], self.facts()["ends"]), (None, "clip"))


class OnTheBuildSheet(WallCase):
    def test_the_sheet_says_what_became_of_the_parts(self) -> None:
        self.off("gask", "spider")
        self.send("looks", key="ring", findings=["chip"], decision="replace", note="heel of one tooth")
        self.send("pieces", key="ring", missing=0)
        self.send("back", key="gask", is_new=True, sure=True)
        self.send("back", key="spider", stays_out=True, note="The locker takes its place")
        page = self.call("get", f"/work/{self.work}/sheet.html").content.decode()
        for said in (
            "Ring gear",
            "broken tooth",
            "heel of one tooth",
            "all accounted for",
            "New: gasket or sealant",
            "The locker takes its place",
        ):
            self.assertIn(said, page)

    def test_a_work_without_a_wall_says_nothing_of_parts(self) -> None:
        self.assertNotIn("<h2>Parts</h2>", self.call("get", f"/work/{self.work}/sheet.html").content.decode())

    def test_nothing_is_signed_while_parts_lie_on_the_wall(self) -> None:
        work = self.make_job(teeth=None, kind="oil_service", family="corrie-ls19")
        self.work = work
        self.pass_all(work)
        self.send("off", key="magnet")
        reply = self.post(f"/work/{work}/sign-off", {}, by="greta")
        self.assertEqual((reply.status_code, reply.json()["error"]["code"]), (422, "not_ready"))
        self.assertIn("still lie on the Parts wall: magnet", reply.json()["error"]["message"])
        self.send("back", key="magnet")
        self.assertEqual(self.post(f"/work/{work}/sign-off", {}, by="greta").status_code, 201)
