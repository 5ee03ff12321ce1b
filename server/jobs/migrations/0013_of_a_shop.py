import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import accounts.models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0006_many_shops"),
        ("jobs", "0012_promised"),
        ("vehicles", "0004_whole_vehicle"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="job",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddIndex(
            model_name="job",
            index=models.Index(fields=["shop", "floor_order", "-updated_at", "id"], name="job_floor_order_of_shop"),
        ),
        migrations.RemoveIndex(model_name="job", name="job_by_state"),
        migrations.AddIndex(model_name="job", index=models.Index(fields=["shop", "state", "-updated_at", "id"], name="job_by_state")),
    ]
