"""Whose records are asked for: those of one workshop of the installation, of every one, or of none.

A request belongs to one workshop from its first line on (config/whose.py); commands and the worker see everything.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any, TypeVar

from django.db import models

EVERY: None = None
NOBODY = 0
"""No workshop has this number: nothing is found."""

_shop: ContextVar[int | None] = ContextVar("the workshop that is asked for", default=EVERY)
_Row = TypeVar("_Row", bound=models.Model)
_Rows = TypeVar("_Rows", bound="models.QuerySet[Any]")


def shop_now() -> int | None:
    """The workshop that is asked for; EVERY, or NOBODY."""
    return _shop.get()


@contextmanager
def in_shop(shop: int | None) -> Iterator[None]:
    """Within, the records of this workshop alone are found."""
    token = _shop.set(shop)
    try:
        yield
    finally:
        _shop.reset(token)


def turn_to(shop: int | None) -> None:
    """From here to the end of the `in_shop` around it another workshop is asked for."""
    _shop.set(shop)


def within(rows: _Rows, path: str = "shop") -> _Rows:
    """Those rows that belong to the workshop of now, by the path that leads to it."""
    shop = shop_now()
    return rows if shop is EVERY else rows.filter(**{path: shop})


class OfShop(models.Manager[_Row]):
    """Finds the rows of the workshop of now; a key that leads to a row finds it whosever it is."""

    def get_queryset(self) -> models.QuerySet[_Row]:
        """The rows of that workshop."""
        return within(super().get_queryset())


class OfShopOrShared(models.Manager[_Row]):
    """Finds the rows of the workshop of now, and those that another one shares; its own ones come first where an order says nothing."""

    def get_queryset(self) -> models.QuerySet[_Row]:
        """Own rows and shared ones."""
        rows, shop = super().get_queryset(), shop_now()
        return rows if shop is EVERY else rows.filter(models.Q(shop=shop) | models.Q(shared=True))
