"""The instrument of the simulated house: leads, battery, noise, display, and the house it is hooked up to."""

import math
import random
from dataclasses import dataclass, field
from typing import Any

from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS, Mishap, something_goes_wrong

PROTOCOL = 1
NAME, SERIAL, CALIBRATED_UNTIL = "Practice tester", "SIM-0042", "2027-06-30"
FUNCTIONS = ("ohms", "insulation", "loop", "rcd", "seen")
# It shows no more than this: Ω, MΩ, Ω of a loop, ms.
_MOST = {"ohms": 1999.0, "insulation": 999.0, "loop": 1999.0, "rcd": 300.0}
_UNIT = {"ohms": "Ω", "insulation": "MΩ", "loop": "Ω", "rcd": "ms", "seen": ""}
# Noise, as a part of the reading and in its unit; and steps of the display.
_NOISE = {"ohms": (0.01, 0.01), "insulation": (0.03, 0.02), "loop": (0.03, 0.02), "rcd": (0.02, 0.5)}
_STEPS = {"ohms": 2, "insulation": 2, "loop": 2, "rcd": 0}
_DRAIN = {"ohms": 0.0004, "insulation": 0.002, "loop": 0.001, "rcd": 0.001, "seen": 0.0}
_TOO_LOW = 0.05
Message = dict[str, Any]


class BadRequestError(Exception):
    """A message that cannot be followed; says why."""


@dataclass
class Tester:
    """The instrument: its leads, its battery, and the house that it is hooked up to."""

    seed: int = 1
    mishap: str = "none"
    battery: float = 1.0
    chance: random.Random = field(init=False)
    lead_ohm: float = field(init=False)
    nulled_ohm: float = 0.0
    house: Installed | None = None
    done: Mishap | None = None
    # What the loop has outside, and whether the RCD has tripped and waits to be reset.
    ze_ohm: float = 0.2
    tripped: bool = False

    def __post_init__(self) -> None:
        self.chance = random.Random(self.seed)  # noqa: S311 - chance of a simulation, no secret
        self.lead_ohm = self.chance.uniform(0.03, 0.12)

    def hello(self) -> Message:
        """Say what it is."""
        return {
            "says": "hello",
            "protocol": PROTOCOL,
            "name": NAME,
            "serial": SERIAL,
            "calibrated_until": CALIBRATED_UNTIL,
            "functions": list(FUNCTIONS),
            "battery": round(self.battery, 3),
            "simulated": True,
        }

    def hook_up(self, circuit: Message) -> Message:
        """Be clipped to a circuit: as drawn it is this, and as installed whatever the seed makes of it."""
        try:
            chance = random.Random(f"{self.seed}/{circuit.get('name', '')}")  # noqa: S311 - no secret either
            self.house = Installed(circuit, chance)
            self.ze_ohm = float(circuit.get("ze_ohm") or 0.2) * chance.uniform(0.92, 1.08)
            kind = self.mishap
            if kind == "any":
                kind = chance.choice(EVERYWHERE + (IN_RINGS if circuit.get("ring") else ()))
            self.done = None if kind == "none" else something_goes_wrong(self.house, kind)
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as error:
            self.house = None
            raise BadRequestError(f"this is no circuit: {error!r}"[:200]) from error
        return {"says": "hooked-up", "points": len(circuit["points"])}

    def null_leads(self) -> Message:
        """Take off what the leads read on each other, nearly."""
        self.nulled_ohm = self.lead_ohm + self.chance.uniform(-0.01, 0.01)
        return {"says": "nulled", "lead_ohm": round(self.lead_ohm, 2)}

    def take(self, how: Message) -> Message:
        """Take one reading."""
        if self.battery < _TOO_LOW:
            raise BadRequestError("the battery is too low: no reading can be trusted")
        if self.house is None:
            raise BadRequestError("not hooked up to any circuit")
        function = how.get("function")
        if function not in FUNCTIONS:
            raise BadRequestError(f"no such function: {str(function)[:40]}")
        self.battery -= _DRAIN[function]
        try:
            value, right = self._ideal(function, how)
        except (KeyError, TypeError, ValueError, IndexError) as error:
            raise BadRequestError(f"this cannot be followed: {error!r}"[:200]) from error
        found: Message = {"function": function, "unit": _UNIT[function], "battery": round(self.battery, 3)}
        if function == "seen":
            return {**found, "correct": right}
        part, step = _NOISE[function]
        most = _MOST[function]
        if math.isinf(value) or value > most:
            return {**found, "value": most, "beyond": True}
        shown = value * (1 + self.chance.gauss(0, part / 2)) + self.chance.gauss(0, step / 2)
        if function in ("ohms", "loop"):
            shown += self.lead_ohm - self.nulled_ohm
        return {**found, "value": max(0.0, round(shown, _STEPS[function])), "beyond": shown > most}

    def _ideal(self, function: str, how: Message) -> tuple[float, bool]:
        """Return what an ideal instrument would show, and what would be seen to be right."""
        assert self.house is not None
        if function == "rcd":
            # It trips between a tenth and a third of what is allowed, at five times the current sooner.
            self.tripped = True
            return self.chance.uniform(18, 38) / (2.0 if how.get("times") == 5 else 1.0), True
        if function == "seen":
            # Polarity at every point: line to neutral behind the plate is what it should be.
            return 0.0, self.done is None or self.done.kind not in ("accessory reversed", "cores crossed")
        ohm = self.house.read({**how, "function": "insulation" if function == "insulation" else "ohms"})
        return ohm + (self.ze_ohm if function == "loop" else 0.0), True
