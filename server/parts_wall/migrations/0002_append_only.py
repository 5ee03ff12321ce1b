from django.db import migrations

from shared.append_only import append_only


class Migration(migrations.Migration):
    dependencies = [("parts_wall", "0001_initial")]
    operations = [
        append_only(f"parts_wall_{name}")
        for name in ("wallbuild", "partrecord", "partphoto", "partneed", "quotelink", "quotelinkend", "quoteanswer")
    ]
