from django.apps import AppConfig


class DiffBenchConfig(AppConfig):
    """Place of all that is measured at the bench and is not ring and pinion."""

    name = "diff_bench"
    verbose_name = "Diff bench"

    def ready(self) -> None:
        """Offer tools to the steps of the run sheet, and tell what was measured last."""
        from diff_bench.steps import register_steps

        register_steps()
