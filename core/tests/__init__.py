"""No test says how fast this machine is today: neither a deadline nor slow drawing of examples fails one."""

from hypothesis import HealthCheck, settings

settings.register_profile("amber", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("amber")
