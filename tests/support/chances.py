"""What a house that is made by its number draws: whether, which of several, how much, and what nobody has said."""

import random
from typing import Any

Made = dict[str, Any]


class Chances:
    """What a house is made of by its number, and how it is drawn."""

    def __init__(self, number: int) -> None:
        """Take the chances of a house by its number."""
        self.chance = random.Random(number)
        self.number = number
        # Sound: all is known of it, and nothing is wrong by intent.
        self.is_sound = False
        self.is_iec = self.often(0.25)
        self.is_old = self.often(0.5)
        self.phases = 3 if self.often(0.4 if self.is_iec else 0.08) else 1
        self.earthing = self.one(("TN-S", "TN-C-S", "TN-C-S", "TT"))
        self.ze_ohm = round(self.chance.uniform(18, 190), 1) if self.earthing == "TT" else self.about(0.08, 0.8)
        self.is_sound = self.often(0.3)

    def often(self, part: float) -> bool:
        """Whether it is so, in this part of all houses."""
        return self.chance.random() < part

    def one(self, several: tuple[Any, ...]) -> Any:
        """One of several."""
        return several[int(self.chance.random() * len(several))]

    def usually(self, good: Any, *others: Any) -> Any:
        """What it should be; or one of others, where the house is not sound."""
        found = self.one((good, *others))
        return good if self.is_sound else found

    def about(self, least: float, most: float) -> float:
        """A figure between two."""
        return round(self.chance.uniform(least, most), 2)

    def perhaps(self, value: Any, part: float = 0.75) -> Any:
        """A value, or that nobody has said."""
        return value if self.often(1 - (1 - part) / 20 if self.is_sound and part > 0.5 else part) else None
