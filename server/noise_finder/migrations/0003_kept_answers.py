"""Recordings belong to a piece of work; findings lie with the work."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("noise_finder", "0002_append_only"),
        ("work", "0004_kept_answers"),
    ]

    operations = [
        migrations.RenameField(
            model_name="recording",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="recording",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="recordings", to="work.work"),
        ),
        migrations.DeleteModel(
            name="NoiseFinding",
        ),
    ]
