"""What falls due, as an iCalendar file (RFC 5545): the next inspection, RCD buttons, alarm tests."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta

_REMIND = timedelta(days=-30)


@dataclass(frozen=True)
class DueEvent:
    """A whole day on which something falls due, and how often again, as RFC 5545 has it: `MONTHLY` every `every`."""

    uid: str
    title: str
    words: str
    day: date
    every_months: int = 0


def calendar_ics(events: tuple[DueEvent, ...], made_at: datetime) -> bytes:
    """Return events as iCalendar: whole days, so that no zone is needed; a reminder 30 days before what comes once."""
    from icalendar import Alarm, Calendar, Event  # noqa: PLC0415 - large, and seldom wanted

    calendar = Calendar()
    calendar.add("prodid", "-//Lumbek//Due//EN")
    calendar.add("version", "2.0")
    for each in events:
        event = Event()
        event.add("uid", each.uid)
        event.add("dtstamp", made_at)
        event.add("dtstart", each.day)
        event.add("summary", each.title)
        event.add("description", each.words)
        if each.every_months:
            event.add("rrule", {"freq": "monthly", "interval": each.every_months})
        else:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", each.title)
            alarm.add("trigger", _REMIND)
            event.add_component(alarm)
        calendar.add_component(event)
    data: bytes = calendar.to_ical()
    return data
