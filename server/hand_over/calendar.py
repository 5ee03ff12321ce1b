"""The dates of a hand-over as a calendar file (RFC 5545); what comes due by odometer stands in the words of the first day."""

from __future__ import annotations

from datetime import date, timedelta

from icalendar import Calendar, Event

from amber_core.words import Said, say
from hand_over.models import FollowUp, HandOver


def ics_of(given: HandOver) -> bytes:
    """The calendar file of a hand-over."""
    calendar = Calendar()
    calendar.add("prodid", "-//Amber Pinion//hand-over//EN")
    calendar.add("version", "2.0")
    due = list(given.follow_ups.all())
    for one in due:
        if one.on_date is not None:
            calendar.add_component(_event(given, one.code, Said.of(one.text).told(), one.on_date))
    by_km = [one for one in due if one.on_date is None and _km(one)]
    if by_km:
        lines = "\n".join(f"{_km(one)}: {Said.of(one.text).told()}" for one in by_km)
        calendar.add_component(_event(given, "by_odometer", say("Look at the odometer").told(), given.at.date() + timedelta(days=7), lines))
    return bytes(calendar.to_ical())


def _event(given: HandOver, code: str, words: str, day: date, more: str = "") -> Event:
    event = Event()
    event.add("uid", f"{given.client_id}-{code}@amber-pinion")
    event.add("dtstamp", given.at)
    event.add("dtstart", day)
    event.add("summary", f"{given.job.vehicle.name}: {words}")
    if more:
        event.add("description", more)
    return event


def _km(one: FollowUp) -> str:
    if one.from_km is not None and one.until_km is not None:
        return say("{from_km:.0f} to {until_km:.0f} km", from_km=one.from_km, until_km=one.until_km).told()
    return say("at {at_km:.0f} km", at_km=one.at_km).told() if one.at_km is not None else ""
