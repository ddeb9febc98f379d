"""Which coach a request acts for. On one's own machine nobody signs in, and the file is one coach's."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from oddswap.store.models import Coach, SignIn, database, now

LASTS = dt.timedelta(days=14)
"""How long a sign-in holds (own choice)."""
_acting: ContextVar[int | None] = ContextVar("acting", default=None)


def acting_coach() -> int | None:
    """Number of the coach who signed in; None where nobody has to."""
    return _acting.get()


@contextmanager
def acting_for(coach: int | None) -> Iterator[None]:
    """Act for a coach inside."""
    token = _acting.set(coach)
    try:
        yield
    finally:
        _acting.reset(token)


@dataclass(frozen=True)
class CoachLogin:
    """A coach as known for signing in."""

    id: int
    name: str
    password: str | None
    """Hash of the password; None where none was set."""


def coaches() -> list[CoachLogin]:
    """All coaches of this file."""
    return [CoachLogin(c.id, c.name, c.password) for c in Coach.select().order_by(Coach.id)]


def set_password(name: str, hashed: str) -> int:
    """Set a coach's password by its hash, making the coach where there is none of this name; all sign-ins end."""
    with database.atomic():
        row = Coach.get_or_none(Coach.name == name)
        if row is None and Coach.select().count() == 1 and Coach.get().password is None:
            # The coach of a file that was one's own so far.
            row = Coach.get()
            Coach.update(name=name).where(Coach.id == row.id).execute()
        number = int(row.id) if row is not None else int(Coach.create(name=name).id)
        Coach.update(password=hashed).where(Coach.id == number).execute()
        sign_out(number)
        return number


def sign_in(coach: int) -> str:
    """A new sign-in; returns its secret, of which only a digest is kept."""
    secret = secrets.token_urlsafe(32)
    SignIn.delete().where(SignIn.expires_at < now()).execute()
    SignIn.create(coach=coach, digest=_digest(secret), expires_at=now() + LASTS)
    return secret


def signed_in(secret: str) -> int | None:
    """The coach whose sign-in this is; None where it is none, or too old."""
    row = SignIn.get_or_none(SignIn.digest == _digest(secret)) if secret else None
    return int(row.coach_id) if row is not None and row.expires_at > now() else None


def sign_out(coach: int, secret: str = "") -> None:
    """End one sign-in of a coach, or all of them."""
    rows = SignIn.delete().where(SignIn.coach == coach)
    (rows.where(SignIn.digest == _digest(secret)) if secret else rows).execute()


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()
