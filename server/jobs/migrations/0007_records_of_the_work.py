"""Identifications and run-sheet records belong to a piece of work; the first one has its job's id, so no row changes."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0006_visits"),
        ("work", "0002_from_jobs"),
    ]

    operations = [
        migrations.RemoveIndex(
            model_name="steprecord",
            name="step_record_by_job",
        ),
        migrations.RenameField(
            model_name="gearsetrecord",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="gearsetrecord",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="gear_sets", to="work.work"),
        ),
        migrations.RenameField(
            model_name="steprecord",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="steprecord",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="step_records", to="work.work"),
        ),
        migrations.AddIndex(
            model_name="steprecord",
            index=models.Index(fields=["work", "id"], name="step_record_by_work"),
        ),
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel(
                    name="GearSetRecord",
                ),
                migrations.DeleteModel(
                    name="StepRecord",
                ),
            ],
        ),
    ]
