"""Recordings and findings are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("noise_finder", "0001_initial")]

    operations = [
        append_only("noise_finder_recording"),
        append_only("noise_finder_recordingchunk"),
        append_only("noise_finder_noisefinding"),
    ]
