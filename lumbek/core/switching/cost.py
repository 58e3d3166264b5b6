"""What a run costs by the cores it must carry: what is in it already first, then the cheapest cables beside it."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from lumbek.core.model.scheme import Route, Wishes

# No run of a house carries more.
MOST_CORES = 60


@dataclass(frozen=True)
class Fill:
    """The cables that carry so many cores: which of those there are, how many cores each new one has, the price."""

    price: float
    kept: tuple[int, ...] = ()
    new: tuple[int, ...] = ()


@dataclass(frozen=True)
class RunCost:
    """The cables of one run. `prices` are those of a metre by live cores, a metre of two-core cable being 1."""

    route: Route
    wishes: Wishes
    prices: Mapping[int, float]

    @property
    def holds(self) -> int:
        """How many live cores the cables in it have."""
        return sum(cable.live for cable in self.route.cables)

    @property
    def most(self) -> int | None:
        """The most cores it can ever carry; None where cable can be added."""
        if not self.route.closed:
            return None
        cables = [cable.live for cable in self.route.cables]
        spare = 1 if self.wishes.spare_core else 0
        return max(0, (max(cables, default=0) if self.wishes.one_cable else sum(cables)) - spare)

    def fill(self, cores: int) -> Fill | None:
        """Return the cables that carry so many live cores; None where they cannot be had."""
        if cores <= 0:
            return Fill(0.0)
        wanted = cores + (1 if self.wishes.spare_core else 0)
        kept = self._kept(wanted)
        if kept is not None:
            return Fill(0.0, kept=kept)
        if self.route.closed:
            return None
        if self.wishes.one_cable:
            fits = [(price, live) for live, price in self.prices.items() if live >= wanted]
            return Fill(min(fits)[0], new=(min(fits)[1],)) if fits else None
        price, new = _cheapest(wanted - self.holds, tuple(sorted(self.prices.items())))
        return Fill(price, kept=tuple(range(len(self.route.cables))), new=new)

    def _kept(self, cores: int) -> tuple[int, ...] | None:
        """Return the fewest of the cables there that carry so many; None where they do not."""
        by_size = sorted(range(len(self.route.cables)), key=lambda index: (self.route.cables[index].live, index))
        single = next((index for index in by_size if self.route.cables[index].live >= cores), None)
        if single is not None:
            return (single,)
        if self.wishes.one_cable or self.holds < cores:
            return None
        taken, left = list[int](), cores
        for index in reversed(by_size):
            if left > 0:
                taken.append(index)
                left -= self.route.cables[index].live
        return tuple(sorted(taken))


@cache
def _cheapest(cores: int, prices: tuple[tuple[int, float], ...]) -> tuple[float, tuple[int, ...]]:
    """Return the least price of cables with so many live cores together, and their sizes.

    Only cables of up to three cores lie side by side: what has more is bought to have all in one.
    """
    if cores <= 0:
        return 0.0, ()
    found = []
    for live, price in prices:
        if live <= 3:
            rest, more = _cheapest(cores - live, prices)
            found.append((price + rest, tuple(sorted((live, *more), reverse=True))))
    return min(found, key=lambda each: (round(each[0], 9), len(each[1]), each[1]))
