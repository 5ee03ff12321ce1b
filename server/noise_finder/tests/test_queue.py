"""The queue in the database as a worker leaves it: killed in the middle, or still alive."""

from __future__ import annotations

from unittest import mock

from asgiref.sync import async_to_sync
from django.db import connection
from django.test import TransactionTestCase
from procrastinate import JobContext
from procrastinate.contrib.django import app

from noise_finder import tasks


class LeftHalfDone(TransactionTestCase):
    def begun(self, heartbeat: str | None) -> int:
        """A recording's task that a worker has begun; the worker showed itself last at `heartbeat`, or is gone altogether."""
        job: int = tasks.read_recording.defer(recording_id=1)
        with connection.cursor() as cursor:
            worker = None
            if heartbeat is not None:
                cursor.execute(f"INSERT INTO procrastinate_workers (last_heartbeat) VALUES ({heartbeat}) RETURNING id")
                (worker,) = cursor.fetchone() or (None,)
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing', worker_id = %s WHERE id = %s", [worker, job])
        return job

    def status(self, job: int) -> str:
        with connection.cursor() as cursor:
            cursor.execute("SELECT status FROM procrastinate_jobs WHERE id = %s", [job])
            (found,) = cursor.fetchone() or ("gone",)
        return str(found)

    @staticmethod
    def begin_anew() -> None:
        async_to_sync(tasks.begin_anew.func)(mock.Mock(spec=JobContext, app=app), 0)

    def test_a_killed_workers_recording_waits_again_and_a_living_ones_goes_on(self) -> None:
        gone, silent = self.begun(None), self.begun("now() - interval '10 minutes'")
        alive, done = self.begun("now()"), self.begun("now()")
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'succeeded' WHERE id = %s", [done])
        self.begin_anew()
        self.assertEqual([self.status(job) for job in (gone, silent, alive, done)], ["todo", "todo", "doing", "succeeded"])

    def test_nothing_left_half_done_is_nothing_to_do(self) -> None:
        waiting: int = tasks.read_recording.defer(recording_id=1)
        self.begin_anew()
        self.assertEqual(self.status(waiting), "todo")
