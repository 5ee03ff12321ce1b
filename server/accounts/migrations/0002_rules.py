"""The rule that work is signed off by is kept every time it is set."""

import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0001_initial"),
        ("accounts", "__first__"),
    ]

    operations = [
        migrations.CreateModel(
            name="ShopRule",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("client_id", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("by_name", models.CharField(max_length=120)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("foreman_signs", models.BooleanField()),
                ("reason", models.CharField(blank=True, max_length=200)),
                (
                    "by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.RunSQL(
            sql="INSERT INTO accounts_shoprule (client_id, by_name, at, foreman_signs, reason) SELECT gen_random_uuid(), 'as installed', now(), foreman_signs, '' FROM accounts_shop;",
            reverse_sql="UPDATE accounts_shop SET foreman_signs = coalesce((SELECT foreman_signs FROM accounts_shoprule ORDER BY id DESC LIMIT 1), true);",
        ),
        append_only("accounts_shoprule"),
    ]
