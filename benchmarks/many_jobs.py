"""50,000 jobs and 1,000,000 readings, made by the database itself."""

from __future__ import annotations

from django.db import connection

from accounts import demo as people
from demo_world import families
from jobs.models import Job

JOBS = 50_000
READINGS = 1_000_000

_FILL = [
    """
    INSERT INTO jobs_job (id, number, customer, vehicle, layout, axle, family_id, complaint, use, use_note, state, floor_order,
        waits_for, waits_note, next_action, backlash_verdict, pattern_verdict, final_missing, version, created_by_name, created_at,
        updated_at, signed_off_at,
        imported_by_name)
    SELECT gen_random_uuid(), n, 'Customer ' || n %% 900, 'Vehicle ' || n, 'rear_drive', 'rear', %(family)s, 'Howl on overrun', 'road', '',
        s.state, s.floor_order, 'nothing', '', 'Backlash round the ring inside its window', 'in', 'in', '', 1, 'Bench', now(),
        now() - n * interval '1 minute', CASE WHEN s.state = 'done' THEN now() END, ''
    FROM generate_series(1, %(jobs)s) AS n
    JOIN (VALUES (0, 'to_sign', 0), (1, 'in_work', 1), (2, 'waiting', 2), (3, 'booked', 3), (4, 'done', 4)) AS s (k, state, floor_order)
        ON s.k = CASE WHEN n %% 50 = 0 THEN n / 50 %% 4 ELSE 4 END
    """,
    """
    INSERT INTO setup_bench_trial (client_id, by_name, at, number, ring_side_pieces, far_side_pieces, note, preload_part, bearings,
        is_final, conditions_asked, job_id)
    SELECT gen_random_uuid(), 'Bench', now(), 1, '[[4.6, 1]]', '[[4.5, 1]]', '', 'nothing', 'final', false,
        false, id FROM jobs_job
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
    with connection.cursor() as cursor:
        for statement in _FILL:
            cursor.execute(statement, {"family": family.pk, "jobs": JOBS, "each": READINGS // JOBS})
        cursor.execute("ANALYZE")
