"""The build sheet: what is handed over, as a page and as PDF, both from one template and from the work's document alone."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.template.loader import render_to_string

from amber_core.words import retold, say
from build_sheet.documents import document_of, hash_of_text, revived, signed_document
from build_sheet.models import SignOffDocument
from build_sheet.services import why_not
from shared.pdf import pdf_of
from work.models import Work

_VERDICT_WORDS = {"in": say("In"), "edge": say("On the edge"), "out": say("Out"), "unknown": say("Not judged")}
_UNIT_WORDS = {"hundredths_mm": say("hundredths of a millimetre"), "thou": "thou"}


def sheet_context(document: dict[str, Any], signed: SignOffDocument | None = None) -> dict[str, Any]:
    """What the template shows of a document; lengths in mm, beside as-entered values."""
    document = retold(revived(document))
    bench = document["bench"]
    trials = bench["trials"] if bench else []
    final = trials[-1] if trials else None
    for trial in trials:
        for place in ("ring_side", "far_side", "depth", "spacer"):
            if trial[place] is not None:
                trial[f"{place}_said"] = _stack(trial[place])
        for reading in trial["readings"]:
            word = _UNIT_WORDS.get(reading["unit"], reading["unit"])
            bare = reading["typed"].replace(",", "").replace(".", "").isdecimal()
            reading["entered"] = f"{reading['typed']} {word}" if bare else reading["typed"]
    return {
        **document,
        "final": final,
        "earlier": trials[:-1],
        "match": document["job"]["match"],
        "signed": signed,
        "changed": signed is not None and hash_of_text(signed.text) != signed.text_hash,
        "groups": _groups(document["work"]["steps"]),
        "patterns": [(f"{name.capitalize()} side", _pattern(final[name])) for name in ("drive", "coast")] if final else [],
        "torques": [(say("Pinion alone"), final["pinion_torque"]), (say("Total, carrier in"), final["total_torque"])] if final else [],
        "sleeve_end": _sleeve_end(bench["preload"]["sleeve"]) if bench else None,
        "chosen": _chosen(document["work"]),
        "pattern_word": _VERDICT_WORDS[final["pattern_verdict"] if final else "unknown"],
        "verdict_word": _VERDICT_WORDS[final["assessment"]["verdict"] if final and final["assessment"] else "unknown"],
    }


def _stack(pieces: list[dict[str, Any]]) -> str:
    total = sum(piece["thickness_mm"] * piece["count"] for piece in pieces)
    said = ", ".join(f"{piece['count']} × {_shim(piece['thickness_mm'])}" for piece in pieces) or say("no shims")
    return f"{_shim(total)} mm ({said})"


def _pattern(read: dict[str, Any] | None) -> dict[str, Any] | None:
    """A patch as the sheet shows it: the mean of its readings; documents older than means have the last reading alone."""
    if read is None:
        return None
    mean = {"count": 1, **read, **read.get("mean", {})}
    return {**mean, "u_percent": round(100 * mean["u"]), "v_percent": round(100 * mean["v"])}


def _sleeve_end(sleeve: dict[str, Any] | None) -> dict[str, Any] | None:
    """The last step of the sleeve that is in."""
    if sleeve is None or not sleeve["steps"]:
        return None
    return {**sleeve["steps"][-1], "count": len(sleeve["steps"]), "used_up": sleeve["used_up"]}


def _shim(thickness_mm: float) -> str:
    """Two places, or three where the third says something: a shim of 10 thou is 0.254."""
    return f"{thickness_mm:.2f}" if round(1000 * thickness_mm) % 10 == 0 else f"{thickness_mm:.3f}"


def _chosen(work: dict[str, Any]) -> list[dict[str, Any]]:
    """The way that each question was answered with last, in words; documents from before steps had ways name them by code."""
    words = {(step["code"], way["code"]): (step["title"], way["title"]) for step in work["steps"] for way in step.get("ways", [])}
    last = {one["question"]: one for one in work["ways"]}
    return [
        {**one, "title": title, "said": said}
        for one in last.values()
        for title, said in [words.get((one["question"], one["way"]), (one["question"], one["way"]))]
    ]


def _groups(steps: list[dict[str, Any]]) -> list[tuple[str, list[dict[str, Any]]]]:
    groups: dict[str, list[dict[str, Any]]] = {}
    for step in steps:
        groups.setdefault(step["group"], []).append(step)
    return list(groups.items())


def sheet_html(work: Work, sign_off: UUID | None = None) -> str:
    """The page: of what was signed, as it was signed; of open work, as it stands. `sign_off` asks for one that was taken back."""
    signed = signed_document(work)
    if sign_off is not None:
        signed = SignOffDocument.objects.filter(sign_off__client_id=sign_off, sign_off__work=work).first() or signed
    document = json.loads(signed.text) if signed is not None else document_of(work.pk)
    return render_to_string("build_sheet/sheet.html", sheet_context(document, signed))


def sheet_pdf(work: Work, sign_off: UUID | None = None) -> bytes:
    """The same page as PDF."""
    return pdf_of(sheet_html(work, sign_off))


def sheet_state(work: Work, user: Any) -> dict[str, Any]:
    """Whether it is signed, by whom, and what keeps this person from signing."""
    signs = list(work.sign_offs.select_related("withdrawal", "document"))
    return {
        "job_id": work.job_id,
        "work_id": work.pk,
        "job_number": work.job.number,
        "vehicle": work.job.vehicle.name,
        "title": work.title,
        "signed": work.signed_off_at is not None,
        "imported_note": work.job.imported_note,
        "cannot_sign": why_not(work, user),
        "sign_offs": [
            {
                "id": one.client_id,
                "by_name": one.by_name,
                "at": one.at,
                "statement": one.statement,
                "origin": one.origin,
                "withdrawn_reason": one.withdrawal.reason if hasattr(one, "withdrawal") else None,
                "document": _document_out(one.document) if hasattr(one, "document") else None,
            }
            for one in signs
        ],
    }


def _document_out(document: SignOffDocument) -> dict[str, Any]:
    return {
        "hash": document.text_hash,
        "core_version": document.core_version,
        "reconstructed": document.reconstructed,
        "changed": hash_of_text(document.text) != document.text_hash,
        "rule": json.loads(document.text)["rule"]["foreman_signs"],
    }
