"""Django's own command line; ./amber sets the environment it needs."""

import gc
import os
import sys
from pathlib import Path

HERE = Path(__file__).resolve().parent
sys.path[:0] = [str(HERE), str(HERE.parent / "core"), str(HERE.parent)]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

if __name__ == "__main__":
    gc.disable()  # half a million objects are loaded and stay: to look through them for what could go takes a sixth of a start
    import django
    from django.core.management import execute_from_command_line

    django.setup()
    gc.freeze()
    gc.enable()
    execute_from_command_line(sys.argv)
