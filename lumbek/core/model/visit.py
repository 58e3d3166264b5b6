"""A visit to a job: with which instruments, leads nulled, how warm it was. Asked once, kept for every reading."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from lumbek.core.model.reading import Stamp
from lumbek.core.model.text import Id, Name, TemperatureC
from lumbek.core.value import Frozen

Day = Annotated[str, Field(pattern=r"^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$")]


class Instrument(Frozen):
    """A tester by its maker's name for it and its number, and the day until which its calibration holds."""

    name: Name
    serial: Name = ""
    calibrated_until: Day | None = None


class VisitMade(Frozen):
    """What is asked once on a visit. `lead_ohm` is what the leads read on each other before they were nulled."""

    instruments: Annotated[tuple[Instrument, ...], Field(max_length=8)] = ()
    lead_ohm: Annotated[float, Field(ge=0, le=10)] | None = None
    leads_nulled: bool = False
    ambient_c: TemperatureC = 20.0
    day: Day | None = None

    @property
    def expired(self) -> tuple[Instrument, ...]:
        """The instruments whose calibration had run out on the day of the visit."""
        day = self.day
        if day is None:
            return ()
        return tuple(each for each in self.instruments if each.calibrated_until and each.calibrated_until < day)


def copper_c(visits: Sequence[VisitMade]) -> float:
    """Return the temperature of the copper that readings are expected at: that of the last visit, else 20 °C."""
    return visits[-1].ambient_c if visits else 20.0


class Visit(VisitMade):
    """A visit as it is kept."""

    id: Id
    by: Name
    at: Stamp
