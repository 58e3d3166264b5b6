"""How often a sign-in may fail: the longer the slower, without anybody being locked out for what others do.

Counted by account and address together. Beyond that, tries from one address over all accounts, and on one account from
all addresses, are held back too; but not where that person has signed in from that address before.
"""

from datetime import datetime, timedelta
from math import ceil

from sqlalchemy.orm import Session

from lumbek.services.errors import TooManyAttemptsError
from lumbek.settings import Settings
from lumbek.store import people


def hold_back(db: Session, settings: Settings, email: str, address: str, moment: datetime) -> None:
    """Raise TooManyAttemptsError, with when to try again, where too many sign-ins have failed."""
    # Counted and set down as a try in one step, one after another: many at once do not slip past the limit.
    people.hold_sign_ins(db, email, address)
    since = moment - timedelta(minutes=settings.sign_in_window_minutes)
    own = [_wait(people.failures(db, since, email=email, address=address), settings.sign_in_failures_per_account)]
    others = [
        _wait(people.failures(db, since, **each), settings.sign_in_failures_per_address)
        for each in ({"address": address}, {"email": email})
    ]
    # The whole audit is gone through for this: only where it decides.
    if any(others) and people.has_signed_in_from(db, email, address):
        others = []
    until = max((each for each in (*own, *others) if each is not None), default=None)
    if until is None:
        return
    seconds = max(1, ceil((until - since).total_seconds()))
    minutes = ceil(seconds / 60)
    raise TooManyAttemptsError(
        f"Too many failed sign-ins from here. Try again in {minutes} minute{'s' if minutes > 1 else ''}.", seconds
    )


def _wait(failed: list[datetime], most: int) -> datetime | None:
    """Return the failure that must fall out of the window before another try, of those in it, the oldest first."""
    return failed[len(failed) - most] if len(failed) >= most else None
