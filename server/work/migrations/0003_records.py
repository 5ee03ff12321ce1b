"""Identifications and run-sheet records move over from the jobs with their rows."""

import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "__first__"),
        ("jobs", "0007_records_of_the_work"),
        ("work", "0002_from_jobs"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.RunSQL(
                    sql="ALTER TABLE jobs_gearsetrecord RENAME TO work_gearsetrecord",
                    reverse_sql="ALTER TABLE work_gearsetrecord RENAME TO jobs_gearsetrecord",
                ),
                migrations.RunSQL(
                    sql="ALTER TABLE jobs_steprecord RENAME TO work_steprecord",
                    reverse_sql="ALTER TABLE work_steprecord RENAME TO jobs_steprecord",
                ),
            ],
            state_operations=[
                migrations.CreateModel(
                    name="StepRecord",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                        ("by_name", models.CharField(max_length=120)),
                        ("at", models.DateTimeField(default=django.utils.timezone.now)),
                        ("step_code", models.SlugField(max_length=40)),
                        ("outcome", models.CharField(choices=[("passed", "Passed"), ("taken_back", "Taken back")], max_length=20)),
                        ("entered", models.CharField(blank=True, max_length=200)),
                        ("value", models.FloatField(null=True)),
                        ("note", models.CharField(blank=True, max_length=200)),
                        (
                            "by",
                            models.ForeignKey(
                                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                            ),
                        ),
                        (
                            "work",
                            models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="step_records", to="work.work"),
                        ),
                    ],
                    options={
                        "ordering": ["id"],
                    },
                ),
                migrations.CreateModel(
                    name="GearSetRecord",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                        ("by_name", models.CharField(max_length=120)),
                        ("at", models.DateTimeField(default=django.utils.timezone.now)),
                        ("pinion_teeth", models.PositiveSmallIntegerField()),
                        ("ring_teeth", models.PositiveSmallIntegerField()),
                        ("question", models.JSONField()),
                        ("answer", models.JSONField()),
                        (
                            "by",
                            models.ForeignKey(
                                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                            ),
                        ),
                        ("work", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="gear_sets", to="work.work")),
                    ],
                    options={
                        "ordering": ["id"],
                    },
                ),
                migrations.AddIndex(
                    model_name="steprecord",
                    index=models.Index(fields=["work", "id"], name="step_record_by_work"),
                ),
                migrations.AddConstraint(
                    model_name="steprecord",
                    constraint=models.CheckConstraint(
                        condition=models.Q(("outcome__in", ["passed", "taken_back"])), name="step_outcome_known"
                    ),
                ),
                migrations.AddConstraint(
                    model_name="gearsetrecord",
                    constraint=models.CheckConstraint(
                        condition=models.Q(("pinion_teeth__gte", 3), ("ring_teeth__gt", models.F("pinion_teeth"))),
                        name="gear_set_teeth_sane",
                    ),
                ),
            ],
        ),
    ]
