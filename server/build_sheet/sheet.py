"""The build sheet: what is handed over, as a page and as PDF, both from one template."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.template.loader import render_to_string

from build_sheet.services import why_not
from driveline_desk.models import DrivelineResult
from jobs.match import end_known
from jobs.models import AxleEnd, Job
from jobs.present import job_out
from noise_finder.models import NoiseFinding
from ratio_desk.models import RatioResult
from setup_bench.present import bench_out
from setup_bench.question import bench_job
from shared.pdf import pdf_of

_VERDICT_WORDS = {"in": "In", "edge": "On the edge", "out": "Out", "unknown": "Not judged"}
_UNIT_WORDS = {"hundredths_mm": "hundredths of a mm", "thou": "thou"}


def sheet_context(job: Job) -> dict[str, Any]:
    """What the template shows; lengths in mm, beside as-entered values."""
    shown, bench = job_out(job), bench_out(bench_job(job.pk))
    trials = bench["trials"]
    final = trials[-1] if trials else None
    sign_offs = [
        {"by": one.by_name, "at": one.at, "statement": one.statement, "withdrawn": getattr(one, "withdrawal", None)}
        for one in job.sign_offs.select_related("withdrawal")
    ]
    for trial in trials:
        for place in ("ring_side", "far_side", "depth", "spacer"):
            if trial[place] is not None:
                trial[f"{place}_said"] = _stack(trial[place])
        for reading in trial["readings"]:
            word = _UNIT_WORDS.get(reading["unit"], reading["unit"])
            bare = reading["typed"].replace(",", "").replace(".", "").isdecimal()
            reading["entered"] = f"{reading['typed']} {word}" if bare else reading["typed"]
    return {
        "job": shown,
        "bench": bench,
        "final": final,
        "earlier": trials[:-1],
        "ends": _ends(job),
        "match": shown["match"],
        "ratios": [_kept_ratio(one) for one in job.ratio_results.all()],
        "drivelines": [_kept_driveline(one) for one in job.driveline_results.all()],
        "joints": job.joint_inspections.all(),
        "noises": [_kept_noise(one) for one in job.noise_findings.all()],
        "sign_offs": sign_offs,
        "signed": job.signed_off_at is not None,
        "zone": settings.TIME_ZONE,
        "groups": _groups(shown["steps"]),
        "patterns": [(f"{name.capitalize()} side", _pattern(final[name])) for name in ("drive", "coast")] if final else [],
        "torques": [("Pinion alone", final["pinion_torque"]), ("Total, carrier in", final["total_torque"])] if final else [],
        "sleeve_end": _sleeve_end(bench["preload"]["sleeve"]),
        "pattern_word": _VERDICT_WORDS[final["pattern_verdict"] if final else "unknown"],
        "verdict_word": _VERDICT_WORDS[final["assessment"]["verdict"] if final and final["assessment"] else "unknown"],
    }


def _ends(job: Job) -> list[dict[str, Any]]:
    """Both ends of the vehicle, as far as anything was told of them."""
    known = [(end, end_known(job, end)) for end in (AxleEnd.FRONT, AxleEnd.REAR)]
    told = {one.end for one in job.axle_facts.all()}
    return [{"name": AxleEnd(end).label, "ratio": one.ratio, **one.__dict__} for end, one in known if end in told]


def _kept_ratio(kept: RatioResult) -> dict[str, Any]:
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
    fields = {name: getattr(kept, name) for name in ("title", "by_name", "at", "engine_version")}
    tyres = {name: kept.inputs[name]["text"] for name in ("tyre_now", "tyre_planned")}
    return {**fields, **tyres, "rows": rows, "cruise_kmh": kept.inputs["use"]["cruise_kmh"]}


def _kept_driveline(kept: DrivelineResult) -> dict[str, Any]:
    """A kept answer of the driveline desk: joints and limits at ride height, as it is and as tried."""
    settings = [(word, kept.answer[name]) for word, name in (("As it was", "now"), ("With the remedy", "tried")) if kept.answer[name]]
    rows = [
        {
            "name": word,
            "joints": [f"{angle:.1f}" for angle in one["analysed"]["joint_angle_deg"]],
            "b_eq": one["analysed"]["b_eq_deg"],
            "uneven": one["analysed"]["uneven_pct"],
            "out": [f"{limit['what']}: {limit['value']:.1f}, limit {limit['limit']:.1f}" for limit in _broken(one)],
            "slip": one["slip"] and _VERDICT_WORDS[one["slip"]["verdict"]],
        }
        for word, one in settings
    ]
    fields = {name: getattr(kept, name) for name in ("title", "by_name", "at", "engine_version")}
    return {**fields, "shaft": kept.get_shaft_display(), "rpm": kept.answer["rpm"], "rows": rows, "warnings": kept.answer["warnings"]}


def _broken(setting: dict[str, Any]) -> list[dict[str, Any]]:
    return [limit for limit in setting["analysed"]["limits"] if limit["verdict"] == "out"]


def _kept_noise(kept: NoiseFinding) -> dict[str, Any]:
    """A finding: the likeliest sources with why."""
    ranked = kept.answer["suspects"] if kept.kind == "felt" else kept.answer["sources"]
    rows = [
        {"words": one["words"], "word": one["word"], "why": " ".join(one.get("reasons", [one.get("reason", "")]))} for one in ranked[:3]
    ]
    fields = {name: getattr(kept, name) for name in ("title", "by_name", "at", "engine_version")}
    return {**fields, "kind": kept.get_kind_display(), "rows": rows}


def _stack(pieces: list[dict[str, Any]]) -> str:
    total = sum(piece["thickness_mm"] * piece["count"] for piece in pieces)
    said = ", ".join(f"{piece['count']} × {_shim(piece['thickness_mm'])}" for piece in pieces) or "no shims"
    return f"{_shim(total)} mm ({said})"


def _pattern(read: dict[str, Any] | None) -> dict[str, Any] | None:
    return read and {**read, "u_percent": round(100 * read["u"]), "v_percent": round(100 * read["v"])}


def _sleeve_end(sleeve: dict[str, Any] | None) -> dict[str, Any] | None:
    """The last step of the sleeve that is in."""
    if sleeve is None or not sleeve["steps"]:
        return None
    return {**sleeve["steps"][-1], "count": len(sleeve["steps"]), "used_up": sleeve["used_up"]}


def _shim(thickness_mm: float) -> str:
    """Two places, or three where the third says something: a shim of 10 thou is 0.254."""
    return f"{thickness_mm:.2f}" if round(1000 * thickness_mm) % 10 == 0 else f"{thickness_mm:.3f}"


def _groups(steps: list[dict[str, Any]]) -> list[tuple[str, list[dict[str, Any]]]]:
    groups: dict[str, list[dict[str, Any]]] = {}
    for step in steps:
        groups.setdefault(step["group"], []).append(step)
    return list(groups.items())


def sheet_html(job: Job) -> str:
    """The page."""
    return render_to_string("build_sheet/sheet.html", sheet_context(job))


def sheet_pdf(job: Job) -> bytes:
    """The same page as PDF."""
    return pdf_of(sheet_html(job))


def sheet_state(job: Job, user: Any) -> dict[str, Any]:
    """Whether it is signed, by whom, and what keeps this person from signing."""
    signs = list(job.sign_offs.select_related("withdrawal"))
    return {
        "job_id": job.pk,
        "job_number": job.number,
        "vehicle": job.vehicle,
        "signed": job.signed_off_at is not None,
        "cannot_sign": why_not(job, user),
        "sign_offs": [
            {
                "by_name": one.by_name,
                "at": one.at,
                "statement": one.statement,
                "withdrawn_reason": one.withdrawal.reason if hasattr(one, "withdrawal") else None,
            }
            for one in signs
        ],
    }
