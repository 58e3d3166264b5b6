"""When the next inspection falls due: proposed with a reason, said by a person.

BS 7671 Part 6 leaves the interval to the inspector; these are the trade's usual greatest ones for dwellings.
"""

from lumbek.core.inspection.outcome import Outcome
from lumbek.core.value import Frozen

_OWNER_YEARS, _LET_YEARS, _SOON_YEARS = 10, 5, 1
_OLD_YEARS = 40


class NextProposed(Frozen):
    """So many years from now, and why."""

    years: int
    why: str
    day: str


def propose_next(day: str, outcome: Outcome, tenanted: bool, year: int | None) -> NextProposed:
    """Return when the next inspection is proposed, from a day as `2026-01-31`.

    A let home every 5 years or at a change of tenant, an owner's own every 10; sooner where it is old or was found
    unsatisfactory.
    """
    years, why = (
        (_LET_YEARS, "a let home: 5 years, or a change of tenant")
        if tenanted
        else (_OWNER_YEARS, "a home of one's own: 10 years")
    )
    if year is not None and int(day[:4]) - year > _OLD_YEARS and years > _LET_YEARS:
        years, why = _LET_YEARS, f"installed in {year}: 5 years"
    if outcome.word == "unsatisfactory":
        years, why = _SOON_YEARS, "unsatisfactory as found: a year, or when all is put right"
    return NextProposed(years=years, why=why, day=years_on(day, years))


def years_on(day: str, years: int) -> str:
    """Return the same day so many years on; 29 February becomes the 28th where there is none."""
    year, month, date = int(day[:4]) + years, day[5:7], day[8:]
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    return f"{year:04d}-{month}-{'28' if (month, date) == ('02', '29') and not leap else date}"
