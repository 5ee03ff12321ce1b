"""Taking a recording in piece by piece, reading it in the background, and keeping a finding on the job."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import islice
from typing import Any
from uuid import UUID

import numpy as np
from django.db import transaction
from django.http import Http404

import amber_core
from accounts import policy
from accounts.models import User
from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.felt import FeltQuestion, felt
from amber_core.vibration.order_chart import order_chart
from amber_core.vibration.phone_log import LogReader, evenly
from jobs.models import Job
from jobs.services import open_job
from noise_finder.models import Kind, NoiseFinding, ReadingState, Recording, RecordingChunk, RecordingReading, Source
from noise_finder.schemas import RecordedInputs, SimulateIn
from noise_finder.work import as_chart, hold_against
from shared.refusals import Refusal, TooLarge

LARGEST_BYTES = 50 * 1024 * 1024
CHUNK_BYTES = 1024 * 1024
MOST_RECORDINGS = 100
MOST_FINDINGS = 200
_HIGHEST_HZ = 800.0
_LINES_AT_ONCE = 20000


@transaction.atomic
def take_in(
    *,
    by: User,
    job_id: UUID,
    client_id: UUID,
    name: str,
    source: str,
    size_bytes: int,
    pieces: Iterable[bytes],
    from_kmh: float,
    to_kmh: float,
) -> Recording:
    """Store a recording as it comes, and have it read in the background.

    Raises
    ------
    Refusal, TooLarge
        When it is empty or over 50 MB; nothing is kept then.
    """
    job = open_job(job_id, by, "record")
    kept: Recording | None = Recording.objects.filter(client_id=client_id).first()
    if kept is not None:
        return kept
    if job.recordings.count() >= MOST_RECORDINGS:
        raise Refusal(f"This job keeps {MOST_RECORDINGS} recordings already.", field="file")
    if size_bytes > LARGEST_BYTES:
        raise TooLarge("A recording may have 50 MB: record less long, or at fewer samples a second.", code="too_large", field="file")
    if size_bytes == 0:
        raise Refusal("The file is empty.", field="file")
    recording = Recording.objects.create(
        client_id=client_id,
        job=job,
        by=by,
        by_name=str(by),
        name=name[:200] or "recording",
        source=source,
        size_bytes=size_bytes,
        from_kmh=from_kmh,
        to_kmh=to_kmh,
    )
    for index, piece in enumerate(pieces):
        RecordingChunk.objects.create(recording=recording, index=index, content=piece)
    RecordingReading.objects.create(recording=recording)
    from noise_finder.tasks import read_recording

    read_recording.defer(recording_id=recording.pk)
    return recording


def simulate(*, by: User, job_id: UUID, given: SimulateIn) -> Recording:
    """A run of the simulated recorder, written as a logger's file and read like one."""
    policy.require(by, "record")
    names = ("drivetrain", "faults", "from_kmh", "to_kmh", "gear_ratio", "seconds", "rate_hz", "speed_error")
    asked = RecorderQuestion(**{name: getattr(given, name) for name in names}, seed=given.client_id.int % 2**32)
    pieces = list(_bundled(csv_lines(record(asked))))
    name = f"simulated: {', '.join(one.replace('_', ' ') for one in given.faults)}"
    return take_in(
        by=by,
        job_id=job_id,
        client_id=given.client_id,
        name=name,
        source=Source.SIMULATED,
        size_bytes=sum(map(len, pieces)),
        pieces=pieces,
        from_kmh=given.from_kmh,
        to_kmh=given.to_kmh,
    )


def _bundled(lines: Iterator[str]) -> Iterator[bytes]:
    while bundle := "".join(islice(lines, _LINES_AT_ONCE)):
        yield bundle.encode()


def read_in(recording_id: int) -> None:
    """Read a recording piece by piece and keep its order chart; an interrupted reading begins anew."""
    recording = Recording.objects.get(pk=recording_id)
    mine = RecordingReading.objects.filter(recording=recording)
    if mine.filter(state__in=[ReadingState.DONE, ReadingState.FAILED]).exists():
        return
    mine.update(state=ReadingState.READING, bytes_read=0)
    try:
        notes, chart = _read(recording, lambda count: mine.update(bytes_read=count))
    except InvalidInput as wrong:
        mine.update(state=ReadingState.FAILED, error=wrong.message[:500])
        return
    mine.update(state=ReadingState.DONE, bytes_read=recording.size_bytes, notes=notes, chart=chart)


def _read(recording: Recording, told: Any) -> tuple[list[str], dict[str, Any]]:
    reader, count = LogReader(), 0
    for content in recording.chunks.values_list("content", flat=True).iterator(chunk_size=4):
        reader.feed(bytes(content))
        count += len(content)
        told(count)
    log = reader.finish()
    samples, rate = evenly(log)
    notes = list(log.notes)
    if log.speed_kmh is None:
        seconds = float(log.time_s[-1])
        time, speed = np.array([0.0, seconds]), np.array([recording.from_kmh, recording.to_kmh])
        steady = recording.from_kmh == recording.to_kmh
        told_as = f"steadily {recording.from_kmh:.0f}" if steady else f"evenly from {recording.from_kmh:.0f} to {recording.to_kmh:.0f}"
        notes.append(f"The file has no road speed; it was taken as told: {told_as} km/h.")
    else:
        time, speed = log.time_s, log.speed_kmh
        notes.append(f"Road speed from the file: {float(speed.min()):.0f} to {float(speed.max()):.0f} km/h.")
    return notes, payload.plain(order_chart(samples, rate, time, speed, most_hz=_HIGHEST_HZ))


def recording_by_id(recording_id: UUID) -> Recording:
    """A recording with how far it was read.

    Raises
    ------
    Http404
        When there is none.
    """
    found: Recording | None = Recording.objects.select_related("reading").filter(client_id=recording_id).first()
    if found is None:
        raise Http404
    return found


def work_out(given: RecordedInputs) -> Any:
    """A recording held against a drivetrain.

    Raises
    ------
    Refusal
        While it is not read.
    """
    recording = recording_by_id(given.recording)
    if recording.reading.chart is None:
        raise Refusal(recording.reading.error or "This recording is still being read.", code="not_read", field="recording")
    return hold_against(as_chart(recording.reading.chart), given)


@transaction.atomic
def keep_finding(
    *, by: User, job_id: UUID, client_id: UUID, title: str, asked: FeltQuestion | None, recorded: RecordedInputs | None
) -> NoiseFinding:
    """Keep what was felt or recorded with what came out.

    Raises
    ------
    Refusal, InvalidInput
        When it is neither or both, or the recording is not this job's.
    """
    job = open_job(job_id, by, "edit_job")
    kept: NoiseFinding | None = NoiseFinding.objects.filter(client_id=client_id).first()
    if kept is not None:
        return kept
    if (asked is None) == (recorded is None):
        raise Refusal("Keep what was felt or what was recorded, one of them.", field="felt")
    if job.noise_findings.count() >= MOST_FINDINGS:
        raise Refusal(f"This job keeps {MOST_FINDINGS} findings already.", field="title")
    recording = None
    if asked is not None:
        inputs, answer = payload.plain(asked), payload.plain(felt(asked))
    else:
        assert recorded is not None
        recording = recording_by_id(recorded.recording)
        if recording.job_id != job.pk:
            raise Refusal("This recording belongs to another job.", field="recorded.recording")
        inputs, answer = recorded.model_dump(mode="json"), work_out(recorded).model_dump(mode="json")
    return NoiseFinding.objects.create(
        client_id=client_id,
        job=job,
        by=by,
        by_name=str(by),
        title=title,
        kind=Kind.FELT if recording is None else Kind.RECORDED,
        recording=recording,
        inputs=inputs,
        answer=answer,
        engine_version=amber_core.__version__,
    )


def finding_by_id(finding_id: UUID) -> NoiseFinding:
    """A kept finding.

    Raises
    ------
    Http404
        When there is none.
    """
    found: NoiseFinding | None = NoiseFinding.objects.select_related("job", "recording").filter(client_id=finding_id).first()
    if found is None:
        raise Http404
    return found


def finder_job(job_id: UUID) -> Job:
    """The job with all that the finder shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    wanted: tuple[Any, ...] = ("gear_sets", "axle_facts", "recordings__reading", "noise_findings")
    job: Job | None = Job.objects.prefetch_related(*wanted).filter(pk=job_id).first()
    if job is None:
        raise Http404
    return job
