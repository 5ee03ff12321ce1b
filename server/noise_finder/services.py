"""Taking a recording in piece by piece, reading it in the background, and keeping a finding on the job."""

from __future__ import annotations

import logging
from collections.abc import Iterable, Iterator
from itertools import islice
from typing import Any
from uuid import UUID

import numpy as np
from django.conf import settings
from django.db import transaction
from django.http import Http404

from accounts import policy
from amber_core import payload
from amber_core.errors import InvalidInput
from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.felt import FeltQuestion, felt
from amber_core.vibration.order_chart import order_chart
from amber_core.vibration.phone_log import LogReader, evenly
from amber_core.words import Said, say, stored
from noise_finder.models import Kind, ReadingState, Recording, RecordingChunk, RecordingReading, Source
from noise_finder.schemas import RecordedInputs, SimulateIn
from noise_finder.work import as_chart, hold_against
from records.writing import Writing
from shared.refusals import Refusal, TooLarge
from shared.scope import within
from work.kept import desk_work, keep_answer, kept_answer, kept_of
from work.models import Area, KeptAnswer, Work
from work.services import open_work

LARGEST_BYTES = settings.LARGEST_RECORDING_BYTES
CHUNK_BYTES = 1024 * 1024
MOST_RECORDINGS = 100
NOT_READ = say("This recording could not be read. Try again, or export it again as CSV and upload that.")
_log = logging.getLogger(__name__)
_HIGHEST_HZ = 800.0
_LINES_AT_ONCE = 20000


@transaction.atomic
def take_in(
    writing: Writing,
    *,
    work_id: UUID,
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
    work = open_work(work_id, writing, "record")
    if work.recordings.count() >= MOST_RECORDINGS:
        raise Refusal(
            say("This work already has {most_recordings} recordings, which is the most.", most_recordings=MOST_RECORDINGS), field="file"
        )
    if size_bytes > LARGEST_BYTES:
        raise TooLarge(
            say("A recording can be 50 MB at most. Record for a shorter time, or at fewer samples a second."),
            code="too_large",
            field="file",
        )
    if size_bytes == 0:
        raise Refusal(say("The file is empty."), field="file")
    recording = Recording.objects.create(
        work=work,
        name=name[:200] or "recording",
        source=source,
        size_bytes=size_bytes,
        from_kmh=from_kmh,
        to_kmh=to_kmh,
        **writing.row(),
    )
    for index, piece in enumerate(pieces):
        RecordingChunk.objects.create(recording=recording, index=index, content=piece)
    RecordingReading.objects.create(recording=recording)
    from noise_finder.tasks import read_recording

    read_recording.defer(recording_id=recording.pk)
    return recording


def simulate(writing: Writing, *, work_id: UUID, given: SimulateIn) -> Recording:
    """A run of the simulated recorder, written as a logger's file and read like one."""
    policy.require(writing.by, "record")
    names = ("drivetrain", "faults", "from_kmh", "to_kmh", "gear_ratio", "seconds", "rate_hz", "speed_error")
    asked = RecorderQuestion(**{name: getattr(given, name) for name in names}, seed=given.client_id.int % 2**32)
    pieces = list(_bundled(csv_lines(record(asked))))
    name = f"simulated: {', '.join(one.replace('_', ' ') for one in given.faults)}"
    return take_in(
        writing,
        work_id=work_id,
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
        mine.update(state=ReadingState.FAILED, error=wrong.message.as_text())
        return
    except Exception:  # whatever a strange file brings about, the person is told, and may have it read again
        _log.exception("Recording %s was not read", recording_id)
        mine.update(state=ReadingState.FAILED, error=NOT_READ.as_text())
        return
    mine.update(state=ReadingState.DONE, bytes_read=recording.size_bytes, notes=stored(notes), chart=chart)


def _read(recording: Recording, told: Any) -> tuple[list[Said], dict[str, Any]]:
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
        low, high = recording.from_kmh, recording.to_kmh
        notes.append(
            say("The file has no road speed; it was taken as a steady {speed:kmh0}, as entered.", speed=low)
            if steady
            else say(
                "The file has no road speed; it was taken as rising evenly from {low:kmh0-} to {high:kmh0}, as entered.", low=low, high=high
            )
        )
    else:
        time, speed = log.time_s, log.speed_kmh
        notes.append(say("Road speed from the file: {low:kmh0-} to {high:kmh0}.", low=float(speed.min()), high=float(speed.max())))
    return notes, payload.plain(order_chart(samples, rate, time, speed, most_hz=_HIGHEST_HZ))


def recording_by_id(recording_id: UUID) -> Recording:
    """A recording with how far it was read.

    Raises
    ------
    Http404
        When there is none.
    """
    found: Recording | None = within(Recording.objects.select_related("reading"), "work__job__shop").filter(client_id=recording_id).first()
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
        error = recording.reading.error
        raise Refusal(Said.of(error) if error else say("This recording is still being read."), code="not_read", field="recording")
    return hold_against(as_chart(recording.reading.chart), given)


@transaction.atomic
def keep_finding(writing: Writing, *, work_id: UUID, title: str, asked: FeltQuestion | None, recorded: RecordedInputs | None) -> KeptAnswer:
    """Keep what was felt or recorded with what came out.

    Raises
    ------
    Refusal, InvalidInput
        When it is neither or both, or the recording is not this work's.
    """
    work = open_work(work_id, writing, "edit_job")
    if (asked is None) == (recorded is None):
        raise Refusal(say("Save either what was felt or what was recorded."), field="felt")
    if asked is not None:
        return keep_answer(work, writing, Area.NOISE, about=Kind.FELT, title=title, inputs=asked, answer=felt(asked))
    assert recorded is not None
    if recording_by_id(recorded.recording).work_id != work.pk:
        raise Refusal(say("This recording belongs to another job."), field="recorded.recording")
    return keep_answer(work, writing, Area.NOISE, about=Kind.RECORDED, title=title, inputs=recorded, answer=work_out(recorded))


def finding_by_id(finding_id: UUID) -> KeptAnswer:
    """A kept finding.

    Raises
    ------
    Http404
        When there is none.
    """
    return kept_answer(finding_id, Area.NOISE)


def finder_work(work_id: UUID) -> Work:
    """The work with all that the finder shows, in a fixed number of queries.

    Raises
    ------
    Http404
        When there is none.
    """
    return desk_work(work_id, kept_of(Area.NOISE), "recordings__reading")


@transaction.atomic
def read_again(writing: Writing, *, recording_id: UUID) -> Recording:
    """Begin a reading again that failed, or that nobody seems to be at.

    Raises
    ------
    Refusal
        When it was read, or is waiting to be.
    """
    policy.require(writing.by, "record")
    recording = recording_by_id(recording_id)
    open_work(recording.work_id, writing, "record")
    reading = RecordingReading.objects.select_for_update().get(recording=recording)
    if reading.state not in (ReadingState.FAILED, ReadingState.READING):
        raise Refusal(say("This recording has been read, or is waiting to be read."), field="recording")
    reading.state, reading.error, reading.bytes_read = ReadingState.QUEUED, "", 0
    reading.save(update_fields=["state", "error", "bytes_read"])
    from noise_finder.tasks import read_recording

    read_recording.defer(recording_id=recording.pk)
    return recording
