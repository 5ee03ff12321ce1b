"""Kept answers and inspections are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("driveline_desk", "0001_initial")]

    operations = [append_only("driveline_desk_drivelineresult"), append_only("driveline_desk_jointinspection")]
