"""What the bench found so far comes over from the jobs, and offsets from the families."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0006_visits"),
        ("setup_bench", "0006_of_the_work"),
    ]

    operations = [
        migrations.RunSQL(
            sql="""
INSERT INTO setup_bench_benchfinding (work_id, backlash, pattern, missing)
SELECT id, backlash_verdict, pattern_verdict, final_missing FROM jobs_job;
ALTER TABLE setup_bench_trial DISABLE TRIGGER USER;
UPDATE setup_bench_trial AS trial SET bearing_offset_mm = family.bearing_offset_mm
FROM work_work AS work JOIN stores_sheetrevision AS revision ON revision.id = work.sheet_revision_id
JOIN stores_axlefamily AS family ON family.id = revision.family_id
WHERE work.id = trial.work_id AND trial.bearings = 'set_up' AND family.bearing_offset_mm IS NOT NULL;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE setup_bench_trial ENABLE TRIGGER USER;
""",
            reverse_sql="DELETE FROM setup_bench_benchfinding;",
        ),
    ]
