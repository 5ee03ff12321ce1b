import django.db.models.deletion
from django.db import migrations, models

import accounts.models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0006_many_shops"),
        ("vehicles", "0004_whole_vehicle"),
    ]

    operations = [
        migrations.AddField(
            model_name="vehicle",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
    ]
