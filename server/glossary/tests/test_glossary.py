from __future__ import annotations

from test_support.api_case import ApiTestCase


class Glossary(ApiTestCase):
    def found(self, search: str) -> list[str]:
        return [one["code"] for one in self.call("get", f"/terms?search={search}").json()]

    def test_every_term_in_order(self) -> None:
        names = [one["name"] for one in self.call("get", "/terms").json()]
        self.assertGreater(len(names), 50)
        self.assertEqual(names, sorted(names))

    def test_a_word_of_another_country_or_spelling_finds_ours(self) -> None:
        for word, code in (
            ("crown wheel", "ring_gear"),
            ("U joint", "universal_joint"),
            ("center bearing", "centre_bearing"),
            ("DTI", "dial_indicator"),
        ):
            with self.subTest(word):
                self.assertEqual(self.found(word)[0], code)

    def test_a_word_that_means_two_things_finds_both(self) -> None:
        self.assertEqual(set(self.found("driveshaft")), {"half_shaft", "propshaft"})
        self.assertLessEqual({"side_bearing", "centre_bearing"}, set(self.found("carrier bearing")))
        self.assertLessEqual({"joint_cap", "bearing_cap"}, set(self.found("cap")))

    def test_nothing_of_that_name(self) -> None:
        self.assertEqual(self.found("zz%25"), [])

    def test_two_queries(self) -> None:
        client = self.client_of("isla")
        with self.assertNumQueries(2):  # session and person
            client.get("/api/v1/terms")
