"""The certificate that phones need before camera, sensors and work without a connection are allowed: the house's own, or one that was
bought or issued elsewhere."""

from __future__ import annotations

import shutil
import ssl
from datetime import UTC, datetime
from ipaddress import ip_address
from pathlib import Path
from tempfile import TemporaryDirectory

from amber_cli.say import Failed, run
from amber_cli.workshop.home import Home

_DAYS_OF_HOUSE = 3650
_DAYS = 390  # phones refuse a server's certificate that is good for longer than 398 days
RENEW_BEFORE_DAYS = 30
_PRIVATE = ("10.0.0.0/255.0.0.0", "172.16.0.0/255.240.0.0", "192.168.0.0/255.255.0.0", "169.254.0.0/255.255.0.0", "127.0.0.0/255.0.0.0")


def ensure(home: Home) -> bool:
    """A certificate that names every host of the settings and is good for a month at least; True when a new one was made."""
    settings = home.settings
    if settings.own_certificate:
        return False
    if not (home.tls / "house.crt").exists():
        _make_house(home, settings.hosts)
    if not (home.tls / "server.crt").exists() or days_left(home) < RENEW_BEFORE_DAYS or set(settings.hosts) - named(home):
        _make_server(home, settings.hosts)
        return True
    return False


def take_own(home: Home, certificate: Path, key: Path) -> None:
    """Use a certificate from elsewhere.

    Raises
    ------
    Failed
        When the two cannot be read or do not belong together.
    """
    try:
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(certificate, key, password=lambda: "")
    except (OSError, ssl.SSLError) as wrong:
        raise Failed(f"{certificate} and {key} are not a certificate and its key without a passphrase: {wrong}") from None
    shutil.copyfile(certificate, home.tls / "server.crt")
    _secret(home.tls / "server.key")
    shutil.copyfile(key, home.tls / "server.key")


def days_left(home: Home) -> float:
    """Days until the server's certificate ends; below 0 when it has."""
    text = _openssl("x509", "-in", home.tls / "server.crt", "-noout", "-enddate").strip().removeprefix("notAfter=")
    return (datetime.fromtimestamp(ssl.cert_time_to_seconds(text), UTC) - datetime.now(UTC)).total_seconds() / 86400


def named(home: Home) -> set[str]:
    """The hosts that the server's certificate names."""
    text = _openssl("x509", "-in", home.tls / "server.crt", "-noout", "-ext", "subjectAltName")
    parts = [part.strip() for line in text.splitlines()[1:] for part in line.split(",")]
    return {part.split(":", 1)[1] for part in parts if ":" in part}


def fingerprint(home: Home) -> str:
    """The SHA-256 of the house's certificate, to compare by eye."""
    return _openssl("x509", "-in", home.tls / "house.crt", "-noout", "-fingerprint", "-sha256").strip().split("=", 1)[1]


def _make_house(home: Home, hosts: list[str]) -> None:
    """An authority of this house's own, which can vouch for the house's names and private addresses only: its key lies on this machine, and
    whoever took it could not pretend to be any other site."""
    names = [f"permitted;DNS:{one}" for one in dict.fromkeys(["local", *(host for host in hosts if not _is_address(host))])]
    public = [f"{one}/255.255.255.255" for one in hosts if _is_address(one) and not ip_address(one).is_private]
    addresses = [f"permitted;IP:{one}" for one in (*_PRIVATE, *public)]
    subject = f"/CN=Amber Pinion, certificate of the house ({hosts[0]})"
    extensions = [
        "basicConstraints=critical,CA:TRUE,pathlen:0",
        "keyUsage=critical,keyCertSign,cRLSign",
        f"nameConstraints=critical,{','.join([*names, *addresses])}",
    ]
    added = [word for one in extensions for word in ("-addext", one)]
    key = _secret(home.tls / "house.key")
    made: list[str | Path] = ["-days", str(_DAYS_OF_HOUSE), "-subj", subject, "-keyout", key, "-out", home.tls / "house.crt", *added]
    _openssl("req", "-x509", "-newkey", "ec", "-pkeyopt", "ec_paramgen_curve:P-256", "-nodes", *made)


def _make_server(home: Home, hosts: list[str]) -> None:
    names = ",".join(f"{'IP' if _is_address(host) else 'DNS'}:{host}" for host in hosts)
    with TemporaryDirectory() as scratch:
        request, extensions, fresh = Path(scratch) / "request.pem", Path(scratch) / "extensions", Path(scratch) / "server.crt"
        extensions.write_text(
            f"basicConstraints=critical,CA:FALSE\nkeyUsage=critical,digitalSignature\nextendedKeyUsage=serverAuth\nsubjectAltName={names}\n"
        )
        key = _secret(Path(scratch) / "server.key")
        fresh_key: list[str | Path] = ["-newkey", "ec", "-pkeyopt", "ec_paramgen_curve:P-256", "-nodes", "-keyout", key]
        _openssl("req", "-new", *fresh_key, "-subj", f"/CN={hosts[0]}", "-out", request)
        house: list[str | Path] = ["-CA", home.tls / "house.crt", "-CAkey", home.tls / "house.key", "-CAcreateserial"]
        _openssl("x509", "-req", "-in", request, *house, "-days", str(_DAYS), "-extfile", extensions, "-out", fresh)
        chain = fresh.read_text() + (home.tls / "house.crt").read_text()
        _secret(home.tls / "server.key").write_text(key.read_text())
        (home.tls / "server.crt").write_text(chain)


def _secret(place: Path) -> Path:
    """An empty file that only its owner reads, before anything is written into it."""
    place.touch(mode=0o600)
    place.chmod(0o600)
    return place


def _is_address(host: str) -> bool:
    try:
        ip_address(host)
    except ValueError:
        return False
    return True


def _openssl(*arguments: str | Path) -> str:
    return run(["openssl", *arguments], what="Making the certificate", mend="Is the Debian package openssl installed?")
