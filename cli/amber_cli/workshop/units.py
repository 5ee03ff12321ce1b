"""systemd units: database, web server, worker, nginx, and a timer for backups; each one runs `./amber workshop only ...`."""

from __future__ import annotations

import os
import shutil
import subprocess
from pathlib import Path

from amber_cli.paths import ROOT
from amber_cli.say import run, step
from amber_cli.workshop.home import Home

PREFIX = "amber-pinion"
PARTS = ("database", "web", "worker", "proxy")
_SYSTEMD = Path("/etc/systemd/system")
_WHAT = {
    "database": "database",
    "web": "web server",
    "worker": "worker, which reads recordings",
    "proxy": "TLS and limits in front of the web server",
}
_AFTER = {
    "database": "After=network.target",
    "web": f"After={PREFIX}-database.service",
    "worker": f"After={PREFIX}-database.service",
    "proxy": f"After=network-online.target {PREFIX}-web.service\nWants=network-online.target",
}


def write(home: Home) -> list[Path]:
    """Write every unit into the workshop's folder; the paths."""
    units = {f"{PREFIX}-{part}.service": _service(home, part) for part in PARTS}
    units[f"{PREFIX}-backup.service"] = _backup(home)
    units[f"{PREFIX}-backup.timer"] = _TIMER
    for name, text in units.items():
        (home.units / name).write_text(text, encoding="utf-8")
    return [home.units / name for name in units]


def running_systemd() -> bool:
    """Whether this machine is run by systemd, and this is root."""
    return os.geteuid() == 0 and Path("/run/systemd/system").is_dir() and shutil.which("systemctl") is not None


def installed() -> bool:
    """Whether the units are in systemd's folder."""
    return (_SYSTEMD / f"{PREFIX}-web.service").exists()


def install(written: list[Path]) -> None:
    """Put those that were written into systemd's folder, and start them now and with the machine."""
    for unit in written:
        shutil.copyfile(unit, _SYSTEMD / unit.name)
    mend = "Look at: journalctl -u 'amber-pinion-*'"
    run(["systemctl", "daemon-reload"], what="systemctl daemon-reload", mend=mend)
    names = [f"{PREFIX}-{part}.service" for part in PARTS] + [f"{PREFIX}-backup.timer"]
    run(["systemctl", "enable", *names], what="systemctl enable", mend=mend)
    run(["systemctl", "restart", *names], what="systemctl restart", mend=mend)
    step("The units are installed; the workshop starts with the machine. To see them: systemctl status 'amber-pinion-*'")


def pause() -> bool:
    """Stop web server and worker while the database is changed; whether there was something to stop."""
    if not (installed() and running_systemd()):
        return False
    stop = ["systemctl", "stop", f"{PREFIX}-web.service", f"{PREFIX}-worker.service"]
    run(stop, what="systemctl stop", mend="Look at: journalctl -u 'amber-pinion-*'")
    return True


def resume() -> None:
    """Start them again."""
    subprocess.run(["systemctl", "start", f"{PREFIX}-web.service", f"{PREFIX}-worker.service"], check=False)


def _service(home: Home, part: str) -> str:
    user = home.settings.run_as or "root"
    shut = "" if part in ("database", "proxy") else f"ProtectHome=read-only\nReadWritePaths=-{home.nginx}\n"
    stop = "KillSignal=SIGINT\nTimeoutStopSec=120\n" if part == "database" else "TimeoutStopSec=30\n"
    return f"""[Unit]
Description=Amber Pinion: {_WHAT[part]}
{_AFTER[part]}
StartLimitIntervalSec=0

[Service]
Type=exec
ExecStart={ROOT}/amber workshop only {part} --home {home.folder}
Restart=always
RestartSec=1
{stop}PrivateTmp={"no" if part == "database" else "yes"}
ProtectSystem=full
{shut}# {user if part in ("web", "worker") else "its own user"}: the command gives up root before the program begins

[Install]
WantedBy=multi-user.target
"""


def _backup(home: Home) -> str:
    return f"""[Unit]
Description=Amber Pinion: whatever is due of backups and test restores
After={PREFIX}-database.service

[Service]
Type=oneshot
Nice=10
IOSchedulingClass=idle
ExecStart={ROOT}/amber workshop due --home {home.folder}
"""


_TIMER = """[Unit]
Description=Amber Pinion: each hour see whether a backup is due

[Timer]
OnCalendar=hourly
RandomizedDelaySec=5min
Persistent=true

[Install]
WantedBy=timers.target
"""
