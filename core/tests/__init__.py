"""No test says how fast this machine is today: neither a deadline nor slow drawing of examples fails one. The examples of a property are
the same in every run; `AMBER_EXPLORE=500 ./amber test core` draws as many new ones for each."""

import os

from hypothesis import HealthCheck, settings

settings.register_profile("amber", deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=True)
if many := os.environ.get("AMBER_EXPLORE"):
    settings.register_profile("explore", settings.get_profile("amber"), derandomize=False, max_examples=int(many))
settings.load_profile("explore" if many else "amber")
