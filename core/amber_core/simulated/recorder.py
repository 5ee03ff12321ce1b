"""A phone on the floor of a vehicle with faults to choose: stands in for a logger."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.ratios.grade import GRAVITY_M_S2
from amber_core.ratios.limits import ratio_ok, speed_ok
from amber_core.vibration.orders import Drivetrain, orders
from amber_core.words import say

Field = npt.NDArray[np.float64]
FAULTS: dict[str, dict[str, float]] = {
    "tyre_balance": {"tyre_1x": 0.5},
    "oval_tyre": {"tyre_1x": 0.15, "tyre_2x": 0.4},
    "prop_balance": {"prop_1x": 0.6},
    "joint_angles": {"prop_2x": 0.5, "prop_1x": 0.08},
    "gear_whine": {"axle_mesh": 0.25},
    "weak_cylinder": {"engine_half": 0.4, "engine_1x": 0.1},
    "engine_mount": {"engine_firing": 0.5},
    "nothing": {},
}
"""What shakes with each fault, peak acceleration at 100 km/h, [m/s^2]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RecorderQuestion:
    """A drivetrain with a fault, a run from one speed to another [km/h] in a gear [-], how long [s], samples a second [Hz], noise
    [m/s^2], by how much the vehicle is faster than its speedometer says [-], and the random seed."""

    drivetrain: Drivetrain
    faults: list[str] = field(default_factory=lambda: ["prop_balance"])
    from_kmh: float = 60.0
    to_kmh: float = 110.0
    gear_ratio: float = 1.0
    seconds: float = 60.0
    rate_hz: float = 200.0
    noise_m_s2: float = 0.15
    speed_error: float = 0.0
    seed: int = 1

    def __post_init__(self) -> None:
        for index, one in enumerate(self.faults):
            if one not in FAULTS:
                raise InvalidInput(f"faults[{index}]", say("Choose from: {join}.", join=", ".join(FAULTS)))
        speed_ok("from_kmh", self.from_kmh)
        speed_ok("to_kmh", self.to_kmh)
        ratio_ok("gear_ratio", self.gear_ratio, 30.0)
        checks.within("seconds", self.seconds, 2.0, 1200.0, say("Recording length must be 2 to 1 200 s."))
        checks.within("rate_hz", self.rate_hz, 20.0, 4000.0, say("Sample rate must be 20 to 4 000 per second."))
        checks.within("noise_m_s2", self.noise_m_s2, 0.0, 50.0, say("Noise must be 0 to 50 m/s2."))
        checks.within("speed_error", self.speed_error, -0.2, 0.2, say("Speedometer error must be less than a fifth."))


@dataclass(frozen=True, slots=True)
class Recorded:
    """Times [s], acceleration (samples, 3) with gravity [m/s^2], and the speed the speedometer shows [km/h]."""

    time_s: Field
    acceleration_m_s2: Field
    shown_kmh: Field


def record(given: RecorderQuestion) -> Recorded:
    """Drive and record.

    Notes
    -----
    Every source is a sine whose phase follows its frequency along the run and whose size grows with the square of speed, as an unbalance
    does; floor noise is white, with some of it below 8 Hz from the road.
    """
    random = np.random.default_rng(given.seed)
    count = int(given.seconds * given.rate_hz)
    time = np.arange(count) / given.rate_hz
    shown = np.linspace(given.from_kmh, given.to_kmh, count)
    true = shown * (1.0 + given.speed_error)
    per_kmh = orders(given.drivetrain.at(100.0, gear_ratio=given.gear_ratio)).frequencies_hz
    shake = np.zeros(count)
    for fault in given.faults:
        for source, size in FAULTS[fault].items():
            if source in per_kmh:
                hz = per_kmh[source] * true / 100.0
                phase = 2.0 * np.pi * np.cumsum(hz) / given.rate_hz + random.uniform(0.0, 2.0 * np.pi)
                # what lies over half the rate would fold back as something else: a phone's filter takes it out
                shake += np.where(hz < 0.45 * given.rate_hz, size * (true / 100.0) ** 2 * np.sin(phase), 0.0)
    road = np.cumsum(random.normal(0.0, 1.0, (count, 3)), axis=0)
    road -= np.array([np.convolve(column, np.ones(64) / 64.0, mode="same") for column in road.T]).T
    noise = given.noise_m_s2 * (random.normal(0.0, 1.0, (count, 3)) + 0.15 * road)
    direction = np.array([0.25, 0.45, 0.86])
    return Recorded(time, noise + shake[:, None] * direction + np.array([0.0, 0.0, GRAVITY_M_S2]), shown)


def csv_lines(recorded: Recorded) -> Iterator[str]:
    """The recording as a logger writes it, line by line."""
    yield "Time (s),Acceleration x (m/s^2),Acceleration y (m/s^2),Acceleration z (m/s^2),Speed (km/h)\n"
    for time, (x, y, z), speed in zip(recorded.time_s, recorded.acceleration_m_s2, recorded.shown_kmh, strict=True):
        yield f"{time:.5f},{x:.5f},{y:.5f},{z:.5f},{speed:.2f}\n"
