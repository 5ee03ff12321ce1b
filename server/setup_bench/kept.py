"""A bench as it was last answered: all that it shows is in its rows, and it is worked out again only when one of them has changed."""

from __future__ import annotations

from functools import lru_cache
from uuid import UUID

from django.http import HttpResponse

from amber_core.words.reader import Reader, current
from records.writing import body_of, in_json
from setup_bench.bench import bench_made_of, rows_of_bench
from setup_bench.present import bench_out
from setup_bench.schemas import BenchOut


def bench_answer(work_id: UUID) -> HttpResponse:
    """The bench of a piece of work.

    Raises
    ------
    Http404
        When there is none.
    """
    return in_json(_body(work_id, rows_of_bench(work_id), current()))


@lru_cache(maxsize=64)
def _body(work_id: UUID, rows: tuple[str | None, ...], reader: Reader) -> str:
    return body_of(BenchOut, bench_out(bench_made_of(work_id, rows)))
