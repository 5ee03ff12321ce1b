"""A kind of work put together from blocks: booked, worked by its own steps, changed for the next one, refused with its field."""

from __future__ import annotations

import uuid
from typing import Any

from test_support.api_case import ApiTestCase
from work.models import OwnKindRevision, Work

HUB: dict[str, Any] = {
    "title": "Hub seal on the trailer",
    "about": "Oil at a trailer hub.",
    "places": ["rear_axle"],
    "blocks": ["oil", "cover", "seal"],
}


class OwnKinds(ApiTestCase):
    def make(self, code: str = "own_hub", *, number: int = 0, by: str = "greta", **changes: Any) -> Any:
        body = {"client_id": str(uuid.uuid4()), "number": number, "reason": "", **HUB, **changes}
        return self.call("put", f"/kinds/{code}", body, by=by)

    def book(self) -> str:
        card = self.card(axle=None, place="rear_axle", kind="own_hub", family="")
        self.assertEqual(self.call("post", "/jobs", card).status_code, 201)
        return str(card["id"])

    def test_it_is_booked_and_worked_by_its_own_steps(self) -> None:
        reply = self.make()
        self.assertEqual((reply.status_code, reply.json()["made"]["blocks"]), (200, HUB["blocks"]))
        kinds = {one["code"]: one for one in self.call("get", "/kinds").json()["kinds"]}
        self.assertEqual((kinds["own_hub"]["title"], kinds["own_hub"]["places"]), (HUB["title"], ["rear_axle"]))
        work = self.book()
        shown = self.call("get", f"/work/{work}").json()
        self.assertEqual(shown["title"], "Hub seal on the trailer, rear axle")
        codes = [one["code"] for one in shown["steps"]]
        self.assertEqual([one for one in codes if one in ("fill_plug", "cover_off", "seal_in", "cover", "oil")], codes_in_order())
        self.pass_all(work)
        self.assertEqual(self.call("get", f"/jobs/{work}").json()["state"], "to_sign")

    def test_a_changed_one_leaves_what_was_booked_as_it_was(self) -> None:
        self.make()
        work = self.book()
        before = len(self.call("get", f"/work/{work}").json()["steps"])
        self.assert_refused(self.make(number=1, blocks=["seal"]), 422, "bad_input", field="reason")
        changed = self.make(number=1, blocks=["propshaft"], title="Hub seal, lorry", reason="Cover stays on")
        self.assertEqual((changed.status_code, changed.json()["made"]["number"]), (200, 2))
        shown = self.call("get", f"/work/{work}").json()
        self.assertEqual((len(shown["steps"]), shown["title"]), (before, "Hub seal on the trailer, rear axle"))
        self.assert_refused(self.make(number=1, reason="Late"), 409, "conflict", words="Somebody else changed")
        self.assertEqual(Work.objects.get(pk=work).own_title, HUB["title"])

    def test_own_steps_can_be_added_to_it_too(self) -> None:
        self.make()
        own = {"code": "own_look", "after": "seal_in", "title": "Lip looked at", "why": "It folds.", "minutes": 2}
        body = {"client_id": str(uuid.uuid4()), "number": 0, "reason": "Folded twice", "shape": {"steps": [own]}}
        reply = self.call("put", "/kinds/own_hub/library", body, by="greta")
        self.assertEqual(reply.status_code, 200, reply.content)
        self.assertIn("own_look", [one["code"] for one in reply.json()["steps"]])

    def test_what_cannot_be_made(self) -> None:
        self.make()
        for name, code, change, field in (
            ("no own code", "hub", {}, "code"),
            ("no name", "own_a", {"title": " "}, "title"),
            ("a name twice", "own_a", {"title": HUB["title"].upper()}, "title"),
            ("a cover without its oil", "own_a", {"title": "A", "blocks": ["cover"]}, "blocks[0]"),
            ("nothing chosen", "own_a", {"title": "A", "blocks": []}, "blocks"),
            ("an axle's block on a shaft", "own_a", {"title": "A", "blocks": ["brakes"], "places": ["rear_shaft"]}, "blocks[0]"),
        ):
            with self.subTest(name):
                self.assert_refused(self.make(code, **change), 422, "bad_input", field=field)
        self.assert_refused(self.make("own_b", by="isla", title="B"), 403, "not_allowed")
        self.assertEqual(OwnKindRevision.objects.count(), 1)

    def test_its_file_comes_in_elsewhere_with_its_name_and_steps(self) -> None:
        self.make()
        plain = self.call("get", f"/jobs/{self.book()}/job.json").json()
        self.assertEqual((plain["works"][0]["kind"], plain["works"][0]["title"]), ("own_hub", HUB["title"]))


def codes_in_order() -> list[str]:
    """What is opened last is closed first."""
    return ["fill_plug", "cover_off", "seal_in", "cover", "oil"]
