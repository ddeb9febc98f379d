"""Changes of what a coach keeps: held against the revision that was read, kept with what was before, undone and done again."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from oddswap.store.acting import acting_coach
from oddswap.store.models import Client, Coach, Creation, Edit, Measurement, Place, Program, database, now

Kind = Literal["client", "place", "program", "coach", "measurement"]
LISTED: dict[str, Any] = {"client": Client, "place": Place, "program": Program}
"""Records that stand on lists and can be put away."""
TABLES: dict[str, Any] = LISTED | {"coach": Coach, "measurement": Measurement}
REMEMBERED = 200
"""Changes of a record that can be undone."""


class MissingError(LookupError):
    """There is no such record."""

    def __init__(self, what: str, number: int) -> None:
        self.what, self.number = what, number
        super().__init__(f"there is no {what} {number}")


class StaleError(RuntimeError):
    """The record was changed by somebody else since it was read."""

    def __init__(self, what: str, number: int, revision: int) -> None:
        self.what, self.number, self.revision = what, number, revision
        super().__init__(f"the {what} was changed since it was read")


def row_of(kind: str, number: int) -> Any:
    """A record's row, put away or not.

    Raises:
        MissingError: If there is none.
    """
    row = TABLES[kind].get_or_none(TABLES[kind].id == number)
    if row is None or not is_own(kind, row):
        raise MissingError(kind, number)
    return row


def is_own(kind: str, row: Any) -> bool:
    """Whether a record is the coach's who acts; everything is where nobody has to sign in."""
    coach = acting_coach()
    if coach is None:
        return True
    if kind == "measurement":
        return bool((row.place.coach_id if row.place_id is not None else row.client.coach_id) == coach)
    if kind == "program":
        return bool(row.client.coach_id == coach)
    return bool((row.id if kind == "coach" else row.coach_id) == coach)


def own(table: type[Client] | type[Place]) -> Any:
    """Clients or places of the coach who acts, put away or not."""
    coach, rows = acting_coach(), table.select()
    return rows if coach is None else rows.where(table.coach == coach)


def revision(kind: str, number: int) -> int:
    """Which revision of a record this is, counted from 1.

    Raises:
        MissingError: If there is none.
    """
    return int(row_of(kind, number).revision)


def hold_against(kind: str, number: int, read: int | None) -> None:
    """Raise unless the record is still what was read; None asks nothing.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
    """
    is_now = revision(kind, number)
    if read is not None and read != is_now:
        raise StaleError(kind, number, is_now)


def change(kind: str, number: int, read: int | None, snapshot: Callable[[int], str], write: Callable[[], None]) -> None:
    """Change a record in one transaction, and keep what it was.

    Args:
        kind: Of record.
        number: Its number.
        read: Revision that the change was made on; None for a change that reads and writes in one.
        snapshot: Reads the whole record as JSON.
        write: Does it.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
    """
    with database.atomic():
        hold_against(kind, number, read)
        before = snapshot(number)
        write()
        after = snapshot(number)
        if before == after:
            return
        # What could have been done again is gone once something else was done.
        Edit.delete().where(Edit.kind == kind, Edit.number == number, Edit.undone_at.is_null(False)).execute()
        Edit.create(kind=kind, number=number, before=before, after=after)
        oldest = Edit.select(Edit.id).where(Edit.kind == kind, Edit.number == number).order_by(Edit.id.desc())
        Edit.delete().where(Edit.id.in_(oldest.offset(REMEMBERED))).execute()
        _advance(kind, number)


def _advance(kind: str, number: int) -> None:
    table = TABLES[kind]
    table.update(revision=table.revision + 1).where(table.id == number).execute()


def go_back(kind: str, number: int, write: Callable[[int, str], None]) -> bool:
    """Undo a record's newest change; False if there is none."""
    with database.atomic():
        revision(kind, number)
        held = Edit.select().where(Edit.kind == kind, Edit.number == number, Edit.undone_at.is_null())
        row = held.order_by(Edit.id.desc()).first()
        if row is None:
            return False
        write(number, row.before)
        Edit.update(undone_at=now()).where(Edit.id == row.id).execute()
        _advance(kind, number)
        return True


def go_forward(kind: str, number: int, write: Callable[[int, str], None]) -> bool:
    """Do the change again that was undone last; False if there is none."""
    with database.atomic():
        revision(kind, number)
        held = Edit.select().where(Edit.kind == kind, Edit.number == number, Edit.undone_at.is_null(False))
        row = held.order_by(Edit.id).first()
        if row is None:
            return False
        write(number, row.after)
        Edit.update(undone_at=None).where(Edit.id == row.id).execute()
        _advance(kind, number)
        return True


def ways(kind: str, number: int) -> tuple[bool, bool]:
    """Whether there is a change to undo, and one to do again."""
    held = Edit.select().where(Edit.kind == kind, Edit.number == number)
    return held.where(Edit.undone_at.is_null()).exists(), held.where(Edit.undone_at.is_null(False)).exists()


def put_away(kind: str, number: int, read: int | None) -> None:
    """Take a record off all lists; everything that hangs on it stays.

    Raises:
        MissingError: If there is none.
        StaleError: If it was changed since.
    """
    with database.atomic():
        hold_against(kind, number, read)
        TABLES[kind].update(put_away_at=now()).where(TABLES[kind].id == number).execute()
        _advance(kind, number)


def bring_back(kind: str, number: int) -> None:
    """Put a record that was put away back on the lists.

    Raises:
        MissingError: If there is none.
    """
    with database.atomic():
        revision(kind, number)
        TABLES[kind].update(put_away_at=None).where(TABLES[kind].id == number).execute()
        _advance(kind, number)


def delete_for_good(kind: str, number: int) -> bool:
    """Delete a record that was put away, with all that hangs on it; False where it is on the lists."""
    with database.atomic():
        row = row_of(kind, number)
        if row.put_away_at is None:
            return False
        TABLES[kind].delete().where(TABLES[kind].id == number).execute()
        Edit.delete().where(Edit.kind == kind, Edit.number == number).execute()
        Creation.delete().where(Creation.kind == kind, Creation.number == number).execute()
        return True


def create_once(kind: str, key: str, make: Callable[[], int]) -> int:
    """Make a record, or find the one that was made under the same key; returns its number.

    Args:
        kind: Of record.
        key: The maker's own; empty for none.
        make: Makes it and returns its number.
    """
    if key and acting_coach() is not None:
        key = f"{acting_coach()} {key}"
    with database.atomic():
        held = Creation.get_or_none(Creation.key == f"{kind} {key}") if key else None
        if held is not None:
            return int(held.number)
        number = make()
        if key:
            Creation.create(key=f"{kind} {key}", kind=kind, number=number)
        return number
