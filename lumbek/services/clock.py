"""The one place that asks what time it is."""

from datetime import UTC, datetime


def now() -> datetime:
    """Return the time, in UTC. Shown to the minute; kept finer, so that the last change comes first."""
    return datetime.now(UTC)


def stamp(moment: datetime) -> str:
    """Return a moment as readings carry it: 2026-01-31T09:30:00Z."""
    return moment.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def moment(text: str) -> datetime:
    """Return the moment that `stamp` wrote."""
    return datetime.strptime(text, "%Y-%m-%dT%H:%M:%SZ").replace(tzinfo=UTC)
