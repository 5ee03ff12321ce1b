"""Every tool: what is typed is read, told and, on a piece of work, kept for its step."""

from __future__ import annotations

import json
import re
import subprocess
import tempfile
import uuid
from pathlib import Path
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext
from ezdxf.filemanagement import readfile
from ezdxf.units import MM as DXF_MM
from PIL import Image

from amber_core import registry
from amber_core.procedures.kinds import KINDS
from diff_bench.reading import Units, Values
from diff_bench.tests.typed import TYPED
from diff_bench.tools import TOOLS
from diff_bench.working import worked
from test_support.api_case import ApiTestCase
from work.models import KeptAnswer, StepReading

MM = Units("mm", "nm")
_AS_NUMBERS = {
    "clutch_shims": ("answer.difference_mm", -0.13),
    "breakaway": ("answer.torque_nm", 66.0),
    "locker_gap": ("answer.mean_mm", 3.95),
    "side_gear": ("answer.washer_wanted_mm", 1.26),
    "end_play": ("answer.stack_mm", 0.74),
    "press_fit": ("answer.heat_needed_c", 129.2118),
    "clearance": ("answer.least_mm", 0.06),
    "bearings": ("answer.shims.ring_side_mm", 1.75),
    "rollers": ("answer.missing", 1.0),
    "hot_play": ("answer.play_hot_mm", 0.1409225),
    "seal_surface": ("answer.ways.0.total", 9490.0),
    "gasket": ("answer.area_mm2", 14020.928),
    "half_shaft": ("answer.extra_mm", 2.9),
    "engagement": ("answer.engaged_least_mm", 30.0),
    "tube_end": ("answer.guide_range_mm.0", 1.7),
    "bolts": ("answer.order.1", 6.0),
    "turning": ("answer.slope_nm_per_deg", 4.0 / 15.0),
    "torque_estimate": ("answer.torque_nm", 37.838),
    "castle_nut": ("answer.play_then_mm", 0.095),
    "runout": ("answer.local_at_deg", 90.0),
    "air_hold": ("answer.drop_kpa", 1.749),
    "heat": ("answer.rises.0.rise_k", 77.0),
    "clutch_order": ("answer.faces", 4.0),
}


def at(found: Any, path: str) -> Any:
    for name in path.split(".")[1:]:
        found = found[int(name)] if name.isdigit() else found[name]
    return found


class Tools(ApiTestCase):
    def asked(self, tool: str, values: Values, gauge: str = "", by: str = "isla") -> Any:
        reply = self.call("post", "/diff-work", {"tool": tool, "values": values, "gauge": gauge}, by=by)
        self.assertEqual(reply.status_code, 200, reply.content)
        return reply.json()

    def test_every_tool_answers_what_its_computation_answers(self) -> None:
        self.assertEqual(sorted(TYPED), sorted(TOOLS))
        for code, values in TYPED.items():
            with self.subTest(code):
                found = self.asked(code, values)
                self.assertEqual((found["wrong"], found["missing"]), ([], []))
                path, wanted = _AS_NUMBERS[code]
                self.assertAlmostEqual(at(found["answer"], path), wanted, places=3)
                again = registry.run(TOOLS[code].computation, found["question"])
                again.pop("svg", None)  # is asked for as a file
                self.assertEqual(json.loads(json.dumps(again)), found["answer"])
                self.assertTrue(found["lines"])

    def test_a_tool_waits_until_all_is_typed_and_says_what_is_missing(self) -> None:
        for code, tool in TOOLS.items():
            with self.subTest(code):
                found = self.asked(code, {})
                self.assertIsNone(found["answer"])
                if any(field.needed and not field.begin and field.when is None for field in tool.fields):
                    self.assertTrue(found["missing"] or found["wrong"])

    def test_a_slip_is_told_where_it_stands_and_nothing_else_is_lost(self) -> None:
        typed = {**TYPED["tube_end"], "register": ["4.3", "4,5 mm", "four", "4.5", "4.3 kg", "", "4.0", "4.1"]}
        wrong = self.asked("tube_end", typed)["wrong"]
        self.assertEqual([one["field"] for one in wrong], ["register[2]", "register[4]"])
        self.assertIn("kg", wrong[1]["text"])
        rows = [{"turn_deg": "10", "torque_nm": "12"}, {"turn_deg": "20", "torque_nm": ""}]
        self.assertEqual(self.asked("turning", {"target_nm": "80", "steps": rows})["wrong"][0]["field"], "steps[1].torque_nm")
        self.assertEqual(self.asked("rollers", {**TYPED["rollers"], "counted": "22.5"})["wrong"][0]["field"], "counted")
        trial = [{"stack_mm": "0.84", "pushed_in_mm": "0 mm", "pulled_out_mm": "0.06 mm"}]
        unfinished: list[tuple[str, Values, str]] = [
            ("end_play", {"trials": trial}, "play_max"),
            ("end_play", {"trials": trial, "school": "light_preload"}, "torque_max"),
            ("gasket", {name: one for name, one in TYPED["gasket"].items() if name != "hole_mm"}, "hole_mm"),
        ]
        for tool, values, field in unfinished:
            self.assertEqual(self.asked(tool, values)["wrong"][0]["field"], field)
        core = self.asked("rollers", {**TYPED["rollers"], "counted": "99"})["wrong"][0]
        self.assertEqual(core["field"], "counted")
        self.assertIn("23 fit", core["text"])

    def test_what_cannot_be_a_tool_is_refused(self) -> None:
        for body in (
            {"tool": "lathe", "values": {}},
            {"tool": "rollers", "values": {"wheels": "4"}},
            {"tool": "rollers", "values": TYPED["rollers"], "gauge": "thumb"},
            {"tool": "rollers", "values": {"roller_mm": "1" * 500}},
            {"tool": "clutch_order", "values": {"plates": [{"kind": "steel", "keyed": "case"}] * 2001}},
        ):
            self.assertEqual(self.call("post", "/diff-work", body).status_code, 422, body)
        self.assertEqual(self.call("post", "/diff-work", {"tool": "rollers", "values": {}}, by=None).status_code, 401)

    def test_bare_figures_are_in_the_reader_s_unit(self) -> None:
        isla = self.who["isla"]
        for unit, size, play in (("hundredths_mm", "2.54", "8"), ("mm", "2.54", "0.08"), ("thou", "0.1", "3.1496")):
            isla.length_unit = unit
            isla.save()
            found = self.asked("half_shaft", {"gap_now_mm": size, "gap_before_mm": "2.54 mm"})
            self.assertAlmostEqual(found["answer"]["extra_mm"], 0.0)
            self.assertAlmostEqual(self.asked("side_gear", {"plays_mm": [play]})["answer"]["play_mm"], 0.08, places=4)
        self.assertIn("thou", next(one["said"] for one in found["lines"] if one["name"] == "gap"))

    def test_an_instrument_gives_its_step_and_says_what_it_is_too_coarse_for(self) -> None:
        values = {**TYPED["side_gear"], "min_mm": "0.02 mm", "max_mm": "0.05 mm", "plays_mm": ["0.035 mm"]}
        fine, coarse = self.asked("side_gear", values, "micrometer"), self.asked("side_gear", values, "caliper")
        self.assertEqual((fine["question"]["resolution_mm"], coarse["question"]["resolution_mm"]), (0.01, 0.02))
        self.assertEqual((fine["verdict"], coarse["verdict"]), ("in", "edge"))
        self.assertIn("too coarse", coarse["reasons"][0])
        self.assertNotIn("too coarse", " ".join(fine["reasons"]))

    def test_light_preload_goes_on_by_two_trials_of_torque(self) -> None:
        trials = [
            {"stack_mm": "0.84", "pushed_in_mm": "0 mm", "pulled_out_mm": "0.06 mm"},
            {"stack_mm": "0.70", "rotating_torque_nm": "1.6"},
            {"stack_mm": "0.74", "rotating_torque_nm": "1.2"},
        ]
        values: Values = {"school": "light_preload", "trials": trials, "torque_min": "0.4", "torque_max": "1.0"}
        found = self.asked("end_play", values)
        self.assertAlmostEqual(found["question"]["torque_per_mm_nm"], 10.0)
        self.assertAlmostEqual(found["answer"]["stack_mm"], 0.79)
        half = [{"stack_mm": "0.8", "pushed_in_mm": "0.1 mm"}]
        self.assertEqual(self.asked("end_play", {"trials": half, "play_max": "0.1 mm"})["wrong"][0]["field"], "pulled_out_mm")

    def test_every_step_that_a_tool_answers_is_a_step(self) -> None:
        steps = {one.step.code: {ask.name for ask in one.step.asks} for kind in KINDS.values() for one in kind.steps}
        for code, tool in TOOLS.items():
            with self.subTest(code):
                self.assertLessEqual(set(tool.steps), steps.keys())
                found = worked(code, TYPED[code], MM)
                asked = {name for step in tool.steps for name in steps[step]}
                if found.fills:
                    self.assertTrue(asked & found.fills.keys())


class OnAWork(ApiTestCase):
    def setUp(self) -> None:
        self.work = self.make_job(teeth=None, kind="clutch_packs", family="corrie-ls19")

    def bench(self) -> Any:
        return self.call("get", f"/work/{self.work}/diff-bench").json()

    def keep(self, tool: str, status: int = 201, by: str = "isla", **more: Any) -> Any:
        reply = self.post(f"/work/{self.work}/diff-results", {"tool": tool, "values": TYPED[tool], "title": "On the bench", **more}, by=by)
        self.assertEqual(reply.status_code, status, reply.content)
        return reply.json()

    def field(self, tool: str, name: str) -> Any:
        found = next(one for one in self.bench()["tools"] if one["code"] == tool)
        return next(one for one in found["fields"] if one["name"] == name)

    def test_limits_and_drawer_come_from_the_sheet(self) -> None:
        least = self.field("clutch_shims", "min_mm")
        self.assertEqual((least["begin"], bool(least["source"])), ("16.7 mm", True))
        stock = self.field("clutch_shims", "stock")["rows"]
        self.assertIn({"thickness_mm": "0.38 mm", "count": "1"}, stock)
        alone = self.call("get", "/diff-bench").json()
        self.assertEqual((alone["work_id"], alone["results"]), (None, []))
        with CaptureQueriesContext(
            connection,
        ) as few:
            self.bench()
        self.keep("breakaway")
        self.keep("side_gear")
        with CaptureQueriesContext(connection) as many:
            self.bench()
        self.assertEqual(len(few), len(many))

    def clocks(self) -> dict[str, tuple[bool, bool]]:
        return {one["step"]: (one["running"], one["until"] is not None) for one in self.bench()["clocks"]}

    def test_a_clock_that_belongs_to_a_tool_is_offered_until_it_is_over_with(self) -> None:
        self.assertEqual(self.clocks(), {"soak": (False, False)})
        self.assertEqual([one["code"] for one in self.bench()["tools"] if one["clocks"] == ["soak"]], ["clutch_order", "clutch_shims"])
        self.pass_all(self.work, until="soak")
        self.assertEqual(self.post(f"/work/{self.work}/steps/soak/begin", {"minutes": None}).status_code, 201)
        self.assertEqual(self.clocks(), {"soak": (True, True)})
        self.post(f"/work/{self.work}/steps/soak/skip", {"reason": "Soaked since yesterday"})
        self.assertEqual(self.clocks(), {})

    def test_where_pits_lie_stands_beside_the_answer(self) -> None:
        values = {**TYPED["seal_surface"], "width_mm": "18", "pits": [{"at_mm": "4.5"}, {"at_mm": "12,25"}]}
        found = self.call("post", "/diff-work", {"tool": "seal_surface", "values": values}).json()
        self.assertEqual(found["beside"]["pits"], [{"at_mm": 4.5}, {"at_mm": 12.25}])
        self.assertEqual((found["beside"]["width_mm"], found["question"]["pitted"], found["wrong"]), (18.0, True, []))

    def test_an_answer_goes_to_its_step_and_fills_its_readings(self) -> None:
        self.keep("side_gear", step="gears_in")
        step = next(one for one in self.call("get", f"/work/{self.work}").json()["steps"] if one["code"] == "gears_in")
        self.assertEqual([one["code"] for one in step["tools"]], ["side_gear"])
        self.assertEqual((step["measured"]["verdict"], step["measured"]["readings"]), ("out", {"side_gear_play": "0.270 mm"}))
        self.assertEqual(self.keep("side_gear", 422, step="stack")["error"]["field"], "step")
        self.keep("clutch_shims", step="stack")
        stack = next(one for one in self.call("get", f"/work/{self.work}").json()["steps"] if one["code"] == "stack")
        self.assertEqual(stack["measured"]["readings"], {"stack_right": "16.720 mm", "stack_left": "16.850 mm"})
        self.assertEqual(self.keep("locker_gap", 422, step="locker_gap")["error"]["field"], "step")  # not a step of this kind of work
        self.assertFalse(StepReading.objects.filter(record__work_id=self.work).exists())

    def test_the_same_write_again_is_answered_as_before_and_what_is_unfinished_is_not_kept(self) -> None:
        body = {"client_id": str(uuid.uuid4()), "tool": "breakaway", "values": TYPED["breakaway"], "title": "Once"}
        first, again = (self.post(f"/work/{self.work}/diff-results", body) for _ in range(2))
        self.assertEqual(first.json(), again.json())
        self.assertEqual(KeptAnswer.objects.count(), 1)
        self.assertEqual(self.keep("breakaway", 422, values={})["error"]["field"], "values")
        self.assertEqual(self.keep("breakaway", 422, values={"readings_nm": ["x"]})["error"]["field"], "values.readings_nm[0]")
        self.keep("breakaway", 403, by="visitor")
        self.assertEqual(KeptAnswer.objects.count(), 1)

    def test_a_kept_answer_stays_as_it_was_and_leaves_as_files(self) -> None:
        kept = self.keep("seal_surface", gauge="micrometer")
        whole = self.call("get", f"/diff-results/{kept['id']}").json()
        self.assertEqual(whole["inputs"]["values"], TYPED["seal_surface"])
        self.assertEqual(whole["answer"]["recommended"], "sleeve")
        table = self.call("get", f"/diff-results/{kept['id']}/file.csv").content.decode()
        self.assertIn("flange_length,New flange's length,0.7", table)
        self.assertEqual(self.call("get", f"/diff-results/{kept['id']}/file.json").json()["format"], "amber-pinion.bench")

    def test_it_stands_on_the_build_sheet_and_in_the_job_file(self) -> None:
        self.keep("side_gear", step="gears_in", gauge="dial")
        page = self.call("get", f"/work/{self.work}/sheet.html").content.decode()
        self.assertIn("<strong>0.27 mm</strong> (out)", page)
        plain = self.call("get", f"/jobs/{self.work}/job.json").json()
        self.assertEqual(plain["works"][0]["bench_results"][0]["step"], "gears_in")


class GasketFiles(ApiTestCase):
    def file(self, kind: str, paper: str = "a4", values: Values | None = None, status: int = 200) -> bytes:
        reply = self.call("post", "/gasket-file", {"values": values or TYPED["gasket"], "kind": kind, "paper": paper})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return bytes(reply.content)

    def test_the_printed_gasket_measures_what_it_should(self) -> None:
        for paper, wide in (("a4", 210.0), ("letter", 215.9)):
            with self.subTest(paper), tempfile.TemporaryDirectory() as folder:
                source = Path(folder) / "gasket.pdf"
                source.write_bytes(self.file("pdf", paper))
                dots = 300
                subprocess.run(["pdftoppm", "-r", str(dots), "-gray", "-png", source, Path(folder) / "page"], check=True)
                pages = sorted(Path(folder).glob("page*.png"))
                self.assertGreater(len(pages), 1)
                for page in pages:
                    image = Image.open(page)
                    per_mm = dots / 25.4
                    self.assertAlmostEqual(image.width / per_mm, wide, delta=0.3)
                    self.assertAlmostEqual(self._bar_mm(image, per_mm), 100.0, delta=0.3)

    def _bar_mm(self, image: Image.Image, per_mm: float) -> float:
        """The longest dark line in the foot of a page, [mm]."""
        foot = image.convert("L").crop((0, image.height - int(22 * per_mm), image.width, image.height - int(10 * per_mm)))
        longest = 0
        pixels = foot.load()
        assert pixels is not None
        for y in range(foot.height):
            run = 0
            for x in range(foot.width):
                run = run + 1 if pixels[x, y] < 140 else 0  # type: ignore[operator]
                longest = max(longest, run)
        return longest / per_mm

    def test_the_cutter_s_file_has_every_edge_and_hole_in_millimetres(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "gasket.dxf"
            source.write_bytes(self.file("dxf"))
            drawing = readfile(source)
        self.assertEqual((drawing.dxfversion, drawing.units), ("AC1024", DXF_MM))
        circles = [(one.dxf.layer, round(one.dxf.radius, 4)) for one in drawing.modelspace().query("CIRCLE")]
        self.assertEqual(sorted(circles), sorted([("OUTSIDE", 105.0), ("INSIDE", 80.0), *[("HOLES", 4.5)] * 8]))
        traced: Values = {
            "outer.kind": "points",
            "outer.points_mm": [{"x": x, "y": y} for x, y in (("-70", "-50"), ("70", "-50"), ("70", "50"), ("-70", "50"))],
            "holes.kind": "points",
            "holes.points_mm": [{"x": "60", "y": "40"}],
            "hole_mm": "8",
        }
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "traced.dxf"
            source.write_bytes(self.file("dxf", values=traced))
            line = readfile(source).modelspace().query("LWPOLYLINE").first
        assert line is not None
        self.assertEqual([(x, y) for x, y, *_ in line], [(-70.0, -50.0), (70.0, -50.0), (70.0, 50.0), (-70.0, 50.0)])

    def test_a_gasket_that_cannot_be_drawn_is_no_file(self) -> None:
        self.assertIn(b'<svg xmlns="', self.file("svg"))
        self.file("svg", values={**TYPED["gasket"], "hole_mm": "nine"}, status=422)
        self.file("pdf", values={"outer.diameter_mm": ""}, status=422)
        crossed = [{"x": x, "y": y} for x, y in (("0", "0"), ("50", "50"), ("50", "0"), ("0", "50"))]
        reply = self.call(
            "post", "/gasket-file", {"values": {"outer.kind": "points", "outer.points_mm": crossed, "holes.kind": "none"}, "kind": "dxf"}
        )
        self.assertTrue(re.fullmatch(r"values\.outer\.points_mm", reply.json()["error"]["field"]), reply.content)
        self.assertEqual(reply.status_code, 422)
