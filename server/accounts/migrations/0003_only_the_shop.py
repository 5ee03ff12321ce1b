"""Rule and job numbers have their own places."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0002_rules"),
        ("jobs", "0006_visits"),
    ]

    operations = [
        migrations.RemoveField(
            model_name="shop",
            name="foreman_signs",
        ),
        migrations.RemoveField(
            model_name="shop",
            name="last_job_number",
        ),
    ]
