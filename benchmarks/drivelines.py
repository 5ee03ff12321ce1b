"""What `./amber bench driveline` prints: analysis, travel, remedies, spectra and the reading of a recording; no server, no database."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from amber_core import registry
from amber_core.driveline.analyse import AnalyseQuestion, analyse
from amber_core.driveline.kinematics import MotionQuestion, motion
from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.order_chart import order_chart
from amber_core.vibration.orders import Drivetrain
from amber_core.vibration.phone_log import LogReader, evenly
from amber_core.vibration.spectrum import SpectrumQuestion, spectrum
from benchmarks.clock import line, timed

VEHICLE: dict[str, Any] = {
    "output_joint_mm": [0, 0, 0],
    "output_axis": {"side_deg": 4},
    "pinion_joint_mm": [1300, 40, -160],
    "pinion_axis": {"side_deg": 1},
    "axle_centre_mm": [1580, 40, -190],
    "cases": [
        {"name": "ride", "weight": 3},
        {"name": "bump", "dz_mm": 70, "dx_mm": 4, "pitch_deg": -1.2},
        {"name": "droop", "dz_mm": -80, "dx_mm": -3, "pitch_deg": 1.4},
        {"name": "full drive", "wrap_deg": 2},
        {"name": "overrun", "wrap_deg": -1},
    ],
}
TRAVEL: dict[str, Any] = {"vehicle": VEHICLE, "droop_mm": -120, "bump_mm": 90, "pivot_mm": [750, -120], "pitch_ratio": 0.5}
CHAIN: dict[str, Any] = {"members": [[4, 0], [5, 1], [9, -3], [6, 1]], "clock_deg": [0, 11.25], "rpm": 2800, "teeth": 32}


def drivelines() -> None:
    """One turn of a chain against one angle of it; travel with the search for remedies."""
    one = MotionQuestion(joint_angle_deg=[4.5, 7.4, 7.6], plane_angle_deg=[-83, -25], clock_deg=[0, 11], theta_deg=30, rpm=2800)
    bare = timed("driveline.kinematics, one angle", lambda: motion(one), times=200)
    print("Drivelines\n" + line(bare))
    turn = timed("driveline.analyse, 361 angles (wanted under 20)", lambda: analyse(AnalyseQuestion(**CHAIN)), times=200)
    print(line(turn, bare))
    asked = timed("  the same from and to plain JSON", lambda: registry.run("driveline.analyse", CHAIN), times=200)
    print(line(asked, turn))
    swept = timed("driveline.travel, 181 heights", lambda: registry.run("driveline.travel", TRAVEL), times=100)
    print(line(swept, turn))
    for name, free, more in (
        ("wedge", {"wedge_deg": [-6, 8]}, {}),
        ("wedge and clocking", {"wedge_deg": [-6, 8], "clock_deg": {"1": [-45, 45]}}, {"teeth": [32]}),
        ("the same with a plan", {"wedge_deg": [-6, 8], "clock_deg": {"1": [-45, 45]}}, {"teeth": [32], "rpm": 2600}),
    ):
        question = {"vehicle": VEHICLE, "free": free, **more}

        def both(question: dict[str, Any] = question) -> None:
            registry.run("driveline.travel", TRAVEL)
            registry.run("driveline.recommend", question)

        print(line(timed(f"travel and driveline.recommend, {name} (wanted under 300)", both, times=20), swept))


def recordings() -> None:
    """A spectrum of ten minutes against the bare transforms; a file of 50 MB read piece by piece."""
    samples = np.random.default_rng(1).normal(0.0, 1.0, 600_000)
    plain = samples.tolist()
    bare = timed("600 transforms of 1000 samples", lambda: np.fft.rfft(samples.reshape(600, 1000), axis=1), times=20)
    print("Recordings\n" + line(bare))
    ten = timed(
        "vibration.spectrum, ten minutes at 1 kHz (wanted under 1000)",
        lambda: spectrum(SpectrumQuestion(samples=plain, rate_hz=1000.0)),
        times=5,
    )
    print(line(ten, bare))
    whole = timed(
        "  the same from and to plain JSON",
        lambda: registry.run("vibration.spectrum", {"samples": plain, "rate_hz": 1000.0}),
        times=5,
    )
    print(line(whole, ten))
    drive = record(RecorderQuestion(drivetrain=Drivetrain(circumference_m=2.2, axle_ratio=4.1), seconds=1000.0, rate_hz=1200.0))
    text = io.StringIO()
    for one in csv_lines(drive):
        text.write(one)
    content = text.getvalue().encode()
    pieces = [content[at : at + 2**20] for at in range(0, len(content), 2**20)]

    def read() -> None:
        reader = LogReader()
        for piece in pieces:
            reader.feed(piece)
        log = reader.finish()
        even, rate = evenly(log)
        assert log.speed_kmh is not None
        order_chart(even, rate, log.time_s, log.speed_kmh)

    print(line(timed(f"a recording of {len(content) / 1e6:.0f} MB, read and charted", read, times=3), ten))


if __name__ == "__main__":
    drivelines()
    recordings()
