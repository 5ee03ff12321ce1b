"""Sheets in revisions, drawers with a version and a history; neither a revision nor a move is ever changed."""

import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "__first__"),
        ("stores", "0003_gearboxes"),
    ]

    operations = [
        migrations.CreateModel(
            name="SheetRevision",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("by_name", models.CharField(max_length=120)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("number", models.PositiveIntegerField()),
                ("content", models.JSONField()),
                ("content_hash", models.CharField(max_length=64)),
                ("reason", models.CharField(blank=True, max_length=200)),
                ("from_file", models.BooleanField(default=False)),
            ],
            options={
                "ordering": ["family", "number"],
            },
        ),
        migrations.CreateModel(
            name="ShimMove",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("by_name", models.CharField(max_length=120)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "why",
                    models.CharField(
                        choices=[("counted", "Counted"), ("taken", "Taken for a trial"), ("returned", "Returned from a trial")],
                        max_length=10,
                    ),
                ),
                ("change", models.IntegerField()),
                ("count", models.PositiveIntegerField()),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.AddField(
            model_name="axlefamily",
            name="backlash_places",
            field=models.PositiveSmallIntegerField(default=8),
        ),
        migrations.AddField(
            model_name="shimrow",
            name="version",
            field=models.PositiveIntegerField(default=1),
        ),
        migrations.AddConstraint(
            model_name="axlefamily",
            constraint=models.CheckConstraint(
                condition=models.Q(("backlash_places__gte", 4), ("backlash_places__lte", 16)), name="family_backlash_places_sane"
            ),
        ),
        migrations.AddField(
            model_name="sheetrevision",
            name="by",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="sheetrevision",
            name="family",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="revisions", to="stores.axlefamily"),
        ),
        migrations.AddField(
            model_name="shimmove",
            name="by",
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="shimmove",
            name="row",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="moves", to="stores.shimrow"),
        ),
        migrations.AddConstraint(
            model_name="sheetrevision",
            constraint=models.UniqueConstraint(fields=("family", "number"), name="sheet_revision_number_once"),
        ),
        migrations.AddConstraint(
            model_name="shimmove",
            constraint=models.CheckConstraint(
                condition=models.Q(("why__in", ["counted", "taken", "returned"])), name="shim_move_why_known"
            ),
        ),
        append_only("stores_sheetrevision"),
        append_only("stores_shimmove"),
    ]
