"""What belongs to vehicle and work leaves the job; the Floor's search gets its index."""

import django.contrib.postgres.indexes
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("build_sheet", "0004_said_by_files"),
        ("jobs", "0007_records_of_the_work"),
        ("setup_bench", "0007_found_so_far"),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="job",
            name="job_layout_known",
        ),
        migrations.RemoveConstraint(
            model_name="job",
            name="job_axle_known",
        ),
        migrations.RemoveConstraint(
            model_name="job",
            name="job_backlash_verdict_known",
        ),
        migrations.RemoveConstraint(
            model_name="job",
            name="job_front_axle_needs_four_wheel_drive",
        ),
        migrations.RemoveConstraint(
            model_name="job",
            name="job_pattern_verdict_known",
        ),
        migrations.AlterField(
            model_name="job",
            name="axle",
            field=models.CharField(choices=[("front", "Front axle"), ("rear", "Rear axle")], max_length=10, null=True),
        ),
        migrations.AlterField(
            model_name="job",
            name="layout",
            field=models.CharField(
                choices=[("rear_drive", "Rear-wheel drive"), ("four_wheel_drive", "Four-wheel drive with a transfer case")],
                max_length=20,
                null=True,
            ),
        ),
        migrations.AlterField(
            model_name="job",
            name="family",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="jobs", to="stores.axlefamily"),
        ),
        migrations.AlterField(
            model_name="job",
            name="backlash_verdict",
            field=models.CharField(
                choices=[("in", "in"), ("edge", "edge"), ("out", "out"), ("unknown", "unknown")],
                default="unknown",
                max_length=10,
                null=True,
            ),
        ),
        migrations.AlterField(
            model_name="job",
            name="pattern_verdict",
            field=models.CharField(
                choices=[("in", "in"), ("edge", "edge"), ("out", "out"), ("unknown", "unknown")],
                default="unknown",
                max_length=10,
                null=True,
            ),
        ),
        migrations.AlterField(
            model_name="job",
            name="final_missing",
            field=models.CharField(blank=True, default="Nothing has been read after the final assembly yet.", max_length=300, null=True),
        ),
        migrations.AlterField(
            model_name="job",
            name="vehicle_text",
            field=models.CharField(max_length=200, null=True),
        ),
        migrations.RunSQL(
            sql="SET CONSTRAINTS ALL IMMEDIATE",
            reverse_sql="""
UPDATE jobs_job SET vehicle_text = vehicle.name, layout = CASE WHEN vehicle.layout = 'rear_drive' THEN 'rear_drive' ELSE 'four_wheel_drive' END,
    axle = CASE WHEN assembly.place = 'front_axle' THEN 'front' ELSE 'rear' END, family_id = revision.family_id,
    backlash_verdict = coalesce(finding.backlash, 'unknown'), pattern_verdict = coalesce(finding.pattern, 'unknown'),
    final_missing = coalesce(finding.missing, 'Nothing has been read after the final assembly yet.')
FROM work_work AS work JOIN vehicles_assembly AS assembly ON assembly.id = work.assembly_id
JOIN vehicles_vehicle AS vehicle ON vehicle.id = assembly.vehicle_id
JOIN stores_sheetrevision AS revision ON revision.id = work.sheet_revision_id
LEFT JOIN setup_bench_benchfinding AS finding ON finding.work_id = work.id
WHERE work.id = jobs_job.id;
SET CONSTRAINTS ALL IMMEDIATE;
""",
        ),
        migrations.RemoveField(
            model_name="job",
            name="axle",
        ),
        migrations.RemoveField(
            model_name="job",
            name="layout",
        ),
        migrations.RemoveField(
            model_name="job",
            name="family",
        ),
        migrations.RemoveField(
            model_name="job",
            name="backlash_verdict",
        ),
        migrations.RemoveField(
            model_name="job",
            name="pattern_verdict",
        ),
        migrations.RemoveField(
            model_name="job",
            name="final_missing",
        ),
        migrations.RemoveField(
            model_name="job",
            name="vehicle_text",
        ),
        migrations.AlterField(
            model_name="job",
            name="vehicle",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="jobs", to="vehicles.vehicle"),
        ),
        migrations.AddConstraint(
            model_name="job",
            constraint=models.CheckConstraint(
                condition=models.Q(models.Q(("customer", ""), _negated=True), models.Q(("complaint", ""), _negated=True)),
                name="job_says_whose_why",
            ),
        ),
        migrations.AddIndex(
            model_name="job",
            index=django.contrib.postgres.indexes.GinIndex(
                django.contrib.postgres.indexes.OpClass("search", name="gin_trgm_ops"), name="job_search"
            ),
        ),
    ]
