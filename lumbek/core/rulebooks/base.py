"""A data pack: what a rulebook says, and its clauses."""

from dataclasses import dataclass
from functools import cached_property
from importlib.resources.abc import Traversable

from lumbek.core.judging.check import Clause
from lumbek.core.model.job import RulebookId
from lumbek.core.rulebooks.rules import RulebookData


@dataclass(frozen=True)
class Pack:
    """A data pack with what both rulebooks share beside it, and its clauses."""

    data: RulebookData
    pack: Traversable
    common: Traversable

    @property
    def id(self) -> RulebookId:
        """The rulebook's id in jobs and results."""
        return self.data.id

    @property
    def u0_v(self) -> float:
        """Nominal voltage line to earth, V."""
        return self.data.supply.u0_v

    def clause(self, key: str) -> Clause:
        """Return the clause that a check applies; KeyError for an unknown key."""
        return self._clauses[key]

    @cached_property
    def _clauses(self) -> dict[str, Clause]:
        short = self.data.short
        return {key: Clause(rulebook=short, ref=each.ref, text=each.text) for key, each in self.data.clauses.items()}
