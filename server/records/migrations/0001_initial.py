"""The envelope of every write; never changed or deleted."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from shared.append_only import append_only
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '__first__'),
    ]

    operations = [
        migrations.CreateModel(
            name='Write',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('command', models.CharField(max_length=80)),
                ('target', models.CharField(blank=True, max_length=120)),
                ('content_hash', models.CharField(max_length=64)),
                ('by_name', models.CharField(max_length=120)),
                ('device', models.CharField(blank=True, max_length=120)),
                ('length_unit', models.CharField(max_length=20)),
                ('torque_unit', models.CharField(max_length=20)),
                ('written_at', models.DateTimeField(null=True)),
                ('received_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(models.Q(('command', ''), _negated=True), models.Q(('content_hash', ''), _negated=True)), name='write_says_what')],
            },
        ),
            append_only("records_write"),
    ]
