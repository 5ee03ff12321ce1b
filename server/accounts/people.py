"""The logins of the workshop, made and changed by a foreman; every change stays on the record."""

from __future__ import annotations

import re

from django.db import transaction
from django.shortcuts import get_object_or_404

from accounts import policy
from accounts.models import PersonChange, Role, User
from accounts.passwords import require_strong
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal

_NAME = re.compile(r"[a-z0-9][a-z0-9._-]{0,39}")


@transaction.atomic
def add(writing: Writing, *, username: str, display_name: str, role: str, password: str) -> User:
    """A new login.

    Raises
    ------
    NotAllowed, Refusal, Conflict
        When the name is not one, is there already, or the password too weak.
    """
    policy.require(writing.by, "shop_settings")
    if not _NAME.fullmatch(username):
        raise Refusal(say("A login name has letters a to z, digits, dots and dashes, without spaces."), field="username")
    _require_name(display_name)
    if User.objects.filter(username__iexact=username).exists():
        raise Conflict(say("The login name {name} is already in use.", name=username), code="name_in_use")
    person = User(username=username, display_name=display_name, role=role)
    require_strong(password, person, field="password")
    person.set_password(password)
    person.save()
    _note(writing, person, password_set=True)
    return person


@transaction.atomic
def change(writing: Writing, person_id: int, *, display_name: str | None, role: str | None, active: bool | None) -> User:
    """Another name or role, or a login that is closed or opened again; None leaves one as it is.

    Raises
    ------
    NotAllowed, Refusal, Conflict
        When it would leave the workshop without a foreman, or closes one's own login.
    """
    policy.require(writing.by, "shop_settings")
    person = _locked(person_id)
    was_foreman = person.is_active and person.role == Role.FOREMAN
    if display_name is not None:
        _require_name(display_name)
        person.display_name = display_name
    if active is False and person.pk == writing.by.pk:
        raise Refusal(say("You cannot close your own login. Another foreman can."), field="active")
    person.role = role or person.role
    person.is_active = person.is_active if active is None else active
    others = User.objects.filter(shop=person.shop_id, role=Role.FOREMAN, is_active=True, is_superuser=False).exclude(pk=person.pk)
    if was_foreman and not (person.is_active and person.role == Role.FOREMAN) and not others.exists():
        raise Conflict(say("This is the last foreman. Make somebody else a foreman first."), code="last_foreman")
    person.save(update_fields=["display_name", "role", "is_active"])
    _note(writing, person)
    return person


@transaction.atomic
def set_password(writing: Writing, person_id: int, *, password: str) -> User:
    """Another password for somebody who lost theirs; their devices are signed out.

    Raises
    ------
    NotAllowed, Refusal
        When it is too weak, or one's own.
    """
    policy.require(writing.by, "shop_settings")
    person = _locked(person_id)
    if person.pk == writing.by.pk:
        raise Refusal(say("Change your own password under your name."), field="password")
    require_strong(password, person, field="password")
    person.set_password(password)
    person.save(update_fields=["password"])
    _note(writing, person, password_set=True)
    return person


def _locked(person_id: int) -> User:
    """The person, with every login locked in one order, so that two foremen do not take each other's role away at once."""
    list(User.objects.select_for_update().order_by("pk").values_list("pk", flat=True))
    person = get_object_or_404(User, pk=person_id)
    if person.is_superuser:
        raise Refusal(say("This login belongs to whoever looks after the server, and is changed there."))
    return person


def _require_name(name: str) -> None:
    if not name:
        raise Refusal(say("Enter the person's name."), field="display_name")


def _note(writing: Writing, person: User, *, password_set: bool = False) -> None:
    PersonChange.objects.create(
        person=person,
        display_name=person.display_name,
        role=person.role,
        active=person.is_active,
        password_set=password_set,
        **writing.row(),
    )
