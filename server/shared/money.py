"""Amounts of money, which are stored in the smallest unit."""

from __future__ import annotations


def money(minor: int | None) -> str:
    """An amount in the smallest unit as it is written."""
    return "" if minor is None else f"{minor // 100}.{minor % 100:02d}"
