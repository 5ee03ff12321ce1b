"""The simulated axle under a browser test: it gives what somebody at the bench would read and paint."""

from __future__ import annotations

from typing import Literal

from amber_core.setup.question import SetupTrial
from demo_world.world import Sits, simulated_axle
from jobs.models import Job
from setup_bench.question import depth_shims_mm, housing_of


class AxleOnTheBench:
    """An axle that follows what the job's trials say is in the housing."""

    def __init__(self, job: Job, truth: Sits) -> None:
        self.job = job
        self.axle = simulated_axle(job, truth, self._housing(), seed=1)

    def _housing(self) -> SetupTrial:
        trials = list(self.job.trials.with_readings())
        return housing_of(trials[-1], depth_shims_mm(trials, self.job.family)[-1])

    def fit(self) -> None:
        """The last trial's shims go in."""
        self.axle.fit(self._housing())

    def backlash(self) -> list[str]:
        """What the dial shows at each position, in hundredths of a millimetre."""
        return [f"{100 * one.value_mm:.0f}" for one in self.axle.backlash_round()]

    def painted(self, flank: Literal["drive", "coast"]) -> tuple[int, int]:
        """Middle of a patch in whole per cent: toe to heel, root to tip."""
        read = self.axle.painted(flank)
        return round(100 * read.u), round(100 * read.v)
