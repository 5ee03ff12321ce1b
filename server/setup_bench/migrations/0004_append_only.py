"""What the bench records is never changed or deleted."""

from django.db import migrations

from shared.append_only import append_only

_TABLES = [
    "conditioncheck",
    "basis",
    "patternphoto",
    "patternreading",
    "torquereading",
    "depthreading",
    "sleevestep",
    "spacertry",
    "instrumentcheck",
]


class Migration(migrations.Migration):
    dependencies = [("setup_bench", "0003_set_up_bench")]

    operations = [append_only(f"setup_bench_{table}") for table in _TABLES]
