"""So many in such a time, counted once for every worker and every web server: in the database that all of them share."""

from __future__ import annotations

import random
from datetime import timedelta

from django.db import connection
from django.db.models import F
from django.utils import timezone

from records.models import Allowance

_LONGEST_SPAN_S = 24 * 3600
_ONE_IN = 500
_TAKE = """
INSERT INTO records_allowance AS kept (key, began, used) VALUES (%(key)s, clock_timestamp(), 1)
ON CONFLICT (key) DO UPDATE SET
    used = CASE WHEN kept.began > EXCLUDED.began - make_interval(secs => %(span)s) THEN least(kept.used, 1000000000) ELSE 0 END + 1,
    began = CASE WHEN kept.began > EXCLUDED.began - make_interval(secs => %(span)s) THEN kept.began ELSE EXCLUDED.began END
RETURNING used
"""


def take(key: str, *, most: int, span_s: float) -> bool:
    """One more under `key`; False when that is more than `most` since the first of the last `span_s` seconds.

    One statement, so that however many ask at once no more than `most` are let through. What is refused counts too: who goes on
    asking goes on waiting until the span is over.
    """
    if random.randrange(_ONE_IN) == 0:  # noqa: S311 - when to tidy up is no secret
        Allowance.objects.filter(began__lt=timezone.now() - timedelta(seconds=_LONGEST_SPAN_S)).delete()
    with connection.cursor() as cursor:
        cursor.execute(_TAKE, {"key": key[:200], "span": span_s})
        return bool(cursor.fetchone()[0] <= most)


def give_back(*keys: str) -> None:
    """One less: what was taken turned out not to count."""
    Allowance.objects.filter(key__in=[key[:200] for key in keys], used__gt=0).update(used=F("used") - 1)


def forget(*keys: str) -> None:
    """Start counting again."""
    Allowance.objects.filter(key__in=[key[:200] for key in keys]).delete()
