"""Tables whose rows are written once: a trigger refuses UPDATE and DELETE, whoever asks."""

from __future__ import annotations

from django.db import migrations

_FUNCTION = """
CREATE OR REPLACE FUNCTION amber_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'rows of % are never changed or deleted', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
END $$;
"""


def append_only(table: str) -> migrations.RunSQL:
    """A migration step that guards `table`; reversible."""
    return migrations.RunSQL(
        sql=f"{_FUNCTION}CREATE TRIGGER {table}_append_only BEFORE UPDATE OR DELETE ON {table} "
        "FOR EACH ROW EXECUTE FUNCTION amber_append_only();",
        reverse_sql=f"DROP TRIGGER IF EXISTS {table}_append_only ON {table};",
    )
