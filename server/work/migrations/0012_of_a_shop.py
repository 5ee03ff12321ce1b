import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import accounts.models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0006_many_shops"),
        ("work", "0011_bench_answers"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="kindshape",
            name="kind_shape_number_once",
        ),
        migrations.RemoveConstraint(
            model_name="ownkindrevision",
            name="own_kind_number_once",
        ),
        migrations.AddField(
            model_name="kindshape",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="ownkindrevision",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddConstraint(
            model_name="kindshape",
            constraint=models.UniqueConstraint(fields=("shop", "kind", "number"), name="kind_shape_number_once"),
        ),
        migrations.AddConstraint(
            model_name="ownkindrevision",
            constraint=models.UniqueConstraint(fields=("shop", "kind", "number"), name="own_kind_number_once"),
        ),
    ]
