"""The document of a piece of work: all that its build sheet shows, as plain data; this is what is signed, and nothing else is shown."""

from __future__ import annotations

import hashlib
import json
from datetime import datetime
from typing import Any

from django.conf import settings
from django.core.serializers.json import DjangoJSONEncoder
from django.utils import timezone

import amber_core
from accounts.models import Shop
from amber_core.bench.gauges import GAUGES
from amber_core.words import Said, say, stored, together
from build_sheet.models import SignOff, SignOffDocument
from diff_bench.present import lines_of, tool_title
from driveline_desk.models import JointInspection, ShaftName
from noise_finder.models import Kind
from parts_wall.record import parts_record
from setup_bench.bench import bench_of
from setup_bench.present import bench_out
from shared.scope import in_shop
from stores.sheets import content_of
from vehicles.models import AxleEnd
from work.match import end_known
from work.models import Area, KeptAnswer, Work
from work.present import find_job, find_work, job_out, work_out

FORMAT = "amber-pinion.build-sheet"
VERSION = 1
_VERDICT_WORDS = {"in": say("In"), "edge": say("On the edge"), "out": say("Out"), "unknown": say("Not judged")}
_TIMES = ("at", "signed_off_at", "imported_at", "created_at", "updated_at", "withdrawn_at")


def document_of(work_id: Any) -> dict[str, Any]:
    """Everything that a build sheet shows of a piece of work now, in plain JSON types; by the rule of its own workshop, whoever asks."""
    with in_shop(Work.objects.filter(pk=work_id).values_list("job__shop", flat=True).first()):
        return _document_of(work_id)


def _document_of(work_id: Any) -> dict[str, Any]:
    work = find_work(work_id)
    revision = work.sheet_revision
    job = find_job(work.job_id)
    rule = Shop.get().rule
    kept = {area: [one for one in work.kept_answers.all() if one.area == area] for area in Area.values}
    found = {
        "format": FORMAT,
        "version": VERSION,
        "core_version": amber_core.__version__,
        "shop": Shop.get().name,
        "zone": settings.TIME_ZONE,
        "rule": {"foreman_signs": rule.foreman_signs, "by_name": rule.by_name, "at": rule.at if rule.pk else None},
        "job": job_out(job),
        "work": _work(work),
        "sheet": {"revision": revision.number, "hash": revision.content_hash, "content": content_of(work.sheet)} if revision else None,
        "adoptions": [
            {"before": one.before.number, "after": one.after.number, "reason": one.reason, "by_name": one.by_name, "at": one.at}
            for one in work.sheet_adoptions.select_related("before", "after")
        ],
        "bench": bench_out(bench_of(work_id)) if work.on_bench else None,
        "ends": _ends(work),
        "ratios": [_kept_ratio(one) for one in kept[Area.RATIO]],
        "drivelines": [_kept_driveline(one) for one in kept[Area.DRIVELINE]],
        "joints": [_joint(one) for one in work.joint_inspections.all()],
        "noises": [_kept_noise(one) for one in kept[Area.NOISE]],
        "bench_tools": [_kept_tool(one) for one in kept[Area.DIFF]],
        "parts": parts_record(work_id),
        "sign_offs": [_sign_off(one) for one in work.sign_offs.select_related("withdrawal")],
    }
    return dict(json.loads(json.dumps(stored(found), cls=DjangoJSONEncoder, allow_nan=False)))


def text_of(document: dict[str, Any]) -> str:
    """A document as the text that is signed."""
    return json.dumps(document, sort_keys=True, ensure_ascii=False, allow_nan=False, indent=1)


def hash_of_text(text: str) -> str:
    """SHA-256 of a signed text."""
    return hashlib.sha256(text.encode()).hexdigest()


def keep_document(sign_off: SignOff, document: dict[str, Any], *, reconstructed: bool = False) -> SignOffDocument:
    """Store what was signed; within the caller's transaction."""
    text = text_of(document)
    return SignOffDocument.objects.create(
        sign_off=sign_off,
        text=text,
        text_hash=hash_of_text(text),
        core_version=document["core_version"],
        reconstructed=reconstructed,
    )


def revived(document: Any) -> Any:
    """A document with its times as times again, in the shop's zone."""
    if isinstance(document, dict):
        return {name: _time(one) if name in _TIMES and isinstance(one, str) else revived(one) for name, one in document.items()}
    return [revived(one) for one in document] if isinstance(document, list) else document


def _time(text: str) -> datetime | str:
    try:
        return timezone.localtime(datetime.fromisoformat(text))
    except ValueError:
        return text


def signed_document(work: Work) -> SignOffDocument | None:
    """What stands signed of this work here; None while it is open."""
    standing = work.sign_offs.filter(withdrawal__isnull=True, origin="here").select_related("document").last()
    return standing.document if standing is not None and hasattr(standing, "document") else None


def _sign_off(one: SignOff) -> dict[str, Any]:
    withdrawn = getattr(one, "withdrawal", None)
    return {
        "by_name": one.by_name,
        "at": one.at,
        "statement": one.statement,
        "origin": one.origin,
        "withdrawn": {"by_name": withdrawn.by_name, "reason": withdrawn.reason, "at": withdrawn.at} if withdrawn else None,
    }


def _ends(work: Work) -> list[dict[str, Any]]:
    """Both ends of the vehicle, as far as anything was told of them."""
    known = [(end, end_known(work.job, end)) for end in (AxleEnd.FRONT, AxleEnd.REAR)]
    told = {one.end for one in work.job.axle_facts.all()}
    return [{"name": AxleEnd(end).label, "ratio": one.ratio, **one.__dict__} for end, one in known if end in told]


def _joint(one: JointInspection) -> dict[str, Any]:
    plain = {name: getattr(one, name) for name in ("joint", "note", "by_name", "at")}
    return {**plain, "shaft": one.get_shaft_display(), "decision": one.get_decision_display()}


def _kept(kept: KeptAnswer) -> dict[str, Any]:
    return {name: getattr(kept, name) for name in ("title", "by_name", "at", "engine_version")}


def _kept_ratio(kept: KeptAnswer) -> dict[str, Any]:
    """A kept answer of the ratio desk, a line for each gearing."""
    rows = []
    for one in kept.answer["compared"]["gearings"]:
        held = [gear["cruise_grade_pct"] for gear in one["gears"] if gear["cruise_grade_pct"] is not None]
        rows.append(
            {
                "name": one["name"],
                "rpm": one["gears"][-1]["cruise_rpm"],
                "held": max(held, default=None),
                "start": one["start_grade_pct"],
                "top": one["top_kmh"],
            }
        )
    tyres = {name: kept.inputs[name]["text"] for name in ("tyre_now", "tyre_planned")}
    return {**_kept(kept), **tyres, "rows": rows, "cruise_kmh": kept.inputs["use"]["cruise_kmh"]}


def _kept_driveline(kept: KeptAnswer) -> dict[str, Any]:
    """A kept answer of the driveline desk: joints and limits at ride height, as it is and as tried."""
    found = [
        (word, kept.answer[name]) for word, name in ((say("As it was"), "now"), (say("With the remedy"), "tried")) if kept.answer[name]
    ]
    rows = [
        {
            "name": word,
            "joints": [f"{angle:.1f}" for angle in one["analysed"]["joint_angle_deg"]],
            "b_eq": one["analysed"]["b_eq_deg"],
            "uneven": one["analysed"]["uneven_pct"],
            "out": [
                say("{what}: {value:.1f}, limit {limit:.1f}", what=Said.of(limit["what"]), value=limit["value"], limit=limit["limit"])
                for limit in _broken(one)
            ],
            "slip": one["slip"] and _VERDICT_WORDS[one["slip"]["verdict"]],
        }
        for word, one in found
    ]
    more = {"shaft": ShaftName(kept.about).label, "rpm": kept.answer["rpm"], "warnings": kept.answer["warnings"]}
    return {**_kept(kept), **more, "rows": rows}


def _broken(setting: dict[str, Any]) -> list[dict[str, Any]]:
    return [limit for limit in setting["analysed"]["limits"] if limit["verdict"] == "out"]


def _work(work: Work) -> dict[str, Any]:
    """The work, without what the bench offers to its steps: what it gave stands by itself."""
    shown = work_out(work)
    return {
        **shown,
        "steps": [{name: value for name, value in step.items() if name not in ("tools", "measured")} for step in shown["steps"]],
    }


def _kept_tool(kept: KeptAnswer) -> dict[str, Any]:
    """What a tool of the Diff bench gave."""
    gauge = GAUGES.get(kept.inputs["gauge"])
    told = {"verdict": kept.summary["verdict"], "word": _VERDICT_WORDS.get(kept.summary["verdict"]), "lines": lines_of(kept)}
    return {**_kept(kept), **told, "tool": tool_title(kept.about), "gauge": gauge.name if gauge else ""}


def _kept_noise(kept: KeptAnswer) -> dict[str, Any]:
    """A finding: the likeliest sources with why."""
    ranked = kept.answer["suspects"] if kept.about == Kind.FELT else kept.answer["sources"]
    rows = [
        {"words": one["words"], "word": one["word"], "why": together(Said.of(why) for why in one.get("reasons", [one.get("reason", "")]))}
        for one in ranked[:3]
    ]
    return {**_kept(kept), "kind": Kind(kept.about).label, "rows": rows}
