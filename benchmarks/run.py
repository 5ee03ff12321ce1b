"""What ./amber bench prints: the compute endpoint, the Floor with many jobs, and the bytes of the first load."""

from __future__ import annotations

import http.client
import json
import re
import sys
import uuid
from pathlib import Path
from typing import Any

import django


class Browser:
    """One signed-in connection that stays open."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        self.cookies: dict[str, str] = {}

    def call(self, method: str, path: str, body: Any = None, **headers: str) -> http.client.HTTPResponse:
        """Send and read whole; the body lies in `.text`. A connection that idled too long is opened again."""
        try:
            return self._call(method, path, body, headers)
        except (BrokenPipeError, ConnectionResetError, http.client.RemoteDisconnected):
            self.connection.close()
            return self._call(method, path, body, headers)

    def _call(self, method: str, path: str, body: Any, headers: dict[str, str]) -> http.client.HTTPResponse:
        sent = {"Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()), **headers}
        if body is not None:
            sent |= {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", "")}
        self.connection.request(method, path, None if body is None else json.dumps(body), sent)
        reply = self.connection.getresponse()
        self.text = reply.read()
        for cookie in reply.headers.get_all("Set-Cookie") or []:
            name, value = cookie.split(";")[0].split("=", 1)
            self.cookies[name] = value
        if reply.status >= 400:
            raise RuntimeError(f"{method} {path}: {reply.status} {self.text[:300]!r}")
        return reply

    def sign_in(self, password: str) -> None:
        """As a demo technician."""
        self.call("GET", "/api/v1/csrf")
        self.call("POST", "/api/v1/sign-in", {"username": "isla", "password": password})


def _two_thousand_pairs() -> dict[str, Any]:
    """20 gearboxes with 100 ring and pinions each."""
    return {
        "gearboxes": [
            {"name": f"box {n}", "gears": [4.2 - 0.03 * n, 2.4, 1.5, 1.0, 0.82 - 0.005 * n], "transfer_low": 2.5} for n in range(20)
        ],
        "axles": [{"pinion_teeth": 7 + n % 7, "ring_teeth": 33 + n // 7, "needs_carrier": n % 5 == 0} for n in range(100)],
        "circumference_m": 2.4,
        "engine": {"idle_rpm": 800, "redline_rpm": 4500, "torque": [{"rpm": 1500, "torque_nm": 300}, {"rpm": 4500, "torque_nm": 240}]},
        "load": {"mass_kg": 3200},
        "use": {
            "cruise_kmh": 90,
            "cruise_rpm_min": 2200,
            "cruise_rpm_max": 2600,
            "hold_grade_pct": 6,
            "start_grade_pct": 25,
            "crawl_kmh": 3,
            "top_kmh": 130,
            "upshift_rpm_min": 1800,
        },
    }


def compute(browser: Browser) -> None:
    """The endpoint against the bare function and against an endpoint that does nothing."""
    from amber_core import registry
    from benchmarks.clock import line, timed

    stock = [{"thickness_mm": round(0.3 + 0.05 * k, 3), "count": 4} for k in range(34)]
    questions = {
        "gearset.identify": {"pinion_teeth": 10, "ring_teeth": 41},
        "shims.pick": {"target_mm": 4.57, "tolerance_mm": 0.01, "stock": stock, "max_pieces": 6},
        "contact.simulate": {
            "set": {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0, "offset_mm": 30.0},
            "pinion_mm": 0.1,
            "ring_mm": -0.05,
        },
        "ratio.choose": _two_thousand_pairs(),
        "gearset.geometry": {"ring_teeth": 41, "pinion_teeth": 11, "ring_outer_diameter_mm": 215.0, "offset_mm": 30.0},
    }
    empty = timed("empty endpoint, POST", lambda: browser.call("POST", "/bench/empty", {}), times=200)
    print("Compute endpoint\n" + line(empty))
    for name, question in questions.items():
        bare = timed(f"{name}, bare function", lambda: registry.run(name, question), times=60)  # noqa: B023
        endpoint = timed(f"{name}, endpoint", lambda: browser.call("POST", f"/api/v1/compute/{name}", question), times=100)  # noqa: B023
        print(line(bare) + "\n" + line(endpoint, bare, empty))


_OF_NO_VECTOR: dict[str, dict[str, Any]] = {
    "endplay.shims": {
        "stack_mm": 1.2,
        "school": "free_play",
        "shim_effect": "adds_play",
        "window": {"min": 0.02, "max": 0.08},
        "end_play_mm": 0.3,
        "stock": [{"thickness_mm": round(0.1 * k, 2), "count": 3} for k in range(1, 9)],
    },
    "runout.assess": {"readings": [{"angle_deg": 45.0 * k, "value_mm": 0.01 * (k % 3)} for k in range(8)], "max_tir_mm": 0.05},
}
"""Tools of the Diff bench that no open case asks."""


def bench_tools(browser: Browser) -> None:
    """Every computation of the Diff bench over HTTP against an endpoint that does nothing."""
    from benchmarks.clock import beside, line, timed

    vectors = Path(__file__).parents[1] / "core/tests/vectors"
    cases = [case for name in ("bench", "workshop") for case in json.loads((vectors / f"{name}.json").read_text(encoding="utf-8"))["cases"]]
    questions = {one["name"]: one["inputs"] for one in reversed(cases) if "error" not in one} | _OF_NO_VECTOR
    nothing = lambda: browser.call("POST", "/bench/empty", {})  # noqa: E731
    empty = timed("empty endpoint, POST", nothing, times=200)
    print("Diff bench\n" + line(empty))
    for name, question in sorted(questions.items()):
        print(beside(name, lambda: browser.call("POST", f"/api/v1/compute/{name}", question), empty, nothing, times=100))  # noqa: B023
    typed = {"tool": "half_shaft", "values": {"gap_now_mm": "4.9 mm", "gap_before_mm": "2.0 mm"}}
    print(beside("a tool as it is typed", lambda: browser.call("POST", "/api/v1/diff-work", typed), empty, nothing, times=100))


def floor(browser: Browser) -> None:
    """The Floor's list with many jobs against an endpoint that does nothing."""
    from benchmarks.clock import beside, line, timed
    from jobs.models import Job
    from setup_bench.models import Reading

    print(f"Floor with {Job.objects.count():,} jobs and {Reading.objects.count():,} readings")
    nothing = lambda: browser.call("GET", "/bench/empty")  # noqa: E731
    empty = timed("empty endpoint, GET", nothing, times=200)
    print(line(empty))
    for name, query in {
        "first page": "",
        "one state": "?state=in_work",
        "page 20": "?page=20",
        "search, a hit": "?search=Vehicle%2049999",
        "search, no hit": "?search=nowhere",
    }.items():
        print(beside(f"Floor, {name}", lambda: browser.call("GET", f"/api/v1/floor{query}"), empty, nothing, times=60))  # noqa: B023


def whole_jobs(browser: Browser) -> None:
    """What runs today, a vehicle's page, and the run sheet of the longest kind, against an endpoint that does nothing."""
    from amber_core.procedures.kinds import KINDS
    from benchmarks.clock import beside, timed
    from jobs.models import Job

    longest = max(KINDS.values(), key=lambda one: len(one.steps))
    work = str(uuid.uuid4())
    card = {"customer": "Bench", "vehicle": "Bench", "layout": "rear_drive", "complaint": "Howl", "use": "road"}
    first = {"kind": longest.code, "place": "rear_axle", "family": "corrie-ls19"}
    browser.call("POST", "/api/v1/jobs", {"client_id": str(uuid.uuid4()), "id": work, **card, **first})
    vehicle = Job.objects.order_by("number").values_list("vehicle_id", flat=True)[25_000]
    nothing = lambda: browser.call("GET", "/bench/empty")  # noqa: E731
    empty = timed("empty endpoint, GET", nothing, times=200)
    print(f"Whole jobs; the longest kind is {longest.title.lower()} with {len(longest.steps)} steps")
    for name, path in {
        "what runs and is due today": "/floor/today",
        "vehicle": f"/vehicles/{vehicle}",
        "vehicle, its visits": f"/vehicles/{vehicle}/visits",
        "run sheet of the longest kind": f"/work/{work}",
        "job": f"/jobs/{work}",
    }.items():
        print(beside(name, lambda: browser.call("GET", f"/api/v1{path}"), empty, nothing, times=60))  # noqa: B023


def parts_wall(browser: Browser) -> None:
    """A wall of 150 parts and 200 pictures, against an endpoint that does nothing but send as many bytes."""
    from django.db.models import F

    from benchmarks.clock import beside, line, timed
    from parts_wall.models import Act, PartPhoto, PartRecord, PhoneQueue
    from parts_wall.wall import find_wall
    from work.models import Work

    work = uuid.uuid4()
    card = {"customer": "Bench", "vehicle": "Bench", "layout": "rear_drive", "complaint": "Howl", "use": "road"}
    first = {"kind": "strip_and_report", "place": "rear_axle", "family": "corrie-ls19"}
    browser.call("POST", "/api/v1/jobs", {"client_id": str(uuid.uuid4()), "id": str(work), **card, **first})
    of, places = {"work": Work.objects.get(pk=work), "by_name": "Bench"}, list(find_wall(work).assembly.places)
    keys = [*places, *(f"own_{number:04d}" for number in range(150 - len(places)))][:150]
    PartRecord.objects.bulk_create(PartRecord(key=key, act=Act.OFF, name="Part" if key.startswith("own_") else "", **of) for key in keys)
    PartRecord.objects.bulk_create(PartRecord(key=key, act=Act.LOOK, decision="good", **of) for key in keys[:100])
    PartPhoto.objects.bulk_create(
        PartPhoto(key=keys[number % 150], content=b"x" * 200_000, small=b"x" * 12_000, **of) for number in range(200)
    )
    path = f"/api/v1/work/{work}/parts"
    browser.call("GET", path)
    print(f"Parts wall with {len(keys)} parts and 200 pictures, {len(browser.text):,} bytes")
    sent = len(browser.text)
    nothing = lambda: browser.call("GET", f"/bench/bytes?count={sent}")  # noqa: E731
    empty = timed("as many bytes and nothing else", nothing, times=200)
    print(line(empty))
    print(beside("wall", lambda: browser.call("GET", path), empty, nothing, times=60))
    phone = PhoneQueue.objects.create(work=of["work"], device="bench", person_name="Bench", waiting=0)

    def changed() -> None:
        PhoneQueue.objects.filter(pk=phone.pk).update(waiting=F("waiting") + 1)
        browser.call("GET", path)

    print(beside("wall, just changed", changed, empty, nothing, times=60))
    photo = PartPhoto.objects.filter(work=work).first()
    small = f"/api/v1/part-photos/{photo.client_id}/small" if photo else path
    print(beside("a small picture", lambda: browser.call("GET", small), empty, nothing, times=60))
    body = {"key": keys[3], "replaces": None, "sure": True}
    before = str(PartRecord.objects.get(work=work, key=keys[3], act=Act.OFF).client_id)
    browser.call("POST", f"{path}/undo", {"client_id": str(uuid.uuid4()), "record": before})

    def off() -> None:
        client_id = str(uuid.uuid4())
        browser.call("POST", f"{path}/off", {"client_id": client_id, **body})
        browser.call("POST", f"{path}/undo", {"client_id": str(uuid.uuid4()), "record": client_id})

    print(beside("a part off and undone again", off, empty, nothing, times=20, warm=2))


def set_up_bench(browser: Browser) -> None:
    """A bench with eight trials: what a reading takes, and what opening it takes."""
    from django.utils import timezone

    from benchmarks.clock import beside, line, timed
    from work.models import Work

    places = range(8)
    work = str(uuid.uuid4())

    def write(path: str, **body: Any) -> Any:
        browser.call("POST", f"/api/v1{path}", {"client_id": str(uuid.uuid4()), **body})
        return json.loads(browser.text)

    card = {"customer": "Bench", "vehicle": "Bench", "layout": "rear_drive", "axle": "rear", "family": "corrie-ls19"}
    write("/jobs", id=work, complaint="Howl", use="road", **card)
    write(f"/work/{work}/gear-set", pinion_teeth=10, ring_teeth=41)
    for number in range(8):
        depth = {} if number else {"depth": "0.80 mm"}
        bench = write(f"/work/{work}/trials", after=number, ring_side=f"{4.6 + 0.01 * number:.2f} mm", far_side="4.50 mm", **depth)
        trial = bench["trials"][-1]["id"]
        write(f"/trials/{trial}/conditions")
        for place in places:
            write(f"/trials/{trial}/readings", angle_deg=45.0 * place, typed=f"0.{14 + place % 4} mm")
        for flank in ("drive", "coast"):
            write(f"/trials/{trial}/patterns", flank=flank, u=0.48, v=0.5, length=0.5, height=0.45, tilt_deg=10.0)
    print("Set-up bench with 8 trials, each with 8 readings and both patterns")
    nothing = lambda: browser.call("POST", "/bench/empty", {})  # noqa: E731
    empty = timed("empty endpoint, POST", nothing, times=200)
    print(line(empty))
    turn = iter(range(10_000))
    reading = lambda: write(f"/trials/{trial}/readings", angle_deg=45.0 * (next(turn) % 8), typed="0.15 mm")  # noqa: E731
    print(beside("opening the bench", lambda: browser.call("GET", f"/api/v1/work/{work}/bench"), empty, nothing, times=60))

    def changed() -> None:
        Work.objects.filter(pk=work).update(updated_at=timezone.now())
        browser.call("GET", f"/api/v1/work/{work}/bench")

    print(beside("opening it, just changed", changed, empty, nothing, times=60))
    print(beside("a reading", reading, empty, nothing, times=40, warm=5))


def first_load(browser: Browser) -> None:
    """Bytes over the wire until the sign-in page stands, compressed."""
    accept = {"Accept-Encoding": "br, gzip"}
    sizes: dict[str, int] = {}

    def fetch(path: str, kind: str) -> str:
        reply = browser.call("GET", path, **accept)
        sizes[kind] = sizes.get(kind, 0) + int(reply.headers.get("Content-Length") or len(browser.text))
        plain = browser.call("GET", path, **{"Accept-Encoding": "identity"})
        assert plain.status == 200
        return browser.text.decode("utf-8", "replace")

    page = fetch("/", "page")
    for path in re.findall(r'(?:src|href)="(/assets/[^"]+\.js)"', page):
        fetch(path, "scripts")
    for path in re.findall(r'href="(/assets/[^"]+\.css)"', page):
        sheet = fetch(path, "styles")
        for font in re.findall(r"url\(([^)]*-latin-wght-normal[^)]*\.woff2)\)", sheet):
            fetch(font if font.startswith("/") else f"/assets/{font.rsplit('/', 1)[1]}", "fonts")
    print("First load, bytes as sent")
    for kind, size in sizes.items():
        print(f"  {kind:<10} {size:>9,}")
    print(f"  {'together':<10} {sum(sizes.values()):>9,}")


def main(port: int) -> None:
    """All of it."""
    django.setup()
    from accounts import demo as people

    browser = Browser(port)
    browser.sign_in(people.PASSWORD)
    compute(browser)
    bench_tools(browser)
    floor(browser)
    whole_jobs(browser)
    set_up_bench(browser)
    parts_wall(browser)
    first_load(browser)


if __name__ == "__main__":
    if sys.argv[1] == "fill":
        django.setup()
        from benchmarks.many_jobs import fill

        fill()
    else:
        main(int(sys.argv[1]))
