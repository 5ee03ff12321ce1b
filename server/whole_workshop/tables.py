"""Which tables hold the workshop's records, and which of them are written once."""

from __future__ import annotations

from django.apps import apps
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder

_NOT_RECORDS = {"admin", "auth", "contenttypes", "sessions", "procrastinate"}
_PASSING = {"records_allowance", "accounts_user_groups", "accounts_user_user_permissions"}


def record_tables() -> list[str]:
    """Every table of the application's own, by name; not logins' sessions, queues and counts that pass."""
    models = (model for model in apps.get_models(include_auto_created=True) if model._meta.app_label not in _NOT_RECORDS)
    return sorted({model._meta.db_table for model in models} - _PASSING)


def written_once() -> list[str]:
    """Those whose rows a trigger keeps from being changed or deleted."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT tgrelid::regclass::text FROM pg_trigger WHERE tgname LIKE '%%_append_only' ORDER BY 1")
        return [row[0] for row in cursor.fetchall()]


def release() -> str:
    """The newest migration of each app: two databases with the same text hold the same columns."""
    done = MigrationRecorder(connection).applied_migrations()
    newest: dict[str, str] = {}
    for app, name in done:
        newest[app] = max(newest.get(app, ""), name)
    ours = {model._meta.app_label for model in apps.get_models()} - _NOT_RECORDS
    return ", ".join(f"{app} {newest[app]}" for app in sorted(ours) if app in newest)
