"""The noise finder as the API and its files show it."""

from __future__ import annotations

import csv
import io
from typing import Any

from amber_core.simulated.recorder import FAULTS
from amber_core.vibration.felt import FeltQuestion, FeltTest
from amber_core.vibration.orders import Drivetrain
from amber_core.words import Said, retold, say
from noise_finder.models import Kind, Recording
from noise_finder.schemas import RunIn
from vehicles.models import PLACES, Layout, Place
from work.kept import shown as kept_shown
from work.match import end_known
from work.models import KeptAnswer, Work


def finder_out(work: Work) -> dict[str, Any]:
    """What the finder begins with."""
    job, end = work.job, end_known(work.job, work.axle)
    has_front = Place.FRONT_SHAFT in PLACES[job.vehicle.layout]
    drivetrain = Drivetrain(
        circumference_m=end.circumference_m or 2.2,
        axle_ratio=end.ratio or 4.1,
        pinion_teeth=end.pinion_teeth,
        cylinders=4,
        front_shaft=has_front,
    )
    return {
        "job_id": job.pk,
        "work_id": work.pk,
        "job_number": job.number,
        "vehicle": job.vehicle.name,
        "complaint": job.complaint,
        "four_wheel_drive": job.vehicle.layout == Layout.FOUR,
        "signed_off": work.signed_off_at is not None,
        "circumference_m": end.circumference_m,
        "axle_ratio": end.ratio,
        "pinion_teeth": end.pinion_teeth,
        "faults": list(FAULTS),
        "first": FeltQuestion(drivetrain=drivetrain, tests=[FeltTest(speed_kmh=90.0, gear_ratio=1.0)]),
        "first_run": RunIn(drivetrain=drivetrain, faults=["prop_balance"]),
        "recordings": [recording_out(one) for one in work.recordings.all()],
        "findings": [finding_out(one) for one in work.kept],
    }


def recording_out(one: Recording, *, whole: bool = False) -> dict[str, Any]:
    """A recording and how far it was read; with its chart when `whole`."""
    shown = {name: getattr(one, name) for name in ("name", "source", "size_bytes", "from_kmh", "to_kmh", "by_name", "at")}
    reading = one.reading
    shown |= {
        "id": one.client_id,
        "state": reading.state,
        "share_read": reading.bytes_read / one.size_bytes if one.size_bytes else 0.0,
        "error": reading.error,
        "notes": [Said.of(note) for note in reading.notes],
    }
    return {**shown, "chart": reading.chart} if whole else shown


def finding_out(one: KeptAnswer, *, whole: bool = False) -> dict[str, Any]:
    """A kept finding, with or without what it holds."""
    is_felt = one.about == Kind.FELT
    ranked = one.answer["suspects"] if is_felt else one.answer["sources"]
    shown = {**kept_shown(one), "kind": one.about, "first": Said.of(ranked[0]["words"]) if ranked else say("No peak stands out")}
    if not whole:
        return shown
    return {
        **shown,
        "felt": one.inputs if is_felt else None,
        "recorded": None if is_felt else one.inputs,
        "felt_answer": one.answer if is_felt else None,
        "recorded_answer": None if is_felt else one.answer,
    }


def finding_csv(one: KeptAnswer) -> str:
    """A line for every source, likeliest first; units in the header."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["source", "words", "share", "likelihood", "reason"])
    is_felt, answer = one.about == Kind.FELT, retold(one.answer)
    for row in answer["suspects"] if is_felt else answer["sources"]:
        share, reasons = (row["probability"], " ".join(row["reasons"])) if is_felt else (row["share"], row["reason"])
        writer.writerow([row["name"], row["words"], f"{share:.4f}", row["word"], reasons])
    return out.getvalue()


def spectrum_csv(recording: Recording) -> str:
    """The stretched spectrum of a recording: frequency at the reference speed and peak amplitude."""
    out = io.StringIO()
    writer = csv.writer(out)
    chart = recording.reading.chart or {"frequency_hz": [], "amplitude": [], "reference_kmh": 0.0}
    writer.writerow([f"frequency_hz_at_{chart['reference_kmh']:.1f}_km_h", "peak_amplitude_m_s2"])
    for hz, amplitude in zip(chart["frequency_hz"], chart["amplitude"], strict=True):
        writer.writerow([f"{hz:.3f}", f"{amplitude:.5f}"])
    return out.getvalue()
