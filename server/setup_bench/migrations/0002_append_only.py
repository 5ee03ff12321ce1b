"""Trials, readings and strike-outs are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("setup_bench", "0001_initial")]

    operations = [append_only("setup_bench_trial"), append_only("setup_bench_reading"), append_only("setup_bench_strikeout")]
