"""Inspections belong to a piece of work; its kept answers lie with the work."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("driveline_desk", "0002_append_only"),
        ("work", "0004_kept_answers"),
    ]

    operations = [
        migrations.RenameField(
            model_name="jointinspection",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="jointinspection",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="joint_inspections", to="work.work"),
        ),
        migrations.DeleteModel(
            name="DrivelineResult",
        ),
    ]
