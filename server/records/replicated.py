"""Whether what was stored lies on the standby too, where one has to have it."""

from __future__ import annotations

from typing import Any

from django.db import OperationalError, connection
from django.db.backends.base.base import BaseDatabaseWrapper
from psycopg.errors import Diagnostic

_WAITS = "SyncRepWaitForLSN"
_UNSURE = "_amber_not_on_the_standby"


def listen(sender: object, connection: BaseDatabaseWrapper, **more: Any) -> None:
    """For Django's `connection_created`: a commit whose wait for the standby was cut short succeeds, and says so only in a warning."""

    def warned(told: Diagnostic) -> None:
        if told.source_function == _WAITS:
            setattr(connection, _UNSURE, True)

    connection.connection.add_notice_handler(warned)


def make_sure() -> None:
    """After a commit.

    Raises
    ------
    OperationalError
        When the standby may not have it: it is not acknowledged, and whoever wrote it sends it again under its id.
    """
    if getattr(connection, _UNSURE, False):
        setattr(connection, _UNSURE, False)
        raise OperationalError("The wait for the standby was cut short.")
