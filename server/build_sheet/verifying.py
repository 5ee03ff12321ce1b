"""Whether what was signed still is what was signed: the text against its hash, and against the records."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import amber_core
from amber_core.words import say
from build_sheet.documents import document_of, hash_of_text
from build_sheet.models import SignOffDocument

_RECORDS = (("work", "steps"), ("work", "gear_set"), ("work", "sheet_revision"), ("sheet", "hash"), ("bench", "trials"), ("bench", "start"))
"""What cannot change once work is signed off: what was recorded, and what it was judged by."""


@dataclass(frozen=True)
class Verified:
    """One sign-off: what it is of, whether it holds, and why not."""

    number: int
    title: str
    by_name: str
    holds: bool
    words: str

    def line(self) -> str:
        """For the terminal."""
        return say(
            "{number} {title}, signed by {by_name}: {words}", number=self.number, title=self.title, by_name=self.by_name, words=self.words
        )


def verify() -> Iterator[Verified]:
    """Every sign-off with a document, oldest first."""
    rows = SignOffDocument.objects.select_related("sign_off__work__job", "sign_off__work__assembly", "sign_off__withdrawal")
    for one in rows.order_by("sign_off_id"):
        holds, words = _verdict(one)
        work = one.sign_off.work
        yield Verified(number=work.job.number, title=work.title, by_name=one.sign_off.by_name, holds=holds, words=words)


def _verdict(one: SignOffDocument) -> tuple[bool, str]:
    if hash_of_text(one.text) != one.text_hash:
        return False, say("its text was changed after it was signed")
    signed: dict[str, Any] = json.loads(one.text)
    if one.sign_off.origin == "file":
        return True, say("said by the file, with a matching hash")
    if hasattr(one.sign_off, "withdrawal"):
        return True, say("taken back; its text matches its hash")
    now = document_of(one.sign_off.work_id)
    other = [f"{part} {name}" for part, name in _RECORDS if (signed[part] or {}).get(name) != (now[part] or {}).get(name)]
    made = say("reconstructed") if one.reconstructed else say("as it was signed")
    if not other:
        return True, f"holds, {made}"
    if one.core_version != amber_core.__version__:
        return True, say(
            "holds, {made}; version {version} gives other results: {parts}",
            made=made,
            version=amber_core.__version__,
            parts=", ".join(other),
        )
    return False, say("its records are no longer those that were signed: {parts}", parts=", ".join(other))
