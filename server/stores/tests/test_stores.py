"""Stores: sheets with their sources, the drawer, and what the database refuses."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.db import IntegrityError, transaction

from amber_core import registry
from stores.models import AxleFamily, ShimRow, SpecLimit
from test_support.api_case import ApiTestCase


class Families(ApiTestCase):
    def test_every_limit_has_a_source_and_is_marked_a_sample(self) -> None:
        found = self.call("get", "/families").json()
        self.assertEqual([one["part"] for one in found], ["axle"] * 5 + ["propshaft"] * 2 + ["transfer_case"] * 2)
        for family in found:
            for line in [*family["limits"], *family["fasteners"], *family["fluids"]]:
                with self.subTest(family["code"], line=line):
                    self.assertTrue(line["is_sample"])
                    self.assertTrue(line["source_note"])

    def test_every_ratio_of_every_family_makes_a_gear_set(self) -> None:
        for family in AxleFamily.objects.with_sheets():
            for pair in family.ratios.all():
                with self.subTest(family.code, pair=str(pair)):
                    set_: dict[str, Any] = {"ring_teeth": pair.ring_teeth, "pinion_teeth": pair.pinion_teeth, "offset_mm": family.offset_mm}
                    set_ |= {"ring_outer_diameter_mm": family.ring_outer_diameter_mm, "tooth_form": family.tooth_form}
                    slope = registry.run("gearset.geometry", set_)["backlash_per_ring_move"]
                    self.assertTrue(0.6 < slope < 0.9, slope)

    def test_the_list_takes_a_fixed_number_of_queries(self) -> None:
        client = self.client_of("isla")
        with self.assertNumQueries(9):  # session, person, families, limits, ratios, fasteners, fluids, shims, revisions
            client.get("/api/v1/families")


class TheDrawer(ApiTestCase):
    BODY = {"place": "side", "thickness_mm": 4.55, "count": 7}

    def test_who_may_set_a_count(self) -> None:
        before = ShimRow.objects.filter(family__code="corrie-ls19", thickness_mm="4.55").first()
        version = before.version if before else 0
        for by, status in ((None, 401), ("isla", 403), ("visitor", 403), ("callum", 200), ("greta", 200)):
            with self.subTest(by):
                reply = self.call("put", "/families/corrie-ls19/shims", {**self.BODY, "version": version}, by=by)
                self.assertEqual(reply.status_code, status)
                version += status == 200
        row = ShimRow.objects.get(family__code="corrie-ls19", thickness_mm="4.55")
        self.assertEqual((row.count, row.version), (7, version))
        moves = self.call("get", "/families/corrie-ls19/shim-moves?place=side&thickness_mm=4.55").json()
        self.assertEqual(
            [(one["by_name"], one["why"], one["count"]) for one in moves[:2]], [("Greta Fell", "counted", 7), ("Callum Voe", "counted", 7)]
        )

    def test_a_count_of_a_drawer_that_has_changed_is_refused(self) -> None:
        def put(version: int) -> Any:
            return self.call("put", "/families/corrie-ls19/shims", {**self.BODY, "version": version}, by="greta")

        self.assertEqual(put(0).status_code, 200)
        self.assert_refused(put(0), 409, "conflict", words="now holds 7")

    def test_absurd_shims_are_refused(self) -> None:
        for change, field in (({"thickness_mm": -1}, "thickness_mm"), ({"thickness_mm": 1e9}, "thickness_mm"), ({"count": -1}, "count")):
            with self.subTest(field):
                reply = self.call("put", "/families/corrie-ls19/shims", {**self.BODY, "version": 1, **change}, by="greta")
                self.assert_refused(reply, 422, "bad_input", field=field)
        self.assert_refused(self.call("put", "/families/none/shims", {**self.BODY, "version": 1}, by="greta"), 422, "not_found")


class TheDatabase(ApiTestCase):
    def test_it_refuses_what_the_forms_refuse(self) -> None:
        family = AxleFamily.objects.get(code="corrie-ls19")
        wrong: list[Callable[[], Any]] = [
            lambda: SpecLimit.objects.create(family=family, quantity="backlash_variation", greatest=1, source_note="twice"),
            lambda: SpecLimit.objects.filter(family=family, quantity="backlash").update(least=9.0),
            lambda: SpecLimit.objects.filter(family=family).update(source_note=""),
            lambda: ShimRow.objects.create(family=family, place="side", thickness_mm="0", count=1),
            lambda: AxleFamily.objects.filter(code="halden-hf25").update(notch_mm=None),
        ]
        for number, change in enumerate(wrong):
            with self.subTest(number), self.assertRaises(IntegrityError), transaction.atomic():
                change()
