"""Where things lie in this checkout."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(os.environ.get("AMBER_ROOT") or Path(__file__).resolve().parents[2])
STATE = ROOT / ".amber"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
SERVER = ROOT / "server"
