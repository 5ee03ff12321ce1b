"""Pieces of work, procedure revisions, ways, adopted sheets, kept answers."""

import django.db.models.deletion
import django.utils.timezone
import uuid
from django.conf import settings
from shared.append_only import append_only
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '__first__'),
        ('jobs', '0006_visits'),
        ('stores', '0004_revisions'),
        ('vehicles', '0001_initial'),
    ]

    operations = [
        migrations.CreateModel(
            name='ProcedureRevision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('by_name', models.CharField(max_length=120)),
                ('at', models.DateTimeField(default=django.utils.timezone.now)),
                ('kind', models.CharField(choices=[('ring_and_pinion', 'Ring and pinion')], max_length=40)),
                ('number', models.PositiveIntegerField()),
                ('core_version', models.CharField(max_length=20)),
                ('content', models.JSONField()),
                ('content_hash', models.CharField(max_length=64)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['kind', 'number'],
            },
        ),
        migrations.CreateModel(
            name='Work',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, primary_key=True, serialize=False)),
                ('number', models.PositiveSmallIntegerField(default=1)),
                ('kind', models.CharField(choices=[('ring_and_pinion', 'Ring and pinion')], default='ring_and_pinion', max_length=40)),
                ('state', models.CharField(choices=[('booked', 'Booked'), ('in_work', 'In work'), ('waiting', 'Waiting'), ('to_sign', 'Ready to sign'), ('done', 'Signed off')], default='booked', max_length=20)),
                ('begun', models.BooleanField(default=False)),
                ('next_action', models.CharField(max_length=200)),
                ('version', models.PositiveIntegerField(default=1)),
                ('created_by_name', models.CharField(max_length=120)),
                ('created_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('updated_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('signed_off_at', models.DateTimeField(blank=True, null=True)),
                ('assembly', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='works', to='vehicles.assembly')),
                ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='works', to='jobs.job')),
                ('procedure', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='works', to='work.procedurerevision')),
                ('sheet_revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='works', to='stores.sheetrevision')),
            ],
            options={
                'ordering': ['number'],
            },
        ),
        migrations.CreateModel(
            name='WayChoice',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('by_name', models.CharField(max_length=120)),
                ('at', models.DateTimeField(default=django.utils.timezone.now)),
                ('question', models.SlugField(max_length=40)),
                ('way', models.SlugField(max_length=40)),
                ('reason', models.CharField(max_length=200)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('work', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='way_choices', to='work.work')),
            ],
            options={
                'ordering': ['id'],
            },
        ),
        migrations.CreateModel(
            name='SheetAdoption',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('by_name', models.CharField(max_length=120)),
                ('at', models.DateTimeField(default=django.utils.timezone.now)),
                ('reason', models.CharField(max_length=200)),
                ('after', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='stores.sheetrevision')),
                ('before', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='stores.sheetrevision')),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('work', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='sheet_adoptions', to='work.work')),
            ],
            options={
                'ordering': ['id'],
            },
        ),
        migrations.CreateModel(
            name='KeptAnswer',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('client_id', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('by_name', models.CharField(max_length=120)),
                ('at', models.DateTimeField(default=django.utils.timezone.now)),
                ('area', models.CharField(choices=[('ratio', 'Ratio desk'), ('driveline', 'Driveline desk'), ('noise', 'Noise finder')], max_length=20)),
                ('about', models.CharField(blank=True, max_length=20)),
                ('title', models.CharField(max_length=200)),
                ('inputs', models.JSONField()),
                ('answer', models.JSONField()),
                ('engine_version', models.CharField(max_length=20)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('work', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='kept_answers', to='work.work')),
            ],
            options={
                'ordering': ['id'],
            },
        ),
        migrations.AddConstraint(
            model_name='procedurerevision',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['ring_and_pinion'])), name='procedure_kind_known'),
        ),
        migrations.AddConstraint(
            model_name='procedurerevision',
            constraint=models.UniqueConstraint(fields=('kind', 'number'), name='procedure_number_once'),
        ),
        migrations.AddConstraint(
            model_name='work',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['ring_and_pinion'])), name='work_kind_known'),
        ),
        migrations.AddConstraint(
            model_name='work',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['booked', 'in_work', 'waiting', 'to_sign', 'done'])), name='work_state_known'),
        ),
        migrations.AddConstraint(
            model_name='work',
            constraint=models.UniqueConstraint(fields=('job', 'number'), name='work_number_once_per_job'),
        ),
        migrations.AddConstraint(
            model_name='work',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('signed_off_at__isnull', False), ('state', 'done')), models.Q(models.Q(('state', 'done'), _negated=True), ('signed_off_at__isnull', True)), _connector='OR'), name='work_done_means_signed'),
        ),
        migrations.AddConstraint(
            model_name='waychoice',
            constraint=models.CheckConstraint(condition=models.Q(('reason', ''), _negated=True), name='way_choice_has_a_reason'),
        ),
        migrations.AddConstraint(
            model_name='sheetadoption',
            constraint=models.CheckConstraint(condition=models.Q(('reason', ''), _negated=True), name='sheet_adoption_has_a_reason'),
        ),
        migrations.AddIndex(
            model_name='keptanswer',
            index=models.Index(fields=['work', 'area', 'id'], name='kept_answer_by_work'),
        ),
        migrations.AddConstraint(
            model_name='keptanswer',
            constraint=models.CheckConstraint(condition=models.Q(('area__in', ['ratio', 'driveline', 'noise'])), name='kept_answer_area_known'),
        ),
        migrations.AddConstraint(
            model_name='keptanswer',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('title', ''), _negated=True), models.Q(('engine_version', ''), _negated=True)), name='kept_answer_is_named'),
        ),
        migrations.AddConstraint(
            model_name='keptanswer',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('about', ''), ('area', 'ratio')), models.Q(('about__in', ('rear', 'front')), ('area', 'driveline')), models.Q(('about__in', ('felt', 'recorded')), ('area', 'noise')), _connector='OR'), name='kept_answer_about_known'),
        ),
            append_only("work_procedurerevision"),
        append_only("work_sheetadoption"),
        append_only("work_waychoice"),
        append_only("work_keptanswer"),
    ]
