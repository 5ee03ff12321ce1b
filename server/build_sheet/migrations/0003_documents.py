"""A sign-off belongs to a piece of work and has its document, which never changes."""

import django.db.models.deletion
from django.db import migrations, models

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [
        ("build_sheet", "0002_append_only"),
        ("work", "0002_from_jobs"),
    ]

    operations = [
        migrations.RenameField(
            model_name="signoff",
            old_name="job",
            new_name="work",
        ),
        migrations.AlterField(
            model_name="signoff",
            name="work",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="sign_offs", to="work.work"),
        ),
        migrations.CreateModel(
            name="SignOffDocument",
            fields=[
                (
                    "sign_off",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.PROTECT,
                        primary_key=True,
                        related_name="document",
                        serialize=False,
                        to="build_sheet.signoff",
                    ),
                ),
                ("text", models.TextField()),
                ("text_hash", models.CharField(max_length=64)),
                ("core_version", models.CharField(max_length=20)),
                ("reconstructed", models.BooleanField(default=False)),
            ],
        ),
        migrations.AddField(
            model_name="signoff",
            name="origin",
            field=models.CharField(choices=[("here", "signed here"), ("file", "said by the file")], default="here", max_length=10),
        ),
        migrations.AddConstraint(
            model_name="signoff",
            constraint=models.CheckConstraint(condition=models.Q(("origin__in", ["here", "file"])), name="sign_off_origin_known"),
        ),
        migrations.AddConstraint(
            model_name="signoffdocument",
            constraint=models.CheckConstraint(
                condition=models.Q(models.Q(("text", ""), _negated=True), models.Q(("text_hash", ""), _negated=True)),
                name="sign_off_document_says_something",
            ),
        ),
        append_only("build_sheet_signoffdocument"),
    ]
