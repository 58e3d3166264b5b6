"""Insulation resistance between live conductors, and from them to earth."""

from dataclasses import dataclass
from statistics import median
from typing import ClassVar

from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.model.reading import Reading
from lumbek.core.numbers import plain
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class Insulation(Kind):
    """A reading in MΩ: no less than the limit, and worth a look where it is far under its fellows."""

    unit: ClassVar[str] = "MΩ"
    clause: ClassVar[str] = "test-insulation"

    def limit(self, taken: Taken, point: str | None) -> Limit:  # noqa: ARG002 - one for the circuit
        """Return the least insulation resistance."""
        least = taken.study.rulebook.data.testing.insulation_mohm
        return Limit(least, "at least", plain(least))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        rules, value = taken.study.rulebook.data.testing, reading.value or 0.0
        caution = ""
        met = hold(value, rules.insulation_mohm, "at least")[0] is Verdict.PASS
        if met and taken.peers_mohm and not reading.beyond:
            usual = median(taken.peers_mohm)
            if value < usual * rules.insulation_peer_fraction:
                caution = f"Passes, yet its fellows read about {plain(round(usual, 1))} MΩ: worth a look."
        return asks.question.held(
            taken.study,
            value,
            rules.insulation_mohm,
            "at least",
            said(reading, "MΩ"),
            unit="MΩ",
            place=asks.place,
            caution=caution,
            steps=(Step(text=f"At {plain(rules.insulation_v)} V d.c. no less than {plain(rules.insulation_mohm)} MΩ"),),
        )
