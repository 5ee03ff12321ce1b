"""Pictures that people send: looked at by a decoder within limits, never believed by their first bytes."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

from django.conf import settings
from django.http import HttpResponse
from PIL import Image, ImageOps, UnidentifiedImageError

from amber_core.words import say
from shared.refusals import Refusal, TooLarge

LARGEST_BYTES = settings.LARGEST_PHOTO_BYTES
LARGEST_CAMERA_BYTES = settings.LARGEST_CAMERA_BYTES
MOST_PIXELS = 40_000_000
LONGEST_SIDE = 12_000
_PHONE_KINDS = (b"heic", b"heix", b"mif1", b"msf1", b"hevc", b"avif")
_KINDS = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}


@dataclass(frozen=True)
class Picture:
    """The bytes as they are kept, without where and on what device it was taken, and what they are."""

    content: bytes
    media_type: str


@dataclass(frozen=True)
class Shrunk:
    """A picture as JPEG, no larger than a screen needs, and a small one of it."""

    content: bytes
    small: bytes


KEPT_SIDE, SMALL_SIDE = 2048, 320


def shrunk_picture(content: bytes, field: str = "file") -> Shrunk:
    """A picture straight from a camera, encoded again: upright, without what the camera wrote beside it, and small as well.

    Raises
    ------
    TooLarge, Refusal
        As `picture_in`, up to LARGEST_CAMERA_BYTES.
    """
    picture = picture_in(content, field, most_bytes=LARGEST_CAMERA_BYTES)
    with Image.open(io.BytesIO(picture.content)) as found:
        flat = Image.new("RGB", found.size, "white")
        flat.paste(found, mask=found.convert("RGBA").getchannel("A") if found.mode in ("RGBA", "LA", "P") else None)
        return Shrunk(content=_jpeg(flat, KEPT_SIDE, 86), small=_jpeg(flat, SMALL_SIDE, 75))


def _jpeg(found: Image.Image, side: int, quality: int) -> bytes:
    made, out = found.copy(), io.BytesIO()
    made.thumbnail((side, side))
    made.save(out, "JPEG", quality=quality, optimize=True)
    return out.getvalue()


def picture_in(content: bytes, field: str = "photo", *, most_bytes: int = LARGEST_BYTES) -> Picture:
    """A picture that a decoder can read.

    Raises
    ------
    TooLarge, Refusal
        When it is no picture, a damaged one, or a very large one; nothing is decoded before its size is known to be sane.
    """
    if len(content) > most_bytes:
        text = say("The photo is {size:.0f} MB; the most is {most:.0f} MB.", size=len(content) / 2**20, most=most_bytes / 2**20)
        raise TooLarge(text, code="too_large", field=field)
    if content[4:8] == b"ftyp" and content[8:12] in _PHONE_KINDS:
        text = say("This is a HEIC picture, which cannot be read here. Set the phone's camera to JPEG (most compatible) and take it again.")
        raise Refusal(text, field=field)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(content), formats=list(_KINDS)) as found:
                width, height = found.size
                kind = found.format
                if max(width, height) > LONGEST_SIDE or width * height > MOST_PIXELS:
                    text = say(
                        "The photo has {width} x {height} pixels; the most is {most} million.",
                        width=width,
                        height=height,
                        most=MOST_PIXELS // 1_000_000,
                    )
                    raise TooLarge(text, code="too_large", field=field)
                found.load()
                if not _whole(content, str(kind)):
                    raise EOFError
                if found.getexif():
                    content = _bare(found, str(kind))
    except (UnidentifiedImageError, Image.DecompressionBombError, Image.DecompressionBombWarning):
        raise Refusal(say("This file is not a picture. Use a JPEG, PNG or WebP."), field=field) from None
    except (OSError, ValueError, SyntaxError, EOFError, MemoryError):
        raise Refusal(say("This picture is cut off or damaged. Take it again."), field=field) from None
    return Picture(content=content, media_type=_KINDS[str(kind)])


def kept_picture(content: bytes | memoryview, media_type: str) -> HttpResponse:
    """A kept picture as an answer; it never changes."""
    headers = {"Cache-Control": "private, max-age=31536000, immutable", "X-Content-Type-Options": "nosniff"}
    return HttpResponse(bytes(content), content_type=media_type, headers=headers)


def _bare(found: Image.Image, kind: str) -> bytes:
    """The picture upright and without what the camera wrote beside it."""
    out = io.BytesIO()
    upright = ImageOps.exif_transpose(found)
    upright.info.pop("exif", None)
    upright.save(out, kind, quality=90)
    return out.getvalue()


def _whole(content: bytes, kind: str) -> bool:
    """Whether it has its end: the decoder fills what is missing with grey once anything in this process has told it to."""
    if kind == "WEBP":
        return len(content) >= 8 + int.from_bytes(content[4:8], "little")
    return {"PNG": b"IEND", "JPEG": b"\xff\xd9"}[kind] in content[-4096:]
