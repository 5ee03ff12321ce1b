import django.db.models.deletion
from django.db import migrations, models

import accounts.models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0005_people_and_exports"),
    ]

    operations = [
        migrations.AlterModelOptions(
            name="shop",
            options={"ordering": ["id"]},
        ),
        migrations.RemoveConstraint(
            model_name="shop",
            name="shop_is_one_row",
        ),
        # what was there before workshops were told apart belongs to the first
        migrations.RunSQL(
            "INSERT INTO accounts_shop (id, name, is_demo) VALUES (1, 'Workshop', false) ON CONFLICT DO NOTHING", migrations.RunSQL.noop
        ),
        migrations.AlterField(
            model_name="shop",
            name="id",
            field=models.PositiveIntegerField(default=1, primary_key=True, serialize=False),
        ),
        migrations.AddField(
            model_name="shophours",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="shoprule",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="user",
            name="looking_at",
            field=models.ForeignKey(
                blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="user",
            name="organisation",
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name="user",
            name="shop",
            field=models.ForeignKey(
                default=accounts.models.own_shop, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddConstraint(
            model_name="shop",
            constraint=models.CheckConstraint(condition=models.Q(("id__gte", 1)), name="shop_numbers_from_one"),
        ),
    ]
