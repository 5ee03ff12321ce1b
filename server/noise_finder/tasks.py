"""What is done in the background, by the worker that ./amber starts beside the web server."""

from __future__ import annotations

from procrastinate import JobContext
from procrastinate.contrib.django import app

from noise_finder import services


@app.task(name="noise_finder.read_recording", queue="recordings")
def read_recording(recording_id: int) -> None:
    """Read a recording; a second time changes nothing."""
    services.read_in(recording_id)


@app.periodic(cron="*/2 * * * *")
@app.task(name="noise_finder.begin_anew", queue="recordings", queueing_lock="begin_anew", pass_context=True)
async def begin_anew(context: JobContext, timestamp: int) -> None:
    """What a killed worker left half done is begun anew."""
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs():
        await manager.retry_job(job)
