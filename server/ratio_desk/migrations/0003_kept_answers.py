"""Links lead to the kept answers of the work."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("ratio_desk", "0002_append_only"),
        ("work", "0004_kept_answers"),
    ]

    operations = [
        migrations.AlterField(
            model_name="ratiolink",
            name="result",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="ratio_links", to="work.keptanswer"),
        ),
        migrations.DeleteModel(
            name="RatioResult",
        ),
    ]
