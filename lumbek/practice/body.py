"""What a body would have carried: told plainly, for what was touched before it was proved dead.

Hand to feet, some 1000 Ω at mains voltage (IEC 60479-1, table of total body impedance, 5 % of people below): Ohm's law.
Beyond 30 mA a hand cannot let go and breathing is hard; beyond 50 mA for longer than a heartbeat the heart may stop
(IEC 60479-1, zones AC-3 and AC-4).
"""

from collections.abc import Mapping
from math import ceil

from lumbek.core.model.job import RulebookId
from lumbek.core.numbers import plain

BODY_OHM = 1000.0
# By which nobody works on what is not proved dead.
DEAD_FIRST: Mapping[RulebookId, str] = {"bs7671": "EAWR 1989, 12 to 14", "iec60364": "EN 50110-1, 6.2"}
_NO_LETTING_GO_MA, _HEART_MA = 30, 50


def body_ma(u0_v: float, ahead_ohm: float = 0.0) -> int:
    """Return the current through a body, in mA up, from a voltage over it and what is in series, Ω."""
    return ceil(1000 * u0_v / (BODY_OHM + ahead_ohm) - 1e-9)


def through_a_body(u0_v: float, what: str, ahead_ohm: float = 0.0) -> str:
    """Return what touching something live would have done, in words."""
    current = body_ma(u0_v, ahead_ohm)
    harm = (
        "enough to stop a heart within a beat"
        if current > _HEART_MA
        else "enough that a hand does not let go"
        if current > _NO_LETTING_GO_MA
        else "felt, and enough for a fall from a ladder"
    )
    return f"You touched {what}: {plain(u0_v)} V, hand to feet {current} mA, {harm}. The exercise ends here."
