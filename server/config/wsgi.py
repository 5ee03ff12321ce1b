"""The WSGI entry point of gunicorn."""

import gc
import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
gc.disable()  # until all is loaded, which stays: to look through it for what could go takes a sixth of a start
application = get_wsgi_application()


def _warm_up() -> None:
    """Load the unit registry and the numerics now, not when the first reading comes in."""
    from amber_core.gearset.description import GearSetDescription
    from amber_core.gearset.geometry import complete_geometry
    from amber_core.quantities import parse

    parse("1", dimension="length", unit="mm")
    complete_geometry(GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0))


_warm_up()
gc.collect()
gc.freeze()  # nor is it looked through each time that memory is tidied later
gc.enable()
