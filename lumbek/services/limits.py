"""How often a sign-in may fail: the longer the slower, without anybody being locked out for what others do.

Counted by account and place together: an address, or a device that the person has signed in on. Beyond that, tries from
one address over all accounts, and on one account from all addresses, are held back too; but not where that person has
signed in on that device, or from that address, before. An account that is held back everywhere else still opens to
whoever has the code of its second factor too.
"""

from datetime import datetime, timedelta
from math import ceil

from sqlalchemy.orm import Session

from lumbek.core.numbers import counted
from lumbek.services.errors import TooManyAttemptsError
from lumbek.settings import Settings
from lumbek.store import people


def hold_back(
    db: Session, settings: Settings, email: str, place: str, moment: datetime, known: bool
) -> TooManyAttemptsError | None:
    """Raise TooManyAttemptsError, with when to try again, where too many sign-ins have failed.

    `place` is an address, or a device that is `known`. It is returned, not raised, where only the account is held back:
    what the second factor's code may open.
    """
    # Counted and set down as a try in one step, one after another: many at once do not slip past the limit.
    people.hold_sign_ins(db, email, place)
    since = moment - timedelta(minutes=settings.sign_in_window_minutes)
    own = _wait(people.failures(db, since, email=email, address=place), settings.sign_in_failures_per_account)
    if own is not None:
        raise _too_many(own - since)
    if known:
        return None
    most = settings.sign_in_failures_per_address
    from_here, on_account = (
        _wait(people.failures(db, since, **each), most) for each in ({"address": place}, {"email": email})
    )
    if (from_here or on_account) is None or people.has_signed_in_from(db, email, place):
        return None
    if from_here is not None:
        raise _too_many(from_here - since)
    return None if on_account is None else _too_many(on_account - since, ": with your authenticator's code at once, or")


def is_held(db: Session, settings: Settings, email: str, moment: datetime) -> bool:
    """Whether so many sign-ins of an account have failed that it is held back wherever its person is not known."""
    since = moment - timedelta(minutes=settings.sign_in_window_minutes)
    return len(people.failures(db, since, email=email)) >= settings.sign_in_failures_per_address


def _too_many(left: timedelta, how: str = "") -> TooManyAttemptsError:
    seconds = max(1, ceil(left.total_seconds()))
    minutes = counted(ceil(seconds / 60), "minute", "minutes")
    where = " on this account. Sign in on a device you know" if how else " from here. Try again"
    return TooManyAttemptsError(f"Too many failed sign-ins{where}{how} in {minutes}.", seconds)


def _wait(failed: list[datetime], most: int) -> datetime | None:
    """Return the failure that must fall out of the window before another try, of those in it, the oldest first."""
    return failed[len(failed) - most] if len(failed) >= most else None
