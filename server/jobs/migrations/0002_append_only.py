"""Identifications and run-sheet records are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("jobs", "0001_initial")]

    operations = [append_only("jobs_gearsetrecord"), append_only("jobs_steprecord")]
