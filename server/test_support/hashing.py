"""The password check, without what makes it slow and large on purpose: a run of the tests makes and checks some thousands."""

from __future__ import annotations

from django.contrib.auth.hashers import Argon2PasswordHasher


class QuickArgon2(Argon2PasswordHasher):
    """One pass over the least memory that argon2 takes."""

    time_cost, memory_cost, parallelism = 1, 8, 1
