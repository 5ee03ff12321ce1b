"""A foreman shapes a kind of work; jobs keep the steps that they began with, and no hold goes."""

from __future__ import annotations

import uuid
from typing import Any

from test_support.api_case import ApiTestCase
from work.models import KindShape, Work

STEP = {"code": "own_photo", "after": "drained", "title": "Oil held against the light", "why": "Water shows at once.", "hold": True}


class ByTheForeman(ApiTestCase):
    def shape(self, number: int = 0, *, by: str = "greta", kind: str = "oil_service", reason: str = "Two came back", **shape: Any) -> Any:
        body = {"client_id": str(uuid.uuid4()), "number": number, "reason": reason, "shape": shape}
        return self.call("put", f"/kinds/{kind}/library", body, by=by)

    def book(self) -> str:
        return self.make_job(kind="oil_service", axle=None, place="rear_axle", family="", teeth=None)

    def codes(self, work: str) -> list[str]:
        return [one["code"] for one in self.call("get", f"/work/{work}").json()["steps"]]

    def test_what_is_added_counts_for_work_booked_from_now_on(self) -> None:
        before = self.book()
        reply = self.shape(steps=[STEP], cautions={"fill_plug": "Ours is left-handed."}, minutes={"oil": 35})
        self.assertEqual(reply.status_code, 200, reply.content)
        after = self.book()
        self.assertNotIn("own_photo", self.codes(before))
        codes = self.codes(after)
        self.assertEqual(codes[codes.index("drained") + 1], "own_photo")
        step = next(one for one in self.call("get", f"/work/{after}").json()["steps"] if one["code"] == "fill_plug")
        self.assertTrue(step["caution"].endswith("Ours is left-handed."))
        self.pass_all(after, until="own_photo")
        self.assert_refused(self.post(f"/work/{after}/steps/magnet/pass", {}), 422, "held", words="Oil held against the light")
        self.pass_all(after)
        self.assertEqual(Work.objects.get(pk=after).procedure.by_name, "Greta Fell")
        shown = self.call("get", "/kinds/oil_service/library").json()
        self.assertEqual(
            (shown["number"], shown["reason"], [one["code"] for one in shown["steps"] if one["own"]]), (1, "Two came back", ["own_photo"])
        )

    def test_what_does_not_fit_is_refused_and_nothing_is_stored(self) -> None:
        circle = [{**STEP, "after": "own_b"}, {**STEP, "code": "own_b", "after": "own_photo"}]
        self.assert_refused(self.shape(steps=circle), 422, "bad_input", field="steps[0].after", words="in a circle")
        self.assert_refused(self.shape(steps=[{**STEP, "code": "oil"}]), 422, "bad_input", field="steps[0].code")
        self.assert_refused(self.shape(reason=" ", steps=[STEP]), 422, "bad_input", field="reason")
        self.assert_refused(self.shape(by="isla", steps=[STEP]), 403, "not_allowed")
        self.assert_refused(self.shape(kind="paint_job", steps=[STEP]), 422, "bad_input", field="kind")
        self.assertEqual(KindShape.objects.count(), 0)

    def test_two_foremen_at_once(self) -> None:
        self.assertEqual(self.shape(steps=[STEP]).status_code, 200)
        self.assert_refused(self.shape(steps=[]), 409, "conflict")
        self.assertEqual(self.shape(1).status_code, 200)
        self.assertEqual(self.call("get", "/kinds/oil_service/library").json()["shape"]["steps"], [])
