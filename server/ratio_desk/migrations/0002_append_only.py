"""Kept answers and links are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("ratio_desk", "0001_initial")]

    operations = [append_only("ratio_desk_ratioresult"), append_only("ratio_desk_ratiolink")]
