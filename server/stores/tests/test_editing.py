"""Sheets made and changed in the application: copied, judged by the revision that work began under, refused line by line."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, ClassVar

from django.core.files.uploadedfile import SimpleUploadedFile

from stores.models import AxleFamily, SheetRevision, SpecLimit
from stores.sheets import file_revision, sheet_of
from test_support.api_case import API, ApiTestCase


class Editing(ApiTestCase):
    BOLTS: ClassVar = {"place": "cover_bolts", "count": 10, "source_note": "Counted"}
    OIL: ClassVar = {"oil": "75W-90", "litres": 1.6, "source_note": "Label"}

    def sheet(self, code: str = "corrie-ls19", **changes: Any) -> dict[str, Any]:
        shown = next(one for one in self.call("get", "/families").json() if one["code"] == code)
        plain = {name: one for name, one in shown.items() if not name.endswith("_label") and name not in ("code", "shims")}
        return {**plain, "reason": "Maker's bulletin", **changes}

    def save(self, code: str, body: dict[str, Any], *, by: str = "greta") -> Any:
        return self.call("put", f"/families/{code}", body, by=by)

    def with_limit(self, quantity: str, **bounds: Any) -> list[dict[str, Any]]:
        limits: list[dict[str, Any]] = self.sheet()["limits"]
        return [one for one in limits if one["quantity"] != quantity] + [{"quantity": quantity, "least": None, "greatest": None, **bounds}]

    def test_a_changed_sheet_never_changes_what_work_is_judged_by(self) -> None:
        job = self.make_job()
        before = self.call("get", f"/work/{job}").json()["sheet_revision"]
        limits = self.with_limit("backlash", least=0.05, greatest=0.09, source_note="Bulletin 7")
        self.assertEqual(self.save("corrie-ls19", self.sheet(limits=limits)).status_code, 200)
        work = self.call("get", f"/work/{job}").json()
        self.assertEqual((work["sheet_revision"], work["newer_sheet"]["number"]), (before, before + 1))
        self.assertEqual(work["newer_sheet"]["reason"], "Maker's bulletin")
        self.assertEqual(SheetRevision.objects.filter(family__code="corrie-ls19").count(), 2)

    def test_one_is_copied_and_changed(self) -> None:
        body = self.sheet(
            revision=0,
            name="Corrie LS19 long",
            shafts="retainer",
            limits=self.with_limit("flange_runout", greatest=0.05, source_note="Measured"),
            fasteners=[{"place": "cover_bolts", "count": 12, "torque_nm": 30, "source_note": "Counted"}],
        )
        self.assertEqual(self.save("corrie-ls19-long", body, by="callum").status_code, 200)
        copy = AxleFamily.objects.get(code="corrie-ls19-long")
        self.assertEqual((copy.shafts, copy.limits.get(quantity="flange_runout").greatest), ("retainer", 0.05))
        self.assertEqual([(one.place, one.count, one.torque_nm) for one in copy.fasteners.all()], [("cover_bolts", 12, 30.0)])
        self.assert_refused(self.save("corrie-ls19-long", body), 409, "conflict", words="already")

    def test_each_wrong_line_gets_its_sentence_and_nothing_is_stored(self) -> None:
        before = SpecLimit.objects.count()
        for name, change, field in (
            ("turned round", {"limits": self.with_limit("oil", least=2, greatest=1, source_note="x")}, "limits[10].least"),
            ("no bound", {"limits": self.with_limit("oil", source_note="x")}, "limits[10].least"),
            ("no source", {"limits": self.with_limit("oil", least=1, source_note=" ")}, "limits[10].source_note"),
            ("no notch", {"carrier_method": "adjusters", "notch_mm": None}, "notch_mm"),
            ("no ratio", {"ratios": [{"pinion_teeth": 11, "ring_teeth": 11}]}, "ratios[0].ring_teeth"),
            ("no reason", {"reason": ""}, "reason"),
            ("bolts as a limit", {"limits": self.with_limit("ring_bolts", greatest=10, source_note="x")}, "limits[10].quantity"),
            ("bolts twice", {"fasteners": [self.BOLTS, self.BOLTS]}, "fasteners[1].place"),
            ("bolts of nowhere", {"fasteners": [{**self.BOLTS, "source_note": ""}]}, "fasteners[0].source_note"),
            ("oil twice", {"fluids": [self.OIL, self.OIL]}, "fluids[1].oil"),
            ("litres for millilitres", {"fluids": [{**self.OIL, "modifier_ml": 8000}]}, "fluids[0].modifier_ml"),
            ("another part", {"part": "propshaft", "ratios": []}, "part"),
            ("gears of a shaft", {"part": "propshaft"}, "ratios[0]"),
        ):
            with self.subTest(name):
                body = self.sheet(**change)
                if field.startswith("limits"):
                    field = field.replace("10", str(len(body["limits"]) - 1))
                self.assert_refused(self.save("corrie-ls19", body), 422, "bad_input", field=field)
        self.assert_refused(self.save("Corrie LS", self.sheet(revision=0)), 422, "bad_input", field="code")
        self.assert_refused(self.save("corrie-ls19", self.sheet(), by="isla"), 403, "not_allowed")
        self.assertEqual(SpecLimit.objects.count(), before)

    def test_two_people_at_once(self) -> None:
        body = self.sheet()
        self.make_job()
        body = self.sheet()
        self.assertEqual(self.save("corrie-ls19", {**body, "build": "First"}).status_code, 200)
        self.assert_refused(self.save("corrie-ls19", {**body, "build": "Second"}), 409, "conflict", words="Somebody else changed")

    def test_a_sheet_that_a_file_brought_does_not_keep_the_own_one_from_being_edited(self) -> None:
        self.make_job()
        family = AxleFamily.objects.get(code="corrie-ls19")
        brought = file_revision(family, replace(sheet_of(family), build="As another shop has it"), "Imported job")
        self.assertEqual((brought.number, self.sheet()["revision"]), (2, 1))
        self.assertEqual(self.save("corrie-ls19", self.sheet(build="Long")).status_code, 200)
        self.assertEqual(self.sheet()["revision"], 3)

    def test_limits_go_out_and_in_as_csv_with_every_bad_row_named(self) -> None:
        text = self.client_of("greta").get(f"{API}/stores/limits.csv").content.decode()
        self.assertIn("corrie-ls19,backlash,0.13,0.2", text)
        rows = ["corrie-ls19,oil,1,2,Label", "none,oil,1,2,x", "corrie-ls19,gloss,1,2,x", "corrie-ls19,oil,2,1,x", "corrie-ls19,oil,,,x"]
        bad = "\n".join(["family,quantity,least,greatest,source_note", *rows, "corrie-ls19,oil,1,2,", ""])
        found = self.send_list(bad)
        self.assertEqual(
            [(one["line"], one["column"]) for one in found["wrong"]],
            [(3, "family"), (4, "quantity"), (5, "least"), (6, "least"), (7, "source_note")],
        )
        self.assertEqual(self.send_list(bad.split("\nnone")[0])["changed"], 1)
        self.assertEqual(SpecLimit.objects.get(family__code="corrie-ls19", quantity="oil").source_note, "Label")

    def send_list(self, text: str) -> Any:
        file = SimpleUploadedFile("limits.csv", text.encode(), "text/csv")
        return self.client_of("greta").post(f"{API}/stores/limits/import", {"file": file}).json()
