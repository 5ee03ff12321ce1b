"""A job's file with the pictures of its Parts wall: a zip of job.json and pictures/<id>.jpg."""

from __future__ import annotations

import io
import re
import zipfile
from uuid import UUID

from django.conf import settings

from amber_core.words import say
from build_sheet.export import job_file_text
from jobs.models import Job
from parts_wall.models import PartPhoto
from shared.refusals import Refusal, TooLarge

LARGEST_ZIP_BYTES = 5 * settings.LARGEST_IMPORT_BYTES
MOST_ENTRIES = 20 * 400 + 1
_JOB, _PICTURE = "job.json", re.compile(r"pictures/([0-9a-f-]{36})\.jpg")

Pictures = dict[UUID, bytes]


def is_zip(content: bytes) -> bool:
    """Whether a file begins as a zip does."""
    return content[:4] == b"PK\x03\x04"


def zip_of(job: Job) -> bytes:
    """The job's file and its pictures; pictures are JPEG already, and are stored as they are."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as packed:
        packed.writestr(_JOB, job_file_text(job), zipfile.ZIP_DEFLATED)
        for photo in PartPhoto.objects.filter(work__job=job).defer("small").iterator(chunk_size=20):
            packed.writestr(f"pictures/{photo.client_id}.jpg", bytes(photo.content))
    return out.getvalue()


def unpacked(content: bytes) -> tuple[bytes, Pictures]:
    """The job's own file out of what was sent, and the pictures beside it; a file that is no zip is the job's own.

    Raises
    ------
    TooLarge, Refusal
        For a zip that is damaged, holds no job, or would grow beyond what is taken; nothing is unpacked before its size is known.
    """
    if not is_zip(content):
        return content, {}
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            entries = packed.infolist()
            if len(entries) > MOST_ENTRIES or sum(one.file_size for one in entries) > 2 * LARGEST_ZIP_BYTES:
                text = say("This zip would unpack to more than {most:.0f} MB. Nothing was imported.", most=2 * LARGEST_ZIP_BYTES / 2**20)
                raise TooLarge(text, code="too_large")
            named = {one.filename: one for one in entries}
            if _JOB not in named:
                raise Refusal(say("This zip holds no job file. Nothing was imported."), code="other_format")
            pictures = {UUID(found[1]): packed.read(one) for name, one in named.items() if (found := _PICTURE.fullmatch(name))}
            return packed.read(named[_JOB]), pictures
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError, ValueError):
        raise Refusal(say("This zip is cut off or damaged. Nothing was imported."), code="bad_file") from None
