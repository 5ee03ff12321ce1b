"""./amber hostile: thousands of requests made from the published schema, asked of a live server by every role, and bad files.

Asked for: no answer of 500, none outside the shape of an error, none slower than 10 s, nothing stored by what is refused, memory bounded.
"""

from __future__ import annotations

import io
import os
import struct
import sys
import time
import zipfile
import zlib
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import django

_SLOWEST_S = 10.0
_LOOK_EVERY = 25
_MOST_MEMORY_MB = 1500


def main(arguments: list[str]) -> int:
    """Ask, then print what was found; 1 when anything was."""
    port, master, wanted = int(arguments[0]), int(arguments[1]), int(arguments[2])
    django.setup()
    from accounts import demo
    from test_support.generated import cases, operations

    sessions = [(None, _session(port, None)), *((one.role, _session(port, one.username)) for one in demo.PEOPLE if one.username != "tam")]
    known, every = _known(), operations()
    each = max(1, -(-wanted // len(every)))
    counts: Counter[str] = Counter()
    found: list[str] = []
    slowest, began, most_memory = (0.0, ""), time.monotonic(), 0.0
    asked = 0
    for number, operation in enumerate(every):
        for turn, case in enumerate(cases(operation, most=each, number=1000 + number, known=known)):
            role, session = sessions[(number + turn) % len(sessions)] if turn % 2 else sessions[3]
            asked += 1
            watched = case.method != "GET" and asked % _LOOK_EVERY == 0
            before = _tally() if watched else None
            status, took, wrong = _ask(session, port, case)
            counts[f"{status // 100}xx"] += 1
            if took > slowest[0]:
                slowest = (took, f"{case.method} {case.path}")
            if wrong or took > _SLOWEST_S:
                found.append(f"{role}: {case.method} {case.formatted_path}: {wrong or f'{took:.1f} s'}: {str(case.body)[:200]}")
            if watched and status >= 400 and _tally() != before:
                found.append(f"{role}: {case.method} {case.formatted_path} was refused ({status}) and stored something")
            if asked % 500 == 0:
                most_memory = max(most_memory, memory_mb(master))
                print(f"  {asked} asked, {len(found)} found, {most_memory:.0f} MB", file=sys.stderr, flush=True)
    files = list(_bad_files(port, sessions[1][1], known, found))
    most_memory = max(most_memory, memory_mb(master))
    if most_memory > _MOST_MEMORY_MB:
        found.append(f"the web server took {most_memory:.0f} MB")
    print(f"{asked} requests of {len(every)} operations, {len(files)} bad files, in {time.monotonic() - began:.0f} s")
    print(f"answers: {', '.join(f'{name} {count}' for name, count in sorted(counts.items()))}")
    print(f"slowest {slowest[0]:.2f} s ({slowest[1]}); web server at most {most_memory:.0f} MB")
    for line in found[:40]:
        print(f"  FOUND {line}")
    print(f"{len(found)} found")
    return int(bool(found))


def _session(port: int, username: str | None) -> Any:
    import requests

    from accounts import demo

    session = requests.Session()
    there = f"http://127.0.0.1:{port}/api/v1"
    session.get(f"{there}/csrf", timeout=30)
    if username is not None:
        body = {"username": username, "password": demo.PASSWORD}
        session.post(f"{there}/sign-in", json=body, headers=_token(session), timeout=30).raise_for_status()
    return session


def _token(session: Any) -> dict[str, str]:
    return {"X-CSRFToken": session.cookies.get("csrftoken", "")}


def _ask(session: Any, port: int, case: Any) -> tuple[int, float, str | None]:
    from test_support.generated import wrong_with

    sent = case.as_transport_kwargs(base_url=f"http://127.0.0.1:{port}")
    sent.pop("cookies", None)
    sent["headers"] = {**dict(sent.get("headers") or {}), **_token(session)}
    began = time.monotonic()
    try:
        reply = session.request(**sent, timeout=60, allow_redirects=False)
    except (OSError, ValueError) as wrong:  # requests' own: a header or address that cannot be sent at all
        refused = "Invalid" in type(wrong).__name__ or isinstance(wrong, UnicodeError)
        return 0, 0.0, None if refused else f"no answer: {wrong}"
    took = time.monotonic() - began
    return reply.status_code, took, wrong_with(reply.status_code, reply.headers.get("Content-Type", ""), reply.content)


def _known() -> dict[str, list[str]]:
    """Real ids for the parameters of paths."""
    from jobs.models import Job
    from noise_finder.models import Recording
    from setup_bench.models import Reading, Trial
    from stores.models import AxleFamily
    from vehicles.models import Vehicle
    from work.models import KeptAnswer, Work

    def ids(model: Any) -> list[str]:
        return [str(one) for one in model.objects.order_by("pk").values_list("pk", flat=True)[:60]]

    results = [str(one) for one in KeptAnswer.objects.values_list("client_id", flat=True)[:60]]
    return {
        "job_id": ids(Job),
        "work_id": ids(Work),
        "vehicle_id": ids(Vehicle),
        "trial_id": [str(one) for one in Trial.objects.values_list("client_id", flat=True)[:60]],
        "reading_id": [str(one) for one in Reading.objects.values_list("client_id", flat=True)[:60]],
        "recording_id": [str(one) for one in Recording.objects.values_list("client_id", flat=True)[:20]],
        "result_id": results,
        "finding_id": results,
        "code": [*AxleFamily.objects.values_list("code", flat=True)[:5], "complaint", "drain_oil", "final_reading"],
    }


def _tally() -> dict[str, list[Any]]:
    from whole_workshop.tally import tally

    return tally()


def memory_mb(master: int) -> float:
    """Resident memory of a process and all it started."""
    children = {}
    for place in Path("/proc").glob("[0-9]*/stat"):
        try:
            parts = place.read_text().rsplit(")", 1)[1].split()
            children.setdefault(int(parts[1]), []).append(int(place.parent.name))
        except (OSError, IndexError):
            continue
    family, total = [master], 0
    while family:
        one = family.pop()
        family += children.get(one, [])
        try:
            total += int(Path(f"/proc/{one}/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE")
        except (OSError, IndexError):
            continue
    return total / 2**20


def _bad_files(port: int, session: Any, known: dict[str, list[str]], found: list[str]) -> Iterator[str]:
    """Bombs, pieces, scripts and odd names at every address that takes a file."""
    import uuid

    from test_support.generated import wrong_with

    places = ["/import", f"/work/{known['work_id'][0]}/recordings", f"/work/{known['work_id'][0]}/parts/photos"]
    places += ["/stores/gearboxes/import", "/stores/sheets/import", f"/trials/{known['trial_id'][0]}/photos"]
    fields = {"key": "cover", "flank": "drive", "from_kmh": "60", "to_kmh": "90"}
    for place in places:
        for name, content in _contents():
            before, began = _tally(), time.monotonic()
            try:
                reply = session.post(
                    f"http://127.0.0.1:{port}/api/v1{place}",
                    data={"client_id": str(uuid.uuid4()), **fields},
                    files={"file": (name, content)},
                    headers=_token(session),
                    timeout=120,
                )
            except OSError as cut:  # refused while it was still being sent
                if "Broken pipe" not in str(cut) and "reset" not in str(cut):
                    found.append(f"{place} {name}: {cut}")
                continue
            took = time.monotonic() - began
            wrong = wrong_with(reply.status_code, reply.headers.get("Content-Type", ""), reply.content)
            if wrong or took > _SLOWEST_S:
                found.append(f"{place} {name}: {wrong or f'{took:.1f} s'}")
            if reply.status_code >= 400 and _tally() != before:
                found.append(f"{place} {name} was refused ({reply.status_code}) and stored something")
            yield name


def _contents() -> Iterator[tuple[str, bytes]]:
    zipped = io.BytesIO()
    with zipfile.ZipFile(zipped, "w", zipfile.ZIP_DEFLATED) as bomb:
        bomb.writestr("job.json", b"0" * 200_000_000)
    escaping = io.BytesIO()
    with zipfile.ZipFile(escaping, "w") as other:
        other.writestr("../../../../tmp/escaped.json", b"{}")
        other.writestr("/etc/passwd", b"x")
    yield "bomb.zip", zipped.getvalue()
    yield "escaping.zip", escaping.getvalue()
    yield "cut.zip", zipped.getvalue()[:1000]
    yield "huge.png", _huge_png()
    yield "deep.json", b"[" * 2_000_000
    yield "deep-objects.json", b'{"a":' * 300_000
    yield "numbers.json", b'{"version": ' + b"9" * 1_000_000 + b"}"
    yield "nan.json", b'{"format": NaN, "version": 1e999}'
    yield "half.json", b'{"format": "amber-pinion.job", "version": 7, "job": {'
    yield "script.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
    yield "../../etc/cron.d/evil.csv", b"code,name\n=cmd|' /C calc'!A0,x\n"
    yield 'quoted".csv', b'code,name\n"' + b"x" * 300_000
    yield "commas.csv", b"," * 3_000_000
    yield "lines.csv", b"\n" * 2_000_000
    yield "zeros.csv", b"\0" * 1_000_000
    yield "large.bin", b"x" * 60_000_000
    yield "empty", b""


def _huge_png() -> bytes:
    """60,000 pixels each way, in few bytes."""

    def chunk(kind: bytes, content: bytes) -> bytes:
        return struct.pack(">I", len(content)) + kind + content + struct.pack(">I", zlib.crc32(kind + content))

    header = struct.pack(">IIBBBBB", 60000, 60000, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"\0" * 100_000)) + chunk(b"IEND", b"")


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
