"""Every job becomes a visit of its vehicle with one piece of work, which has the job's own id; every family's sheet its first revision."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from django.db import migrations

_FACTS = (
    "code",
    "name",
    "maker",
    "build",
    "carrier_method",
    "shim_place",
    "preload_method",
    "wheel_end",
    "has_spreader",
    "has_speed_ring",
    "ring_outer_diameter_mm",
    "offset_mm",
    "tooth_form",
    "notch_mm",
    "torque_window_seal",
    "bearing_offset_mm",
    "backlash_places",
    "is_sample",
)
_LIMIT = ("quantity", "least", "greatest", "source_note")
_RATIO = ("pinion_teeth", "ring_teeth", "needs_carrier", "needs_thick_ring")


def _hash(content: Any) -> str:
    plain = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False)
    return hashlib.sha256(plain.encode()).hexdigest()


def first_revisions(apps: Any, schema_editor: Any) -> None:
    """Families as they stand, and the run sheet as this release has it."""
    import amber_core
    from amber_core.procedures import library

    revision = apps.get_model("stores", "SheetRevision")
    for family in apps.get_model("stores", "AxleFamily").objects.prefetch_related("limits", "ratios"):
        limits = sorted(family.limits.all(), key=lambda one: one.quantity)
        ratios = sorted(family.ratios.all(), key=lambda one: (one.pinion_teeth, one.ring_teeth))
        content: dict[str, Any] = {name: getattr(family, name) for name in _FACTS}
        content["limits"] = [{name: getattr(one, name) for name in _LIMIT} for one in limits]
        content["ratios"] = [{name: getattr(one, name) for name in _RATIO} for one in ratios]
        said: dict[str, Any] = {
            "content": content,
            "content_hash": _hash(content),
            "by_name": "Stores",
            "reason": "As it stood when revisions began",
        }
        revision.objects.create(family=family, number=1, **said)
    if apps.get_model("jobs", "Job").objects.exists():
        steps = library.plain(library.library("ring_and_pinion"))
        said = {"content": steps, "content_hash": _hash(steps), "by_name": "Amber Pinion", "core_version": amber_core.__version__}
        apps.get_model("work", "ProcedureRevision").objects.create(kind="ring_and_pinion", number=1, **said)


def only_first_works(apps: Any, schema_editor: Any) -> None:
    """Jobs of the older release have one piece of work each: refuse to lose another."""
    if apps.get_model("work", "Work").objects.exclude(number=1).exists():
        raise RuntimeError("Some jobs have more than one piece of work, which the older release cannot hold: export them first.")
    for name in ("SheetRevision",):
        _clear(schema_editor, f"stores_{name.lower()}")
    _clear(schema_editor, "work_procedurerevision")


def _clear(schema_editor: Any, table: str) -> None:
    schema_editor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
    schema_editor.execute(f"DELETE FROM {table}")  # noqa: S608
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")


_WORKS = """
INSERT INTO vehicles_vehicle (id, owner, name, registration, layout, note, version, created_at)
SELECT gen_random_uuid(), customer, vehicle_text, '', layout, '', 1, min(created_at) FROM jobs_job GROUP BY customer, vehicle_text, layout;
UPDATE jobs_job SET vehicle_id = vehicle.id, search = left(lower(concat(number, ' ', customer, ' ', vehicle_text, ' ')), 700)
FROM vehicles_vehicle AS vehicle
WHERE vehicle.owner = jobs_job.customer AND vehicle.name = jobs_job.vehicle_text AND vehicle.layout = jobs_job.layout;
INSERT INTO vehicles_assembly (id, vehicle_id, place, note, family_id)
SELECT gen_random_uuid(), vehicle.id, places.place, '', NULL FROM vehicles_vehicle AS vehicle JOIN (VALUES
    ('rear_drive', 'engine'), ('rear_drive', 'gearbox'), ('rear_drive', 'rear_shaft'), ('rear_drive', 'rear_axle'),
    ('four_wheel_drive', 'engine'), ('four_wheel_drive', 'gearbox'), ('four_wheel_drive', 'transfer_case'),
    ('four_wheel_drive', 'front_shaft'), ('four_wheel_drive', 'rear_shaft'), ('four_wheel_drive', 'front_axle'),
    ('four_wheel_drive', 'rear_axle')) AS places (layout, place) ON places.layout = vehicle.layout;
UPDATE vehicles_assembly AS assembly SET family_id = last.family_id FROM (
    SELECT DISTINCT ON (vehicle_id, axle) vehicle_id, axle, family_id FROM jobs_job ORDER BY vehicle_id, axle, number DESC) AS last
WHERE last.vehicle_id = assembly.vehicle_id AND assembly.place = last.axle || '_axle';
INSERT INTO work_work (id, job_id, number, kind, assembly_id, sheet_revision_id, procedure_id, state, begun, next_action, version,
    created_by_id, created_by_name, created_at, updated_at, signed_off_at)
SELECT job.id, job.id, 1, 'ring_and_pinion', assembly.id, revision.id, (SELECT id FROM work_procedurerevision), job.state,
    job.state NOT IN ('booked', 'waiting') OR EXISTS (SELECT 1 FROM jobs_steprecord WHERE job_id = job.id)
        OR EXISTS (SELECT 1 FROM jobs_gearsetrecord WHERE job_id = job.id)
        OR EXISTS (SELECT 1 FROM setup_bench_trial WHERE job_id = job.id),
    job.next_action, 1, job.created_by_id, job.created_by_name, job.created_at, job.updated_at, job.signed_off_at
FROM jobs_job AS job JOIN vehicles_assembly AS assembly ON assembly.vehicle_id = job.vehicle_id AND assembly.place = job.axle || '_axle'
JOIN stores_sheetrevision AS revision ON revision.family_id = job.family_id;
UPDATE work_work SET state = CASE WHEN begun THEN 'in_work' ELSE 'booked' END WHERE state = 'waiting';
SET CONSTRAINTS ALL IMMEDIATE;
"""
_NO_WORKS = """
UPDATE jobs_job SET vehicle_id = NULL;
DELETE FROM work_work;
DELETE FROM vehicles_assembly;
DELETE FROM vehicles_vehicle;
SET CONSTRAINTS ALL IMMEDIATE;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("work", "0001_initial"),
        ("setup_bench", "0005_ring_side_known"),
    ]

    operations = [
        migrations.RunPython(first_revisions, only_first_works),
        migrations.RunSQL(_WORKS, _NO_WORKS),
    ]
