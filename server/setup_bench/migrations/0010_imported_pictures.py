"""Pictures of imported jobs were kept as the text that carried them in the file; this turns them back into pictures."""

from __future__ import annotations

from django.db import migrations

_DECODE = """
ALTER TABLE setup_bench_patternphoto DISABLE TRIGGER USER;
UPDATE setup_bench_patternphoto SET content = decode(convert_from(content, 'UTF8'), 'base64')
    WHERE substring(content FROM 1 FOR 4) IN ('/9j/'::bytea, 'iVBO'::bytea, 'UklG'::bytea);
ALTER TABLE setup_bench_patternphoto ENABLE TRIGGER USER;
"""


class Migration(migrations.Migration):
    dependencies = [("setup_bench", "0009_longer_missing")]

    operations = [migrations.RunSQL(_DECODE, migrations.RunSQL.noop)]
