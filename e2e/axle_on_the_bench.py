"""The simulated axle under a browser test: it gives what somebody at the bench would read and paint."""

from __future__ import annotations

from typing import Literal

from amber_core.setup.question import SetupTrial
from demo_world.world import Sits, simulated_axle
from jobs.models import Job
from setup_bench.bench import Bench, bench_of


class AxleOnTheBench:
    """An axle that follows what the trials of a job's first piece of work say is in the housing."""

    def __init__(self, job: Job, truth: Sits) -> None:
        self.job = job
        bench = bench_of(job.pk)
        self.axle = simulated_axle(bench, truth, _housing(bench), seed=1)

    def fit(self) -> None:
        """The last trial's shims go in."""
        self.axle.fit(_housing(bench_of(self.job.pk)))

    def backlash(self) -> list[str]:
        """What the dial shows at each position, in hundredths of a millimetre."""
        return [f"{100 * one.value_mm:.0f}" for one in self.axle.backlash_round()]

    def painted(self, flank: Literal["drive", "coast"]) -> tuple[int, int]:
        """Middle of a patch in whole per cent: toe to heel, root to tip."""
        read = self.axle.painted(flank)
        return round(100 * read.u), round(100 * read.v)


def _housing(bench: Bench) -> SetupTrial:
    return bench.housing_of(bench.trials[-1], bench.trials[:-1])
