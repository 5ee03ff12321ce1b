"""What is known of a vehicle's ends is never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_axle_facts")]

    operations = [append_only("jobs_axlefact")]
