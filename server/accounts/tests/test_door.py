"""Passwords tried from elsewhere: what is refused, and who is never kept out by it."""

from __future__ import annotations

import threading
from typing import Any

from django.test import Client, RequestFactory, SimpleTestCase, override_settings

from accounts import demo as people
from accounts.door import COOKIE, LockedOut, Queue
from records.models import Allowance
from shared.address import client_address, network_of
from test_support.api_case import API, ApiTestCase


class Tries(ApiTestCase):
    def sign_in(self, password: str, *, name: str = "isla", at: str = "198.51.100.7", client: Client | None = None) -> Any:
        body = {"username": name, "password": password}
        return (client or Client()).post(f"{API}/sign-in", body, content_type="application/json", REMOTE_ADDR=at)

    def wrong(self, times: int, **where: Any) -> list[int]:
        return [self.sign_in("nonsense", **where).status_code for _ in range(times)]

    def test_six_wrong_ones_from_one_place_shut_that_place_and_name_alone(self) -> None:
        self.assertEqual(self.wrong(6), [401] * 6)
        self.assert_refused(self.sign_in(people.PASSWORD), 429, "locked_out", words="15 minutes")
        self.assertEqual(self.sign_in(people.PASSWORD, at="198.51.100.8").status_code, 200)
        self.assertEqual(self.sign_in(people.PASSWORD, name="tam").status_code, 200)

    def test_a_right_one_clears_the_wrong_ones_before_it(self) -> None:
        for _ in range(3):
            self.assertEqual(self.wrong(5), [401] * 5)
            self.assertEqual(self.sign_in(people.PASSWORD).status_code, 200)

    def test_when_the_span_is_over_the_count_starts_again(self) -> None:
        self.wrong(7)
        for row in Allowance.objects.all():
            Allowance.objects.filter(pk=row.pk).update(began=row.began.replace(year=2020))
        self.assertEqual(self.sign_in(people.PASSWORD).status_code, 200)

    def test_one_address_does_not_try_many_names(self) -> None:
        statuses = [self.sign_in("nonsense", name=f"person{number}").status_code for number in range(40)]
        self.assertEqual(statuses, [401] * 30 + [429] * 10)

    def test_an_ipv6_connection_is_one_place(self) -> None:
        statuses = [self.sign_in("nonsense", at=f"2001:db8:7:1::{number:x}").status_code for number in range(8)]
        self.assertEqual(statuses, [401] * 6 + [429] * 2)

    def test_where_somebody_works_nothing_tried_from_elsewhere_keeps_them_out(self) -> None:
        bench = Client()
        self.assertEqual(self.sign_in(people.PASSWORD, client=bench).status_code, 200)
        bench.post(f"{API}/sign-out", content_type="application/json")
        statuses = [self.sign_in("nonsense", at=f"203.0.113.{number}").status_code for number in range(35)]
        self.assertEqual(statuses[-1], 429)
        self.assert_refused(self.sign_in(people.PASSWORD, at="203.0.113.99"), 429, "locked_out")
        self.assertEqual(self.sign_in(people.PASSWORD, client=bench).status_code, 200)

    def test_a_known_browser_has_six_tries_too(self) -> None:
        bench = Client()
        self.sign_in(people.PASSWORD, client=bench)
        self.assertEqual(self.wrong(7, client=bench), [401] * 6 + [429])

    def test_a_cookie_that_was_changed_makes_a_stranger(self) -> None:
        bench = Client()
        self.sign_in(people.PASSWORD, client=bench)
        self.assertTrue(bench.cookies[COOKIE]["httponly"])
        bench.cookies[COOKIE] = bench.cookies[COOKIE].value[:-3] + "xxx"
        self.wrong(6)
        self.assert_refused(self.sign_in(people.PASSWORD, client=bench), 429, "locked_out")

    def test_strangers_all_together_have_so_many_a_minute(self) -> None:
        statuses = [self.sign_in("nonsense", name=f"n{number}", at=f"203.0.{number}.1").status_code for number in range(62)]
        self.assertEqual(statuses, [401] * 60 + [429] * 2)
        self.assert_refused(self.sign_in(people.PASSWORD, at="203.0.200.1"), 429, "busy", words="few seconds")
        self.assertEqual(self.call("get", "/floor").status_code, 200)

    def test_ones_own_present_password_is_not_guessed_either(self) -> None:
        client = self.client_of("isla")
        body = {"current": "nonsense", "new": "anvil-lantern-47"}
        statuses = [client.post(f"{API}/me/password", body, content_type="application/json").status_code for _ in range(7)]
        self.assertEqual(statuses, [401] * 6 + [429])

    def test_operators_sign_in_here_too(self) -> None:
        reply = self.client_of(None).get("/admin/")
        self.assertIn("/admin/login/", reply.headers["Location"])
        self.assertEqual(self.client_of(None).get(reply.headers["Location"]).headers["Location"], "/?to=/admin/")
        self.assertIn(self.client_of(None).post("/admin/login/", {"username": "isla", "password": "x"}).status_code, (302, 403))


class OneAtATime(SimpleTestCase):
    def test_one_checks_few_wait_and_a_second_stranger_is_told_to_come_again(self) -> None:
        queue, held, go_on = Queue(), threading.Event(), threading.Event()
        order: list[str] = []

        def check(name: str, *, known: bool) -> None:
            with queue.turn(known=known):
                order.append(name)
                held.set()
                go_on.wait(5)

        first = threading.Thread(target=check, args=("stranger",), kwargs={"known": False})
        first.start()
        self.assertTrue(held.wait(5))
        with self.assertRaises(LockedOut), queue.turn(known=False):
            self.fail("a second stranger was let in")
        second = threading.Thread(target=check, args=("known here",), kwargs={"known": True})
        second.start()
        go_on.set()
        first.join(5)
        second.join(5)
        self.assertEqual(order, ["stranger", "known here"])
        with queue.turn(known=False):
            order.append("afterwards")
        self.assertEqual(order[-1], "afterwards")


class WhereFrom(SimpleTestCase):
    def at(self, proxies: int, forwarded: str) -> str:
        request = RequestFactory().get("/", REMOTE_ADDR="127.0.0.1", HTTP_X_FORWARDED_FOR=forwarded)
        with override_settings(TRUSTED_PROXIES=proxies):
            return client_address(request)

    def test_only_what_a_trusted_proxy_wrote_is_believed(self) -> None:
        for proxies, forwarded, address in (
            (0, "203.0.113.9", "127.0.0.1"),
            (1, "203.0.113.9", "203.0.113.9"),
            (1, "10.9.9.9, 203.0.113.9", "203.0.113.9"),
            (2, "10.9.9.9, 203.0.113.9, 10.0.0.1", "203.0.113.9"),
            (2, "203.0.113.9", "127.0.0.1"),
            (1, "nonsense", "127.0.0.1"),
            (1, "", "127.0.0.1"),
        ):
            with self.subTest(proxies=proxies, forwarded=forwarded):
                self.assertEqual(self.at(proxies, forwarded), address)

    def test_a_place_on_the_network(self) -> None:
        self.assertEqual(network_of("203.0.113.9"), "203.0.113.9")
        self.assertEqual(network_of("2001:db8:7:1:2:3:4:5"), "2001:db8:7:1::/64")
        self.assertEqual(network_of("nowhere"), "nowhere")
