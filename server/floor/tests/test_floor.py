"""The Floor: order, filter, search, and the same number of queries however many jobs there are."""

from __future__ import annotations

from demo_world import world
from test_support.api_case import ApiTestCase
from test_support.demo import demo_workshop


class TheFloor(ApiTestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        demo_workshop()
        super().setUpTestData()

    def rows(self, query: str = "") -> list[dict[str, str]]:
        found: list[dict[str, str]] = self.call("get", f"/floor{query}").json()["jobs"]
        return found

    def test_the_demo_shows_at_least_eight_jobs_in_all_states_each_with_its_next_action(self) -> None:
        rows = self.rows()
        self.assertGreaterEqual(len(rows), 8)
        self.assertEqual({row["state"] for row in rows}, {"booked", "in_work", "waiting", "to_sign", "done"})
        self.assertTrue(all(row["next_action"] for row in rows))
        self.assertTrue(all(row["waits_note"] for row in rows if row["state"] == "waiting"))

    def test_what_can_be_worked_on_comes_first_and_what_is_done_last(self) -> None:
        states = [row["state"] for row in self.rows()]
        order = ["to_sign", "in_work", "waiting", "booked", "done"]
        self.assertEqual(states, sorted(states, key=order.index))

    def test_filter_and_search(self) -> None:
        self.assertEqual({row["state"] for row in self.rows("?state=waiting")}, {"waiting"})
        self.assertEqual([row["customer"] for row in self.rows("?search=library")], ["Island Library Service"])
        self.assertEqual([row["number"] for row in self.rows("?search=418")], [418])
        self.assertEqual(self.rows("?search=%25"), [])
        self.assert_refused(self.call("get", "/floor?state=lost"), 422, "bad_input", field="state")

    def test_pages(self) -> None:
        for number in range(45):
            self.make_job(teeth=None, vehicle=f"Van {number}")
        first, second = self.call("get", "/floor").json(), self.call("get", "/floor?page=2").json()
        self.assertEqual((len(first["jobs"]), first["more"], second["more"]), (40, True, False))
        self.assertEqual({row["id"] for row in first["jobs"]} & {row["id"] for row in second["jobs"]}, set())

    def test_three_queries_whatever_the_number_of_jobs(self) -> None:
        client = self.client_of("isla")
        with self.assertNumQueries(3):  # session, person, jobs
            client.get("/api/v1/floor")

    def test_loading_the_demo_twice_changes_nothing(self) -> None:
        before = len(self.rows())
        world.load()
        self.assertEqual(len(self.rows()), before)
