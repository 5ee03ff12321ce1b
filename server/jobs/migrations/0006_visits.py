"""A job becomes a visit of a vehicle; job numbers come from a sequence; what was said of a station stays."""

import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0001_initial"),
        ("accounts", "__first__"),
        ("jobs", "0005_append_only"),
        ("vehicles", "0001_initial"),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="job",
            name="job_says_whose_what_why",
        ),
        migrations.RenameField(
            model_name="job",
            old_name="vehicle",
            new_name="vehicle_text",
        ),
        migrations.AddField(
            model_name="job",
            name="vehicle",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="jobs", to="vehicles.vehicle"),
        ),
        migrations.AddField(
            model_name="job",
            name="imported_note",
            field=models.CharField(blank=True, max_length=200),
        ),
        migrations.AddField(
            model_name="job",
            name="promised_on",
            field=models.DateField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name="job",
            name="search",
            field=models.CharField(blank=True, max_length=700),
        ),
        migrations.AddField(
            model_name="station",
            name="version",
            field=models.PositiveIntegerField(default=1),
        ),
        migrations.AlterField(
            model_name="job",
            name="use",
            field=models.CharField(
                choices=[
                    ("road", "Road"),
                    ("towing", "Towing"),
                    ("off_road", "Off-road"),
                    ("rail", "Road and rail"),
                    ("shore", "Shore and slipway"),
                ],
                max_length=20,
            ),
        ),
        migrations.AlterField(
            model_name="station",
            name="state",
            field=models.CharField(
                choices=[("not_looked_at", "Not checked"), ("in_work", "In work"), ("good", "Good"), ("fault", "Fault")],
                default="not_looked_at",
                max_length=20,
            ),
        ),
        migrations.CreateModel(
            name="StationRecord",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("by_name", models.CharField(max_length=120)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "place",
                    models.CharField(
                        choices=[
                            ("engine", "Engine"),
                            ("gearbox", "Gearbox"),
                            ("transfer_case", "Transfer case"),
                            ("front_shaft", "Front shaft"),
                            ("rear_shaft", "Rear shaft"),
                            ("front_axle", "Front axle"),
                            ("rear_axle", "Rear axle"),
                        ],
                        max_length=20,
                    ),
                ),
                (
                    "state",
                    models.CharField(
                        choices=[("not_looked_at", "Not checked"), ("in_work", "In work"), ("good", "Good"), ("fault", "Fault")],
                        max_length=20,
                    ),
                ),
                ("note", models.CharField(blank=True, max_length=200)),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.AddField(
            model_name="stationrecord",
            name="by",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="stationrecord",
            name="job",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="station_records", to="jobs.job"),
        ),
        migrations.AddConstraint(
            model_name="stationrecord",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("place__in", ["engine", "gearbox", "transfer_case", "front_shaft", "rear_shaft", "front_axle", "rear_axle"])
                ),
                name="station_record_place_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="stationrecord",
            constraint=models.CheckConstraint(
                condition=models.Q(("state__in", ["not_looked_at", "in_work", "good", "fault"])), name="station_record_state_known"
            ),
        ),
        migrations.RunSQL(
            sql="CREATE SEQUENCE jobs_job_number AS integer; SELECT setval('jobs_job_number', greatest(1, (SELECT coalesce(max(last_job_number), 0) FROM accounts_shop), (SELECT coalesce(max(number), 0) FROM jobs_job)), EXISTS (SELECT 1 FROM jobs_job) OR EXISTS (SELECT 1 FROM accounts_shop WHERE last_job_number > 0));",
            reverse_sql="UPDATE accounts_shop SET last_job_number = (SELECT last_value FROM jobs_job_number) WHERE (SELECT is_called FROM jobs_job_number); DROP SEQUENCE jobs_job_number;",
        ),
        append_only("jobs_stationrecord"),
    ]
