"""Whole sheets as JSON, fasteners and oils as CSV: out and in again unchanged, and every bad line named."""

from __future__ import annotations

import json
from importlib import import_module
from typing import Any

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection

from stores.models import AxleFamily, SheetRevision, SpecFastener, SpecLimit
from stores.sheets import SheetLimit, sheet_of, without_counts
from test_support.api_case import API, ApiTestCase


class Lists(ApiTestCase):
    def out(self, name: str) -> str:
        return self.client_of("greta").get(f"{API}/stores/{name}").content.decode()

    def send(self, kind: str, text: str, *, by: str = "greta") -> Any:
        file = SimpleUploadedFile(f"{kind}.txt", text.encode(), "text/plain")
        return self.client_of(by).post(f"{API}/stores/{kind}/import", {"file": file})

    def sheets(self, change: Any) -> str:
        plain = json.loads(self.out("sheets.json"))
        change(plain["sheets"])
        return json.dumps(plain)

    def test_what_went_out_comes_in_and_changes_nothing(self) -> None:
        before = SheetRevision.objects.count()
        for kind, name, rows in (("sheets", "sheets.json", 0), ("fasteners", "fasteners.csv", 47), ("fluids", "fluids.csv", 8)):
            with self.subTest(kind):
                self.assertEqual(self.send(kind, self.out(name)).json(), {"added": 0, "changed": rows, "wrong": []})
        shown = {one["code"]: one for one in self.call("get", "/families").json()}
        self.assertEqual(shown["halden-hf25"]["fasteners"][-1]["place"], "wheel_nuts")
        self.assertEqual(SheetRevision.objects.exclude(number=1).count() + before, 0)

    def test_a_sheet_changed_outside_is_its_next_revision_and_a_new_one_is_added(self) -> None:
        self.make_job()

        def change(sheets: list[dict[str, Any]]) -> None:
            first = next(one for one in sheets if one["code"] == "corrie-ls19")
            first["fasteners"][0]["torque_nm"] = 80.0
            sheets.append({**first, "code": "corrie-ls20", "name": "Corrie LS20"})

        self.assertEqual(self.send("sheets", self.sheets(change)).json(), {"added": 1, "changed": 1, "wrong": []})
        latest = SheetRevision.objects.filter(family__code="corrie-ls19").order_by("number").last()
        assert latest is not None
        self.assertEqual((latest.number, latest.reason, latest.by_name), (2, "Sheets imported", "Greta Fell"))
        self.assertEqual(sheet_of(AxleFamily.objects.get(code="corrie-ls20")).fasteners[0].torque_nm, 80.0)

    def test_every_bad_sheet_is_named_and_then_nothing_is_taken(self) -> None:
        def change(sheets: list[Any]) -> None:
            del sheets[0]["name"]
            sheets[1]["fasteners"][0]["torque_nm"] = -4
            sheets[2]["limits"].append({"quantity": "gloss", "least": 1, "source_note": "x"})
            sheets[3]["limits"][0]["source_note"] = ""
            sheets[5]["code"] = sheets[4]["code"]
            sheets[6]["ratios"] = [{"pinion_teeth": 10, "ring_teeth": 41}]
            sheets[7] = 7

        found = self.send("sheets", self.sheets(change)).json()
        fields = ["name", "fasteners[0].torque_nm", "limits[7].quantity", "limits[0].source_note", "code", "ratios[0]", "name"]
        self.assertEqual([(one["line"], one["column"]) for one in found["wrong"]], list(zip([1, 2, 3, 4, 6, 7, 8], fields, strict=True)))
        for one in found["wrong"]:
            self.assertRegex(one["text"], r"^\S.*[.?]$")
        self.assertFalse(SheetRevision.objects.exists())

    def test_what_is_no_list_of_sheets(self) -> None:
        for text in ("{", "[]", '{"format": "amber-pinion.sheets", "version": 2, "sheets": [1]}', "\0", '{"format": "other"}'):
            with self.subTest(text):
                self.assertEqual(self.send("sheets", text).status_code, 422)
        self.assert_refused(self.send("sheets", "{}", by="isla"), 403, "not_allowed")

    def test_bad_cells_of_fasteners_and_oils(self) -> None:
        head = "family,place,count,layout,torque_nm,angle_deg,thread,oiled,one_time_use,left_hand,locked_by,source_note"
        rows = [
            'corrie-ls19,ring_bolts,10,circle,"88,5",,M10,yes,no,,,Manual',
            "none,ring_bolts,10,circle,88,,,,,,,Manual",
            "corrie-ls19,roof_bolts,10,circle,88,,,,,,,Manual",
            "corrie-ls19,ring_bolts,many,circle,88,,,,,,,Manual",
            "corrie-ls19,ring_bolts,10,circle,88,,,perhaps,,,,Manual",
            "corrie-ls19,ring_bolts,10,circle,880000,,,,,,,Manual",
            "corrie-ls19,ring_bolts,10,circle,88,,,,,,,",
        ]
        found = self.send("fasteners", "\n".join([head, *rows])).json()["wrong"]
        columns = [(3, "family"), (4, "place"), (5, "count"), (6, "oiled"), (7, "torque_nm"), (8, "source_note")]
        self.assertEqual([(one["line"], one["column"]) for one in found], columns)
        self.assertEqual(self.send("fasteners", "\n".join([head, rows[0]])).json(), {"added": 0, "changed": 1, "wrong": []})
        self.assertEqual(SpecFastener.objects.get(family__code="corrie-ls19", place="ring_bolts").torque_nm, 88.5)
        oil = "family,oil,litres,level_below_plug_mm,modifier_ml,modifier,source_note\ncorrie-ls19,75W-90,1.6,,2000,x,Label"
        self.assertEqual([one["column"] for one in self.send("fluids", oil).json()["wrong"]], ["modifier_ml"])


class Counts(ApiTestCase):
    """Bolts were only counted, among the limits, before a sheet could say how they are tightened."""

    def test_they_move_over_and_back(self) -> None:
        moves = import_module("stores.migrations.0009_counts_become_fasteners")
        family = AxleFamily.objects.get(code="corrie-ls19")
        family.fasteners.exclude(place="ring_bolts").delete()
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute("ALTER TABLE stores_speclimit DROP CONSTRAINT limit_counts_no_bolts")
        moves.to_limits(apps, None)
        SpecFastener.objects.all().delete()
        counted = family.limits.get(quantity="ring_bolts")
        self.assertEqual((counted.least, counted.greatest), (10.0, 10.0))
        moves.to_fasteners(apps, None)
        self.assertFalse(SpecLimit.objects.filter(quantity="ring_bolts").exists())
        self.assertEqual([(one.place, one.count) for one in family.fasteners.all()], [("ring_bolts", 10)])

    def test_an_older_revision_still_says_how_many(self) -> None:
        now = sheet_of(AxleFamily.objects.get(code="corrie-ls19"))
        old = type(now)(**{**vars(now), "fasteners": (), "limits": (*now.limits, SheetLimit("cap_bolts", None, 4.0, "Counted"))})
        cap, ring = old.fastener("cap_bolts"), old.fastener("ring_bolts")
        self.assertEqual((cap and (cap.count, cap.torque_nm), ring), ((4, None), None))
        moved = without_counts(old)
        self.assertEqual((moved.limits, [one.place for one in moved.fasteners]), (now.limits, ["cap_bolts"]))
