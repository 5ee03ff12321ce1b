from django.apps import AppConfig


class DiffBenchConfig(AppConfig):
    """Place of clutch packs, lockers, end play, runout, fits and wheel ends."""

    name = "diff_bench"
    verbose_name = "Diff bench"
