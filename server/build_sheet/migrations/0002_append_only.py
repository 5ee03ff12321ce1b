"""Sign-offs and withdrawals are never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("build_sheet", "0001_initial")]

    operations = [append_only("build_sheet_signoff"), append_only("build_sheet_withdrawal")]
