"""The application's settings, with an empty endpoint beside it to measure against."""

from config.settings import *  # noqa: F403

ROOT_URLCONF = "benchmarks.urls"
