"""The Diff bench: every tool by keyboard, from a step of the run sheet and back, and by touch on a phone."""

from __future__ import annotations

import io
import re
import subprocess
import tempfile
from pathlib import Path

from ezdxf.filemanagement import readfile
from PIL import Image
from playwright.sync_api import Locator, expect

from diff_bench.fields import Field, Tool
from diff_bench.reading import Values, asked
from diff_bench.tests.typed import TYPED
from diff_bench.tools import TOOLS
from e2e.base import BrowserTestCase, below
from e2e.run_sheet import RunSheetTestCase
from e2e.test_run_sheets import job_of
from e2e.touch import TouchTestCase
from work.models import KeptAnswer, StepReading

_SAID = {
    "clutch_order": "the same",
    "clutch_shims": "16.85 mm",
    "breakaway": "66 Nm",
    "locker_gap": "4 of 4 ways",
    "side_gear": "1.26 mm",
    "end_play": "0.74 mm",
    "press_fit": "129 °C",
    "clearance": "0.06 to 0.11 mm",
    "bearings": "1.75 mm",
    "rollers": "One roller is missing",
    "hot_play": "0.141 mm",
    "seal_surface": "Repair sleeve",
    "gasket": "7.5 mm",
    "half_shaft": "not in its groove",
    "engagement": "25.6 mm",
    "tube_end": "1.70 to 1.80 mm",
    "bolts": "1, 6, 3, 8, 2, 7, 4, 9, 5, 10",
    "turning": "Stretching: stop",
    "torque_estimate": "38 Nm",
    "castle_nut": "1 looser",
    "runout": "One place stands out",
    "air_hold": "1.7 kPa",
    "heat": "77 °C over the air",
}


class EveryTool(BrowserTestCase):
    """Without a job, as for a quick answer."""

    def label_of(self, field: Field) -> Locator:
        """The control of a field; its label may have a unit behind it."""
        return self.page.get_by_label(re.compile(rf"^{re.escape(str(field.label))}( \(.+\))?$")).first

    def in_strip(self, field: Field) -> bool:
        return field.section == "readings" and field.kind not in ("choice", "flag") and not field.columns

    def types(self, tool: Tool, values: Values) -> None:
        """Everything typed at a tool: choices first, then the strip, then the rest, by keyboard alone."""
        there = [field for field in tool.fields if field.name in values and asked(tool, field, values)]
        for field in [one for one in there if one.kind == "choice" and not one.columns]:
            self.tab_to(self.label_of(field))
            self.page.keyboard.type(str(field.options[str(values[field.name])]))
        for field in [one for one in there if self.in_strip(one)]:
            typed = values[field.name]
            for index, text in enumerate(typed if isinstance(typed, list) else [typed]):
                listed = self.page.get_by_role("list", name="Readings")
                self.press(listed.get_by_role("button", name=re.compile(f"^{re.escape(self.short(field, index))}(?!\\d)")).first)
                expect(self.page.locator("#diff-reading")).to_be_focused()
                self.page.keyboard.type(str(text))
                self.page.keyboard.press("Enter")
        for field in there:
            if field.columns:
                self.rows(field, values[field.name])
            elif not self.in_strip(field) and field.kind not in ("choice", "flag"):
                self.opens_more(field)
                self.tab_to(self.label_of(field))
                self.page.keyboard.type(str(values[field.name]))
                self.page.keyboard.press("Tab")
            elif field.kind == "flag" and values[field.name] == "yes":
                self.press(self.page.get_by_role("checkbox", name=str(field.label)), "Space")

    def short(self, field: Field, index: int) -> str:
        """How a reading is listed."""
        if field.angles:
            return f"{360 // field.angles * index}°"
        if not field.many:
            return str(field.label)
        return f"{field.label}, {field.places[index] if index < len(field.places) else f'reading {index + 1}'}"

    def opens_more(self, field: Field) -> None:
        more = self.page.get_by_text("More", exact=True)
        if field.section == "more" and more.locator("xpath=..").get_attribute("open") is None:
            self.press(more)

    def rows(self, field: Field, rows: object) -> None:
        assert isinstance(rows, list)
        group = self.page.get_by_role("group", name=str(field.label), exact=True)
        if any(column.name == "keyed" for column in field.columns):
            self.tab_to(group.get_by_role("textbox"))
            self.page.keyboard.type(" ".join(row["kind"][0] for row in rows))
            self.page.keyboard.press("Enter")
            return
        for index, row in enumerate(rows):
            self.press(group.get_by_role("button", name=re.compile("^Add a row")))
            for column in field.columns:
                if column.name not in row:
                    continue
                self.tab_to(group.get_by_label(re.compile(rf"^{re.escape(str(column.label))}.*, row {index + 1}$")))
                self.page.keyboard.type(str(column.options[row[column.name]]) if column.options else row[column.name])
            self.page.keyboard.press("Tab")

    def test_every_tool_by_keyboard(self) -> None:
        self.sign_in("isla")
        for code, tool in TOOLS.items():
            with self.subTest(code):
                self.go(f"/diff-bench?tool={code}", str(tool.title))
                self.types(tool, TYPED[code])
                answer = self.page.get_by_role("region", name="Answer")
                expect(answer.get_by_text(_SAID[code]).first).to_be_visible()
                if code in ("clutch_order", "tube_end", "gasket", "end_play", "seal_surface"):
                    self.assertEqual(self.violations(self.page), [])

    def test_a_slip_stands_at_its_reading_and_the_others_go_on(self) -> None:
        self.sign_in("isla")
        self.go("/diff-bench?tool=half_shaft", "Half shaft home")
        strip = self.page.get_by_role("form", name="Reading")
        self.tab_to(strip.get_by_role("textbox"))
        for text in ("4.9 kg", "2.0", ""):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        expect(strip.get_by_role("status")).to_contain_text("kg")
        self.page.keyboard.type("4,9 mm")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("region", name="Answer").get_by_text("+2.9 mm")).to_be_visible()
        expect(self.page.get_by_text("Without a job: nothing is saved.")).to_be_visible()
        expect(self.page.get_by_role("button", name="Save to this job")).to_have_count(0)


class FromTheRunSheet(RunSheetTestCase):
    def test_a_locker_s_gap_from_its_step_and_back(self) -> None:
        self.sign_in("isla")
        job = job_of("locker")
        self.go(below(job), "Run sheet")
        self.press(self.in_hand.get_by_role("link", name="Diff bench: locker gap"))
        expect(self.page.get_by_role("heading", name="Locker gap")).to_be_visible()
        strip = self.page.get_by_role("form", name="Reading")
        self.tab_to(strip.get_by_role("textbox"))
        for text in ("3.92", "3,98"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        answer = self.page.get_by_role("region", name="Answer")
        expect(answer.get_by_text("3.92 to 3.98 mm")).to_be_visible()  # the window is the sheet's
        self.press(answer.get_by_role("button", name="Save to the step"))
        expect(answer.get_by_role("status")).to_contain_text("Saved: Locker gap")
        self.assertEqual(self.violations(self.page), [])
        self.press(answer.get_by_role("link", name="Back to the run sheet"))
        step = self.in_hand
        expect(step.get_by_text("3.92 to 3.98 mm")).to_be_visible()
        expect(step.locator("input[name=gap_first]")).to_have_value("3.920 mm")
        self.press(step.get_by_role("button", name="Record", exact=True))
        expect(self.page.locator("#step-locker_gap.step-in-hand")).to_have_count(0)
        read = StepReading.objects.get(record__work=job.pk, name="gap_second")
        self.assertAlmostEqual(read.value, 3.98)
        self.go(f"/api/v1/work/{job.pk}/sheet.html", "Job")
        expect(self.page.get_by_role("heading", name="Diff bench")).to_be_visible()

    def test_a_kept_answer_opens_in_its_tool_again(self) -> None:
        self.sign_in("isla")
        self.go(f"{below(self.job('Old field car'))}/diff-bench?tool=bolts", "Torque sequence")
        self.press(self.page.get_by_role("button", name=re.compile("^Open in the tool ?: Two trials with the old nut")))
        expect(self.page.get_by_role("heading", name="End play by shims")).to_be_visible()
        expect(self.page.get_by_label("Stack (mm), row 2")).to_have_value("0.50 + 0.10 mm")
        expect(self.page.get_by_role("region", name="Answer").get_by_text("0.09 mm")).to_be_visible()


class ByTouch(TouchTestCase):
    def answer(self) -> Locator:
        return self.page.get_by_role("region", name="Answer")

    def test_a_pack_is_put_into_order(self) -> None:
        self.sign_in("isla")
        page = self.go(f"{below(self.job('Forest ranger'))}/diff-bench?tool=clutch_order", "Clutch pack order")
        plates = page.get_by_role("group", name="Plates, from the side gear outwards")
        for name in ("+ Steel plate, case", "+ Friction plate, side gear", "+ Friction plate, side gear", "+ Steel plate, case"):
            plates.get_by_role("button", name=name).tap()
        expect(plates.get_by_text("wrong here")).to_have_count(1)
        plates.get_by_role("button", name="+ Steel plate, case").tap()
        row = plates.get_by_role("listitem").nth(4)
        row.get_by_role("button", name="Plate 5 inwards").tap()
        plates.get_by_role("button", name="Plate 4 inwards").tap()
        expect(plates.get_by_text("wrong here")).to_have_count(0)
        expect(self.answer().get_by_text("Rubbing faces").locator("xpath=..")).to_contain_text("4")
        first, third = (plates.get_by_role("listitem").nth(at).bounding_box() for at in (0, 2))
        assert first is not None and third is not None
        self.drag((first["x"] + 120, first["y"] + 20), (third["x"] + 120, third["y"] + 30))
        expect(plates.get_by_role("listitem").first).to_contain_text("Friction plate")
        expect(plates.get_by_text("wrong here").first).to_be_visible()

    def test_a_tube_end_is_read_by_pressing_its_places(self) -> None:
        self.sign_in("isla")
        page = self.go(f"{below(self.job('Launch trailer tug'))}/diff-bench?tool=tube_end", "Tube end")
        strip = page.get_by_role("form", name="Reading")
        for at, text in enumerate(("4.30", "4.51", "4.60", "4.51", "4.30", "4.09", "4.00", "4.09")):
            page.get_by_role("button", name=re.compile(rf"^{45 * at}°: ")).tap()
            strip.get_by_role("textbox").fill(text)
            strip.get_by_role("button", name="Record").tap()
        for label, text in (
            ("Guide ring on the register (mm)", "2.0"),
            ("Retainer's seat above the flange face, backing plate included (mm)", "6.6"),
        ):
            page.get_by_label(label).fill(text)
            page.keyboard.press("Tab")
        expect(self.answer().get_by_text("Trim at 90°")).to_be_visible()
        page.get_by_role("button", name=re.compile("^90°: 4.60")).tap()
        expect(page.get_by_role("img", name="Section at 90°")).to_be_visible()
        self.assertEqual(self.violations(page), [])
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 360)

    def test_rollers_are_tapped_in_one_by_one(self) -> None:
        self.sign_in("isla")
        page = self.go(f"{below(self.job('Old field car'))}/diff-bench?tool=rollers", "Loose rollers")
        strip = page.get_by_role("form", name="Reading")
        for text in ("2.5", "16.2"):
            strip.get_by_role("textbox").fill(text)
            strip.get_by_role("button", name="Record").tap()
        for _ in range(3):
            page.get_by_role("button", name="Count one in").tap()
        expect(page.get_by_role("group", name="3 of 23 rollers counted")).to_be_visible()
        page.locator("svg[aria-label$='rollers counted'] circle.cursor-pointer").nth(22).tap()
        expect(page.get_by_role("group", name="23 of 23 rollers counted")).to_be_visible()
        self.answer().get_by_role("button", name="Save to this job").tap()
        expect(self.answer().get_by_role("status")).to_contain_text("Saved")
        kept = KeptAnswer.objects.filter(about="rollers").latest("id")
        self.assertEqual((kept.answer["missing"], kept.inputs["question"]["counted"]), (0, 23))

    def test_a_gasket_is_traced_on_a_photo_and_printed_true_to_size(self) -> None:
        self.sign_in("isla")
        page = self.go("/diff-bench?tool=gasket", "Gasket")
        page.get_by_text("Trace it on a photo").tap()
        out = io.BytesIO()
        Image.new("RGB", (600, 500), (200, 200, 190)).save(out, "PNG")
        page.get_by_label("Photo of the face").set_input_files({"name": "face.png", "mimeType": "image/png", "buffer": out.getvalue()})
        canvas = page.locator("svg[data-trace]")

        def marks(what: str, *points: tuple[int, int]) -> None:
            page.get_by_role("radio", name=re.compile(f"^{what}")).check(force=True)
            box = canvas.bounding_box()
            assert box is not None
            for x, y in points:
                canvas.tap(position={"x": x * box["width"] / 600, "y": y * box["height"] / 500})

        marks("First known distance", (50, 450), (550, 450))
        marks("Second known distance", (20, 50), (20, 450))
        for label, text in (("First length (mm)", "250"), ("Second length (mm)", "200")):
            page.get_by_label(label).fill(text)
        marks("Outside edge", (100, 100), (500, 100), (500, 400), (100, 400))
        marks("Holes", (130, 130), (470, 370))
        page.get_by_role("button", name="Use these points").tap()
        strip = page.get_by_role("form", name="Reading")
        strip.get_by_role("textbox").fill("8")
        strip.get_by_role("button", name="Record").tap()
        expect(page.get_by_role("img", name=re.compile("2 holes"))).to_be_visible()
        with tempfile.TemporaryDirectory() as folder:
            with page.expect_download() as down:
                self.answer().get_by_role("button", name="DXF").tap()
            down.value.save_as(Path(folder) / "g.dxf")
            line = readfile(Path(folder) / "g.dxf").modelspace().query("LWPOLYLINE").first
            assert line is not None
            wide = max(x for x, *_ in line) - min(x for x, *_ in line)
            self.assertAlmostEqual(wide, 200.0, delta=2.0)  # a finger on a phone
            with page.expect_download() as down:
                self.answer().get_by_role("button", name="PDF, A4").tap()
            down.value.save_as(Path(folder) / "g.pdf")
            pages = subprocess.run(["pdfinfo", Path(folder) / "g.pdf"], check=True, capture_output=True, text=True).stdout
            self.assertIn("595", pages)
        self.assertEqual(self.violations(page), [])
