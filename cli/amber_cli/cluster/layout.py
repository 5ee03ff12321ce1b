"""Where every part of the rehearsed cluster lies and listens, and the files in deploy/cluster filled in for it."""

from __future__ import annotations

import json
import os
import secrets
import shutil
import urllib.error
import urllib.request
from dataclasses import asdict, dataclass, field
from pathlib import Path
from string import Template

from amber_cli.install import POSTGRES_BIN
from amber_cli.paths import ROOT
from amber_cli.postgres import as_database_user, free_port, give_away, postmaster
from amber_cli.say import Failed, run

DEPLOY = ROOT / "deploy" / "cluster"
SCOPE = "amber"
ADDRESS = "127.0.0.1"
DATABASE = "amber"
ROLE = "amber_app"
_FIRST_PORT = 15600
_NOTE = "layout.json"
_PASSWORDS = ("superuser", "replication", "rewind", "rest", "app")


@dataclass(frozen=True)
class Node:
    """One database with its Patroni and its member of etcd: a machine of its own in real use."""

    name: str
    folder: Path
    etcd_client: int
    etcd_peer: int
    pg: int
    rest: int

    @property
    def data(self) -> Path:
        """The database's files."""
        return self.folder / "data"

    def postmaster(self) -> int:
        """The database's first process.

        Raises
        ------
        OSError, IndexError
            When it does not run.
        """
        return postmaster(self.data)


@dataclass(frozen=True)
class Layout:
    """All parts of a cluster in one folder on loopback."""

    folder: Path
    nodes: tuple[Node, ...]
    bouncers: tuple[int, ...]
    webs: tuple[int, ...]
    front: int
    primary: int
    standby: int
    passwords: dict[str, str] = field(repr=False)

    @classmethod
    def new(cls, folder: Path, *, front: int | None = None) -> Layout:
        """Free ports, new passwords."""
        ports = _Ports(_FIRST_PORT)
        nodes = tuple(Node(f"n{at}", folder / f"n{at}", ports.next(), ports.next(), ports.next(), ports.next()) for at in (1, 2, 3))
        words = {name: secrets.token_urlsafe(24) for name in _PASSWORDS}
        pairs = [(ports.next(), ports.next()) for _ in range(2)]
        return cls(folder, nodes, pairs[0], pairs[1], front or ports.next(), ports.next(), ports.next(), words)

    def note(self) -> None:
        """Keep it in the folder, for whoever looks at the same cluster from another process."""
        place = self.folder / _NOTE
        place.touch(mode=0o600)
        place.write_text(json.dumps(asdict(self), default=str), encoding="utf-8")

    @classmethod
    def of(cls, folder: Path) -> Layout:
        """The one that was noted in a folder."""
        kept = json.loads((folder / _NOTE).read_text(encoding="utf-8"))
        kept["nodes"] = tuple(Node(**{**one, "folder": Path(one["folder"])}) for one in kept["nodes"])
        return cls(**{**kept, "folder": Path(kept["folder"]), "bouncers": tuple(kept["bouncers"]), "webs": tuple(kept["webs"])})

    def write(self) -> None:
        """Every folder and file, for the database's user alone."""
        self.folder.mkdir(exist_ok=True)
        self.folder.chmod(0o755)  # what was installed for Patroni lies in it
        for name in ("backups", "run", "spool", "log", "door", *(one.name for one in self.nodes), *self.bouncer_names):
            (self.folder / name).mkdir()
            give_away(self.folder / name)
        self.note()
        members = ",".join(f"{one.name}=http://{ADDRESS}:{one.etcd_peer}" for one in self.nodes)
        common: dict[str, object] = {"scope": SCOPE, "address": ADDRESS, "members": members, "pgbackrest": str(self.pgbackrest)}
        common["scripts"] = self.folder
        common |= {"primary_port": self.primary, "standby_port": self.standby, "front_port": self.front}
        common |= {f"{name}_password": word for name, word in self.passwords.items()}
        common["etcd_hosts"] = ",".join(f"{ADDRESS}:{one.etcd_client}" for one in self.nodes)
        for one in self.nodes:
            (one.folder / "socket").mkdir()
            (one.folder / "log").mkdir()
            give_away(one.folder / "socket")
            give_away(one.folder / "log")
            own = {"name": one.name, "folder": one.folder, "pg_port": one.pg, "rest_port": one.rest}
            own |= {"client_url": f"http://{ADDRESS}:{one.etcd_client}", "peer_url": f"http://{ADDRESS}:{one.etcd_peer}"}
            self._fill("etcd.yml", one.folder / "etcd.yml", common | own)
            self._fill("patroni.yml", one.folder / "patroni.yml", common | own)
            _private(one.folder / "rest-password", self.passwords["rest"])
        for name, port in zip(self.bouncer_names, self.bouncers, strict=True):
            folder = self.folder / name
            self._fill("pgbouncer.ini", folder / "pgbouncer.ini", common | {"folder": folder, "port": port})
            _private(folder / "users", f'"{ROLE}" "{self.passwords["app"]}"\n')
        self._write_door(common)
        stanza = "\n".join(
            f"pg{at}-path={one.data}\npg{at}-port={one.pg}\npg{at}-socket-path={one.folder / 'socket'}"
            for at, one in enumerate(self.nodes, start=1)
        )
        self._fill("pgbackrest.conf", self.pgbackrest, common | {"folder": self.folder, "nodes": stanza})

    def _write_door(self, common: dict[str, object]) -> None:
        webs = [f"  server w{at} {ADDRESS}:{port}" for at, port in enumerate(self.webs, start=1)]
        more: dict[str, object] = {"web_servers": "\n".join(f"{one} check" for one in webs)}
        more["web_servers_tracked"] = "\n".join(f"{one} track api/w{at}" for at, one in enumerate(webs, start=1))
        more["database_servers"] = "\n".join(f"  server {one.name} {ADDRESS}:{one.pg} check port {one.rest}" for one in self.nodes)
        for kind in ("api", "page"):
            away = self.folder / "door" / f"away-{kind}.http"
            away.write_bytes((DEPLOY / away.name).read_bytes())
            give_away(away)
            more[f"away_{kind}"] = away
        self._fill("haproxy.cfg", self.door, common | more)

    def _fill(self, name: str, place: Path, values: dict[str, object]) -> None:
        _private(place, Template((DEPLOY / name).read_text(encoding="utf-8")).substitute(values))

    @property
    def bouncer_names(self) -> tuple[str, ...]:
        """The folders of the poolers."""
        return tuple(f"b{at}" for at, _ in enumerate(self.bouncers, start=1))

    @property
    def pgbackrest(self) -> Path:
        """Settings of the backups."""
        return self.folder / "pgbackrest.conf"

    @property
    def door(self) -> Path:
        """HAProxy's settings."""
        return self.folder / "door" / "haproxy.cfg"

    @property
    def address(self) -> str:
        """Where people find it."""
        return f"http://{ADDRESS}:{self.front}/"

    def pooled_url(self, database: str, first: int) -> str:
        """Through either pooler, a web server's own one first."""
        ports = [self.bouncers[first], *(port for at, port in enumerate(self.bouncers) if at != first)]
        hosts = ",".join([ADDRESS] * len(ports))
        return f"postgres://{ROLE}:{self.passwords['app']}@/{database}?host={hosts}&port={','.join(map(str, ports))}&connect_timeout=3"

    @property
    def direct_url(self) -> str:
        """Past the poolers, for what listens: the worker, migrations."""
        return f"postgres://{ROLE}:{self.passwords['app']}@{ADDRESS}:{self.primary}/{DATABASE}"

    def sql(self, node: Node, statement: str, *, database: str = "postgres") -> str:
        """What a statement answers on one node, as the superuser.

        Raises
        ------
        Failed
            When that database does not answer.
        """
        return self.psql(node, "-qtAc", statement, database=database).strip()

    def psql(self, node: Node, *what: str | Path, database: str = "postgres") -> str:
        """What psql says on one node, as the superuser; Failed when it does not get through."""
        there = ["-h", str(node.folder / "socket"), "-p", str(node.pg), "-U", "postgres", "-d", database, "-v", "ON_ERROR_STOP=1"]
        asked = as_database_user([POSTGRES_BIN / "psql", *there, *what])
        env = {"PATH": os.environ.get("PATH", ""), "LC_ALL": "C.UTF-8", "PGCONNECT_TIMEOUT": "3"}
        return run(asked, what=f"Asking {node.name}", mend="Its log is in its folder.", cwd=Path("/"), env=env)

    def leader(self) -> Node | None:
        """The node that answers as the one that leads."""
        return next((one for one in self.nodes if asked(f"http://{ADDRESS}:{one.rest}/primary") is not None), None)

    def members(self) -> dict[str, tuple[str, str]]:
        """Role and state of every node, as whichever Patroni answers sees them; empty when none does."""
        for one in self.nodes:
            told = asked(f"http://{ADDRESS}:{one.rest}/cluster")
            if told is not None:
                return {member["name"]: (member["role"], member["state"]) for member in json.loads(told)["members"]}
        return {}

    def synchronous(self) -> str:
        """The standby that every commit waits for; nothing when there is none."""
        return next((name for name, (role, state) in self.members().items() if role == "sync_standby" and state == "streaming"), "")

    def keep_logs(self) -> Path:
        """A copy of what every program said, beside the folder; it outlives it."""
        kept = self.folder.with_name(f"{self.folder.name}-logs")
        for log in (self.folder / "log", *(one.folder / "log" for one in self.nodes)):
            shutil.copytree(log, kept / log.parent.name, ignore_dangling_symlinks=True)
        return kept

    def remove(self) -> None:
        """The whole folder."""
        shutil.rmtree(self.folder, ignore_errors=True)


def asked(address: str) -> bytes | None:
    """What an address answers with 200; None for anything else."""
    try:
        with urllib.request.urlopen(address, timeout=3) as reply:
            return bytes(reply.read())
    except (urllib.error.URLError, OSError):
        return None


def _private(place: Path, text: str) -> None:
    place.touch(mode=0o600)
    place.write_text(text, encoding="utf-8")
    give_away(place)
    place.chmod(0o600)


class _Ports:
    """Free ports, none given twice."""

    def __init__(self, first: int) -> None:
        self._at = first

    def next(self) -> int:
        found = free_port(self._at)
        if found > 65_000:
            raise Failed("No ports are free on loopback.")
        self._at = found + 1
        return found
