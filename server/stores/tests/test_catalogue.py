"""Gearboxes, transfer cases and ratios: lists out as CSV and in again, each bad row named, all or nothing."""

from __future__ import annotations

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, transaction

from stores.models import Gearbox, RatioOption, TransferCase
from test_support.api_case import API, ApiTestCase


class Lists(ApiTestCase):
    def setUp(self) -> None:
        Gearbox.objects.create(code="corrie-c5", name="Corrie C5", maker="Corrie", gears=[3.95, 2.19, 1.42, 1.0, 0.82])
        TransferCase.objects.create(code="brannoch-t2", name="Brannoch T2", maker="Brannoch", high=1.0, low=2.48)

    def send(self, kind: str, content: bytes, *, by: str = "callum") -> Any:
        return self.client_of(by).post(f"{API}/stores/{kind}/import", {"file": SimpleUploadedFile("list.csv", content, "text/csv")})

    def test_a_list_taken_along_comes_back_the_same(self) -> None:
        for kind in ("gearboxes", "transfer-cases", "ratios"):
            with self.subTest(kind):
                content = self.client_of("isla").get(f"{API}/stores/{kind}.csv").content
                found = self.send(kind, content).json()
                self.assertEqual((found["added"], found["wrong"]), (0, []))
                self.assertGreater(found["changed"], 0)
                self.assertEqual(self.client_of("isla").get(f"{API}/stores/{kind}.csv").content, content)

    def test_new_rows_are_added_and_a_known_code_is_changed(self) -> None:
        content = 'code,name,maker,gears\ncorrie-c5,Corrie C5 late,Corrie,4.0 2.2 1.4 1.0\n,Ostrel O5,Ostrel,"3,58 1,96 1,30 0,98"\n'
        found = self.send("gearboxes", content.encode()).json()
        self.assertEqual((found["added"], found["changed"], found["wrong"]), (1, 1, []))
        self.assertEqual(Gearbox.objects.get(code="corrie-c5").gears, [4.0, 2.2, 1.4, 1.0])
        self.assertEqual(Gearbox.objects.get(code="ostrel-o5").gears, [3.58, 1.96, 1.30, 0.98])
        self.assertFalse(Gearbox.objects.get(code="corrie-c5").is_sample)

    def test_a_spreadsheets_semicolons_and_byte_order_mark_are_read(self) -> None:
        content = "\ufeffcode;name;maker;high;low\nhalden-tg;Halden TG;Halden;1,07;2,05\nhalden-one;Halden one range;Halden;1;\n"
        self.assertEqual(self.send("transfer-cases", content.encode()).json()["added"], 2)
        self.assertIsNone(TransferCase.objects.get(code="halden-one").low)

    def test_every_wrong_row_is_named_and_nothing_is_taken(self) -> None:
        content = (
            "code,name,maker,gears\n"
            "good,Good,Maker,4.0 2.0 1.0\n"
            "up,Upwards,Maker,1.0 2.0 3.0\n"
            "text,Text,Maker,four two one\n"
            "Bad Code,Bad,Maker,4.0 2.0\n"
            "none,,Maker,4.0 2.0\n"
        )
        found = self.send("gearboxes", content.encode()).json()
        self.assertEqual([(one["line"], one["column"]) for one in found["wrong"]], [(3, "gears"), (4, "gears"), (5, "code"), (6, "name")])
        self.assertIn("Ratios must fall from first to top gear", found["wrong"][0]["text"])
        self.assertFalse(Gearbox.objects.filter(code="good").exists())

    def test_ratios_point_to_a_family_and_say_what_they_need(self) -> None:
        head = "family,pinion_teeth,ring_teeth,needs_carrier,needs_thick_ring\n"
        found = self.send("ratios", f"{head}corrie-ls19,7,41,yes,no\n".encode()).json()
        self.assertEqual(found["added"], 1)
        self.assertTrue(RatioOption.objects.get(family__code="corrie-ls19", pinion_teeth=7).needs_carrier)
        wrong = self.send("ratios", f"{head}nowhere,7,41,,\ncorrie-ls19,7.5,41,,\ncorrie-ls19,9,8,,\ncorrie-ls19,9,41,maybe,\n".encode())
        self.assertEqual(
            [(one["line"], one["column"]) for one in wrong.json()["wrong"]],
            [(2, "family"), (3, "pinion_teeth"), (4, "ring_teeth"), (5, "needs_carrier")],
        )

    def test_files_that_are_no_list_get_one_sentence(self) -> None:
        for content, words in (
            (b"", "name the columns"),
            (b"a,b\n1,2\n", "name the columns"),
            (b"code,name,maker,gears\n", "no row"),
            (b"\xff\xfe\x00bad", "UTF-8"),
            (b"code,name,maker,gears\n" + b"x" * (3 * 2**20), "MB"),
        ):
            with self.subTest(words):
                reply = self.send("gearboxes", content)
                self.assertIn(reply.status_code, (413, 422))
                self.assertIn(words, reply.json()["error"]["message"])

    def test_a_formula_is_made_inert(self) -> None:
        Gearbox.objects.create(code="odd", name="=cmd()", maker="Maker", gears=[2.0, 1.0])
        self.assertIn(b"'=cmd()", self.client_of("isla").get(f"{API}/stores/gearboxes.csv").content)

    def test_who_may(self) -> None:
        for by, status in (("isla", 403), ("visitor", 403), ("callum", 200), ("greta", 200)):
            with self.subTest(by):
                self.assertEqual(self.send("gearboxes", b"code,name,maker,gears\nx,X,M,2 1\n", by=by).status_code, status)
        self.assertEqual(self.call("get", "/stores/engines.csv").status_code, 422)

    def test_the_database_refuses_what_is_no_transfer_case(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            TransferCase.objects.create(code="up", name="Up", maker="", high=2.0, low=1.0)
        with self.assertRaises(IntegrityError), transaction.atomic():
            Gearbox.objects.create(code="none", name="None", maker="", gears=[])
