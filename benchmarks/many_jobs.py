"""50,000 jobs with 90,000 pieces of work and 1,000,000 readings, made by the database itself."""

from __future__ import annotations

from django.db import connection

from accounts import demo as people
from demo_world import families
from jobs.models import Job
from stores.sheets import current_revision
from work.models import RING_AND_PINION
from work.services import procedure_of

JOBS = 50_000
WORKS = 90_000
READINGS = 1_000_000

_FILL = [
    """
    CREATE TEMPORARY TABLE bench_made AS SELECT n, gen_random_uuid() AS vehicle, gen_random_uuid() AS assembly, gen_random_uuid() AS job
    FROM generate_series(1, %(jobs)s) AS n
    """,
    """
    INSERT INTO vehicles_vehicle (id, shop_id, owner, name, registration, layout, gearbox, transfer_case, note, version, created_at)
    SELECT vehicle, 1, 'Customer ' || n %% 900, 'Vehicle ' || n, '', 'rear_drive', '', '', '', 1, now() FROM bench_made
    """,
    """
    INSERT INTO vehicles_assembly (id, vehicle_id, place, family_id, note)
    SELECT assembly, vehicle, 'rear_axle', %(family)s, '' FROM bench_made
    """,
    """
    INSERT INTO jobs_job (id, shop_id, number, vehicle_id, customer, complaint, use, use_note, state, floor_order, waits_for, waits_note,
        next_action, version, created_by_name, created_at, updated_at, signed_off_at, imported_by_name, imported_note, search)
    SELECT job, 1, n, vehicle, 'Customer ' || n %% 900, 'Howl on overrun', 'road', '', s.state, s.floor_order, 'nothing', '',
        'Backlash round the ring inside its window', 1, 'Bench', now(), now() - n * interval '1 minute',
        CASE WHEN s.state = 'done' THEN now() END, '', '', n || ' customer ' || n %% 900 || ' vehicle ' || n
    FROM bench_made
    JOIN (VALUES (0, 'to_sign', 0), (1, 'in_work', 1), (2, 'waiting', 2), (3, 'booked', 3), (4, 'done', 4)) AS s (k, state, floor_order)
        ON s.k = CASE WHEN n %% 50 = 0 THEN n / 50 %% 4 ELSE 4 END
    """,
    """
    INSERT INTO work_work (id, number, kind, own_title, state, begun, next_action, version, created_by_name, created_at, updated_at,
        signed_off_at, as_left, assembly_id, job_id, procedure_id, sheet_revision_id)
    SELECT job.id, 1, 'ring_and_pinion', '', job.state, true, job.next_action, 1, 'Bench', now(), job.updated_at, job.signed_off_at,
        '[]', made.assembly, job.id, %(procedure)s, %(revision)s
    FROM jobs_job AS job JOIN bench_made AS made ON made.job = job.id
    """,
    """
    INSERT INTO work_work (id, number, kind, own_title, state, begun, next_action, version, created_by_name, created_at, updated_at,
        signed_off_at, as_left, assembly_id, job_id, procedure_id, sheet_revision_id)
    SELECT gen_random_uuid(), 2, 'oil_service', '', job.state, true, job.next_action, 1, 'Bench', now(), job.updated_at, job.signed_off_at,
        '[]', made.assembly, job.id, %(service)s, %(revision)s
    FROM jobs_job AS job JOIN bench_made AS made ON made.job = job.id WHERE made.n <= %(second)s
    """,
    "INSERT INTO setup_bench_benchfinding (work_id, backlash, pattern, missing) SELECT job, 'in', 'in', '' FROM bench_made",
    """
    INSERT INTO setup_bench_trial (client_id, by_name, at, number, ring_side_pieces, far_side_pieces, note, preload_part, bearings,
        is_final, conditions_asked, work_id)
    SELECT gen_random_uuid(), 'Bench', now(), 1, '[[4.6, 1]]', '[[4.5, 1]]', '', 'nothing', 'final', false, false, job FROM bench_made
    """,
    """
    INSERT INTO setup_bench_reading (client_id, by_name, at, angle_deg, value_mm, typed, unit, trial_id)
    SELECT gen_random_uuid(), 'Bench', now(), k * 18, 0.15 + 0.001 * k, '17', 'hundredths_mm', trial.id
    FROM setup_bench_trial AS trial CROSS JOIN generate_series(0, %(each)s - 1) AS k
    """,
]


def fill() -> None:
    """Fill an empty database once."""
    people.load()
    family = families.load()["corrie-ls19"]
    if Job.objects.count() >= JOBS:
        return
    given = {
        "family": family.pk,
        "procedure": procedure_of(RING_AND_PINION).pk,
        "service": procedure_of("oil_service").pk,
        "second": WORKS - JOBS,
        "revision": current_revision(family).pk,
        "jobs": JOBS,
        "each": READINGS // JOBS,
    }
    with connection.cursor() as cursor:
        for statement in _FILL:
            cursor.execute(statement, given)
        cursor.execute("SELECT setval('jobs_job_number', (SELECT max(number) FROM jobs_job))")
        cursor.execute("ANALYZE")
