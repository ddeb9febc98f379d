"""A program's sessions for a calendar (iCalendar, RFC 5545)."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from icalendar import Calendar, Event, vRecur

from oddswap.errors import DomainError

DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


@dataclass(frozen=True)
class Appointment:
    """A session in the week.

    Args:
        uid: Names it for good, so that a calendar that has it already changes it.
        name: What stands in the calendar.
        day: Its weekday, of ``DAYS``.
        minutes: How long it takes.
        lines: What is done, a line each.
        place: Where; empty for anywhere.
    """

    uid: str
    name: str
    day: str
    minutes: int
    lines: Sequence[str]
    place: str = ""


def sessions_calendar(
    name: str, appointments: Sequence[Appointment], first: dt.date, clock: dt.time, weeks: int, made: dt.datetime
) -> bytes:
    """Sessions that come back every week, at the place's own time of day wherever the calendar is read.

    Args:
        name: The calendar's.
        appointments: Sessions of a week.
        first: No session is before this day.
        clock: Time of day they begin.
        weeks: How many times each comes.
        made: When this was made, UTC.

    Raises:
        DomainError: For a weekday that is none.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Odd Swap//Sessions//EN")
    calendar.add("version", "2.0")
    calendar.add("name", name)
    for one in appointments:
        if one.day not in DAYS:
            raise DomainError("days", one.day, f"weekdays, of {', '.join(DAYS)}", "Write for example mon,wed,fri")
        ahead = (DAYS.index(one.day) - first.weekday()) % 7
        # Without a time zone: six in the evening is six in the evening at the place.
        begins = dt.datetime.combine(first + dt.timedelta(days=ahead), clock)
        event = Event()
        event.add("uid", one.uid)
        event.add("dtstamp", made)
        event.add("dtstart", begins)
        event.add("dtend", begins + dt.timedelta(minutes=one.minutes))
        event.add("rrule", vRecur(freq="WEEKLY", count=weeks))
        event.add("summary", one.name)
        event.add("description", "\n".join(one.lines))
        if one.place:
            event.add("location", one.place)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
