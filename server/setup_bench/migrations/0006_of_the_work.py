"""The bench belongs to a piece of work; an offset to its trial; what was confirmed, with which dial and in how many places is kept."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "__first__"),
        ("setup_bench", "0005_ring_side_known"),
        ("work", "0002_from_jobs"),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="trial",
            name="trial_number_once_per_job",
        ),
        migrations.RenameField(
            model_name="trial",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="trial",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="trials", to="work.work"),
        ),
        migrations.RenameField(
            model_name="basis",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="basis",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="bases", to="work.work"),
        ),
        migrations.RenameField(
            model_name="sleevestep",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="sleevestep",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="sleeve_steps", to="work.work"),
        ),
        migrations.RenameField(
            model_name="spacertry",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="spacertry",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="spacer_tries", to="work.work"),
        ),
        migrations.RenameField(
            model_name="instrumentcheck",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="instrumentcheck",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="instrument_checks", to="work.work"),
        ),
        migrations.CreateModel(
            name="BenchFinding",
            fields=[
                (
                    "work",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="bench_finding",
                        serialize=False,
                        to="work.work",
                    ),
                ),
                (
                    "backlash",
                    models.CharField(
                        choices=[("in", "in"), ("edge", "edge"), ("out", "out"), ("unknown", "unknown")], default="unknown", max_length=10
                    ),
                ),
                (
                    "pattern",
                    models.CharField(
                        choices=[("in", "in"), ("edge", "edge"), ("out", "out"), ("unknown", "unknown")], default="unknown", max_length=10
                    ),
                ),
                ("missing", models.CharField(blank=True, default="Nothing has been read after the final assembly yet.", max_length=300)),
            ],
        ),
        migrations.AddField(
            model_name="basis",
            name="places",
            field=models.PositiveSmallIntegerField(null=True),
        ),
        migrations.AddField(
            model_name="conditioncheck",
            name="points",
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name="instrumentcheck",
            name="instrument",
            field=models.CharField(blank=True, max_length=120),
        ),
        migrations.AddField(
            model_name="instrumentcheck",
            name="resolution_mm",
            field=models.FloatField(default=0.01),
        ),
        migrations.AddField(
            model_name="trial",
            name="bearing_offset_mm",
            field=models.FloatField(null=True),
        ),
        migrations.AddConstraint(
            model_name="basis",
            constraint=models.CheckConstraint(
                condition=models.Q(models.Q(("places__gte", 4), ("places__lte", 16)), ("places__isnull", True), _connector="OR"),
                name="basis_places_sane",
            ),
        ),
        migrations.AddConstraint(
            model_name="instrumentcheck",
            constraint=models.CheckConstraint(
                condition=models.Q(("resolution_mm__gte", 0.0001), ("resolution_mm__lte", 0.1)), name="instrument_resolution_sane"
            ),
        ),
        migrations.AddConstraint(
            model_name="benchfinding",
            constraint=models.CheckConstraint(
                condition=models.Q(("backlash__in", ["in", "edge", "out", "unknown"])), name="bench_finding_backlash_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="benchfinding",
            constraint=models.CheckConstraint(
                condition=models.Q(("pattern__in", ["in", "edge", "out", "unknown"])), name="bench_finding_pattern_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="trial",
            constraint=models.UniqueConstraint(fields=("work", "number"), name="trial_number_once_per_work"),
        ),
        migrations.AddConstraint(
            model_name="trial",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("bearing_offset_mm__isnull", True),
                    models.Q(("bearing_offset_mm__gte", -2), ("bearing_offset_mm__lte", 2), ("bearings", "set_up")),
                    _connector="OR",
                ),
                name="trial_bearing_offset_sane",
            ),
        ),
    ]
