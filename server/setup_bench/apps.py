from django.apps import AppConfig


class SetupBenchConfig(AppConfig):
    """Ring and pinion: trials, readings and the next move."""

    name = "setup_bench"
    verbose_name = "Set-up bench"
