"""Vehicles, their assemblies and odometers."""

import django.contrib.postgres.indexes
import django.contrib.postgres.operations
import django.db.models.deletion
import django.db.models.functions.text
import django.utils.timezone
import uuid
from django.conf import settings
from shared.append_only import append_only
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '__first__'),
        ('stores', '0004_revisions'),
    ]

    operations = [
        django.contrib.postgres.operations.TrigramExtension(
        ),
        migrations.CreateModel(
            name='Vehicle',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, primary_key=True, serialize=False)),
                ('owner', models.CharField(max_length=200)),
                ('name', models.CharField(max_length=200)),
                ('registration', models.CharField(blank=True, max_length=40)),
                ('layout', models.CharField(choices=[('rear_drive', 'Rear-wheel drive'), ('front_drive', 'Front-wheel drive'), ('four_wheel_drive', 'Four-wheel drive with a transfer case'), ('all_wheel_drive', 'All-wheel drive with a rear final drive'), ('tractor', 'Tractor'), ('quad', 'Quad'), ('rail', 'Road-rail vehicle')], max_length=20)),
                ('mass_kg', models.FloatField(blank=True, null=True)),
                ('note', models.CharField(blank=True, max_length=2000)),
                ('version', models.PositiveIntegerField(default=1)),
                ('created_at', models.DateTimeField(default=django.utils.timezone.now)),
            ],
            options={
                'ordering': ['name', 'id'],
                'indexes': [django.contrib.postgres.indexes.GinIndex(django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('name'), name='gin_trgm_ops'), django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Upper('owner'), name='gin_trgm_ops'), name='vehicle_name_and_owner')],
                'constraints': [models.CheckConstraint(condition=models.Q(('layout__in', ['rear_drive', 'front_drive', 'four_wheel_drive', 'all_wheel_drive', 'tractor', 'quad', 'rail'])), name='vehicle_layout_known'), models.CheckConstraint(condition=models.Q(models.Q(('owner', ''), _negated=True), models.Q(('name', ''), _negated=True)), name='vehicle_says_whose_what'), models.CheckConstraint(condition=models.Q(('mass_kg__isnull', True), models.Q(('mass_kg__gte', 50), ('mass_kg__lte', 200000)), _connector='OR'), name='vehicle_mass_sane')],
            },
        ),
        migrations.CreateModel(
            name='OdometerReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('by_name', models.CharField(max_length=120)),
                ('at', models.DateTimeField(default=django.utils.timezone.now)),
                ('km', models.FloatField()),
                ('typed', models.CharField(max_length=40)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('vehicle', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='odometer', to='vehicles.vehicle')),
            ],
            options={
                'ordering': ['at', 'id'],
                'constraints': [models.CheckConstraint(condition=models.Q(('km__gte', 0), ('km__lte', 5000000)), name='odometer_sane')],
            },
        ),
        migrations.CreateModel(
            name='Assembly',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, primary_key=True, serialize=False)),
                ('place', models.CharField(choices=[('engine', 'Engine'), ('gearbox', 'Gearbox'), ('transfer_case', 'Transfer case'), ('front_shaft', 'Front shaft'), ('rear_shaft', 'Rear shaft'), ('front_axle', 'Front axle'), ('rear_axle', 'Rear axle')], max_length=20)),
                ('note', models.CharField(blank=True, max_length=2000)),
                ('family', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='assemblies', to='stores.axlefamily')),
                ('vehicle', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='assemblies', to='vehicles.vehicle')),
            ],
            options={
                'verbose_name_plural': 'assemblies',
                'constraints': [models.CheckConstraint(condition=models.Q(('place__in', ['engine', 'gearbox', 'transfer_case', 'front_shaft', 'rear_shaft', 'front_axle', 'rear_axle'])), name='assembly_place_known'), models.UniqueConstraint(fields=('vehicle', 'place'), name='assembly_once_per_vehicle')],
            },
        ),
            append_only("vehicles_odometerreading"),
    ]
