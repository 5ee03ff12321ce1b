"""Another release: backup first, migrate a copy of the database, and only a copy that got through takes the place of the old one."""

from __future__ import annotations

import subprocess
from collections.abc import Callable

from amber_cli.django_env import MIGRATE, manage
from amber_cli.paths import SERVER
from amber_cli.say import Failed, step
from amber_cli.workshop import backups
from amber_cli.workshop.database import DATABASE, ROLE, HouseCluster
from amber_cli.workshop.home import Home

FRESH = "amber_upgrading"
BEFORE = "amber_before"


def migrate(home: Home, database: str) -> None:
    """Bring one database up to this release."""
    for command in (MIGRATE, ("reconstruct_signoffs",)):
        home.django(*command, database=database)


def pending(home: Home) -> bool:
    """Whether the workshop's database is of an earlier release than this program."""
    command = [str(part) for part in manage(*MIGRATE, "--check")]
    return subprocess.run(command, env=home.environment(), cwd=SERVER, capture_output=True, check=False).returncode != 0


def upgrade(home: Home, *, migrating: Callable[[Home, str], None] = migrate) -> None:
    """Back up, migrate a copy, and exchange the two; the old one is kept beside it as `amber_before` until the next upgrade.

    Raises
    ------
    Failed
        When somebody is still connected, there is no room, or the migrations fail: then nothing has changed.
    """
    cluster = HouseCluster(home)
    if not cluster.answers():
        raise Failed("The database does not answer. Start the workshop's database first.")
    taken = cluster.sql(f"SELECT count(*) FROM pg_stat_activity WHERE datname = '{DATABASE}'")
    if taken != "0":
        raise Failed(f"{taken} connections to the database are open. Stop the workshop's web server and worker first.")
    backups.backup(home)
    step("Migrating a copy of the database")
    cluster.sql(f"DROP DATABASE IF EXISTS {FRESH}")
    cluster.sql(f"CREATE DATABASE {FRESH} TEMPLATE {DATABASE} OWNER {ROLE}")
    try:
        migrating(home, FRESH)
    except Failed as wrong:
        cluster.sql(f"DROP DATABASE IF EXISTS {FRESH} WITH (FORCE)")
        raise Failed(f"The upgrade failed, and the workshop's database is as it was. Go on with the release before.\n{wrong}") from None
    cluster.sql(f"DROP DATABASE IF EXISTS {BEFORE} WITH (FORCE)")
    cluster.sql(f"ALTER DATABASE {DATABASE} RENAME TO {BEFORE}")
    try:
        cluster.sql(f"ALTER DATABASE {FRESH} RENAME TO {DATABASE}")
    except Failed:
        cluster.sql(f"ALTER DATABASE {BEFORE} RENAME TO {DATABASE}")
        raise
    cluster.prepare()
    step(f"The database is of this release. The one before is kept as {BEFORE} until the next upgrade.")
