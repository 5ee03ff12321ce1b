import django.db.models.deletion
from django.db import migrations, models

import accounts.models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0006_many_shops"),
        ("stores", "0011_bench_limits_and_drawers"),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name="shimrow",
            name="shim_row_once",
        ),
        migrations.AddField(
            model_name="axlefamily",
            name="shared",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="axlefamily",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="gearbox",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="shimrow",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="transfercase",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AlterField(
            model_name="axlefamily",
            name="code",
            field=models.SlugField(max_length=60),
        ),
        migrations.AddConstraint(
            model_name="axlefamily",
            constraint=models.UniqueConstraint(fields=("shop", "code"), name="family_code_once_a_shop"),
        ),
        migrations.AddConstraint(
            model_name="shimrow",
            constraint=models.UniqueConstraint(fields=("shop", "family", "place", "thickness_mm"), name="shim_row_once"),
        ),
    ]
