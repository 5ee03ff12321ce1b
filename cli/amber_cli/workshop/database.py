"""The workshop's PostgreSQL cluster: durable, with checksums, a password for the application's own role, and its log kept by pgBackRest."""

from __future__ import annotations

import subprocess
from pathlib import Path

from amber_cli.install import POSTGRES_BIN
from amber_cli.postgres import Cluster, as_database_user, give_away
from amber_cli.say import Failed, step
from amber_cli.workshop.home import Home, write_secret

ROLE = "amber_app"
DATABASE = "amber"
_HBA = "local all amber trust\nhost all amber_app 127.0.0.1/32 scram-sha-256\n"
_SETTINGS = """
listen_addresses = '127.0.0.1'
timezone = 'UTC'
jit = off
password_encryption = 'scram-sha-256'
wal_level = replica
max_wal_senders = 4
archive_mode = on
archive_timeout = 60s
"""


class HouseCluster(Cluster):
    """Superuser `amber` through a socket that only the database's own user reaches; the application by password on loopback."""

    def __init__(self, home: Home, *, folder: Path | None = None, port: int | None = None, archive: bool = True) -> None:
        super().__init__("workshop", durable=True, home=folder or home.pg)
        self.house = home
        self.archive = archive
        self.socket = self.home / "socket"
        self.port = port or home.settings.database_port
        self.conf = home.folder / "pgbackrest.conf"

    def options(self) -> str:
        """Its own port, socket and archive, whatever the settings say: a restored copy has those of the first, and archives nothing."""
        archive = f"-c archive_mode=on -c archive_command='{self._push}'" if self.archive else "-c archive_mode=off"
        return f"-p {self.port} -c unix_socket_directories={self.socket} {archive}"

    @property
    def _push(self) -> str:
        return f"pgbackrest --config={self.conf} --stanza=workshop --pg1-path={self.data} archive-push %p"

    def command(self) -> list[str | Path]:
        """The server itself, for whoever keeps it running."""
        server: list[str | Path] = [POSTGRES_BIN / "postgres", "-D", self.data, "-p", str(self.port)]
        return [*server, "-c", f"unix_socket_directories={self.socket}", "-c", "archive_mode=on", "-c", f"archive_command={self._push}"]

    def sql(self, statement: str, *, database: str = "postgres") -> str:
        """What a statement answers, as the superuser."""
        there: list[str | Path] = ["-h", self.socket, "-p", str(self.port), "-U", "amber", "-d", database]
        base = ["psql", *there, "-v", "ON_ERROR_STOP=1", "-qtAc"]
        return self.pg([*base, statement]).strip()

    def answers(self) -> bool:
        """Whether it takes connections."""
        ready = as_database_user([POSTGRES_BIN / "pg_isready", "-q", "-h", self.socket, "-p", str(self.port)])
        return subprocess.run([str(part) for part in ready], cwd="/", check=False).returncode == 0

    def prepare(self) -> None:
        """The role, its password, the database; what is there already is brought in line."""
        word = self.house.secret("database-password")
        if self.sql(f"SELECT 1 FROM pg_roles WHERE rolname = '{ROLE}'") != "1":
            self.sql(f"CREATE ROLE {ROLE} LOGIN")
        # not on a command line, which every user of the machine can read
        note = self.home / "role.sql"
        write_secret(note, f"ALTER ROLE {ROLE} PASSWORD '{word}';\n")
        give_away_file(note)
        try:
            self.pg(["psql", "-h", self.socket, "-p", str(self.port), "-U", "amber", "-d", "postgres", "-qf", note])
        finally:
            note.unlink(missing_ok=True)
        if self.sql(f"SELECT 1 FROM pg_database WHERE datname = '{DATABASE}'") != "1":
            self.sql(f"CREATE DATABASE {DATABASE} OWNER {ROLE}")
        self.sql(f"GRANT EXECUTE ON FUNCTION pg_create_restore_point(text) TO {ROLE}", database=DATABASE)

    def _make(self) -> None:
        if self.data.exists() and any(self.data.iterdir()):
            raise Failed(f"{self.data} is not a cluster that can be used, and is not empty. Look at it before anything is removed.")
        step(f"Making the workshop's database in {self.data}")
        for folder in (self.data, self.socket):
            folder.mkdir(exist_ok=True)
            give_away(folder)
        options = ["-U", "amber", "-E", "UTF8", "--locale=C.UTF-8", "--data-checksums", "--auth=trust"]
        self.pg(["initdb", "-D", self.data, *options])
        with (self.data / "postgresql.conf").open("a") as settings:
            settings.write(_SETTINGS)
        (self.data / "pg_hba.conf").write_text(_HBA)


def give_away_file(place: Path) -> None:
    """A file for the database's user alone."""
    give_away(place)
    place.chmod(0o600)
