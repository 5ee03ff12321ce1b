from django.apps import AppConfig


class SetupBenchConfig(AppConfig):
    """Ring and pinion: trials, readings and the next move."""

    name = "setup_bench"
    verbose_name = "Set-up bench"

    def ready(self) -> None:
        """Answer for the steps of the run sheet that are the bench's own."""
        from setup_bench.checks import register_checks

        register_checks()
