"""What several circuits draw together: by line, with the diversity of one dwelling."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.board.member import PLAIN, Member
from lumbek.core.judging.check import Step
from lumbek.core.model.board import LINES, Line
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import show
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.diversity import diversified_a


@dataclass(frozen=True)
class Part:
    """What a class of loads comes to on a line: how many, connected and with its diversity, A."""

    line: str
    kind: str
    count: int
    connected_a: float
    demand_a: float


@dataclass(frozen=True)
class Draw:
    """What circuits draw together, by line and class; `stated` where every circuit says its loads.

    `unplaced` are single-phase circuits of which nobody has said on which of three lines they are: they count on
    every line.
    """

    lines: tuple[str, ...]
    parts: tuple[Part, ...]
    unstated: tuple[str, ...]
    unplaced: tuple[str, ...]

    @property
    def stated(self) -> bool:
        """Whether every circuit says its loads."""
        return not self.unstated

    @cached_property
    def connected_a(self) -> Mapping[str, float]:
        """The connected load of each line in A."""
        return {line: sum(part.connected_a for part in self.parts if part.line == line) for line in self.lines}

    @cached_property
    def demand_a(self) -> Mapping[str, float]:
        """The demand of each line in A, with diversity."""
        return {line: sum(part.demand_a for part in self.parts if part.line == line) for line in self.lines}

    @property
    def greatest_a(self) -> float:
        """The demand of the fullest line in A."""
        return max(self.demand_a.values(), default=0.0)

    @property
    def greatest_connected_a(self) -> float:
        """The connected load of the fullest line in A."""
        return max(self.connected_a.values(), default=0.0)

    @property
    def steps(self) -> tuple[Step, ...]:
        """The working: each class, and each line together."""
        several, found = len(self.lines) > 1, list[Step]()
        for line in self.lines:
            for part in (part for part in self.parts if part.line == line):
                what = f"{_NAMES.get(part.kind, part.kind)}: {part.count} of {show(part.connected_a, 1)} A"
                found.append(Step(text=f"{line}, {what}" if several else what, sum=f"{show(part.demand_a, 1)} A"))
            if several or found:
                together = f"{line} together" if several else "Together"
                found.append(Step(text=together, sum=f"{show(self.demand_a[line], 1)} A"))
        return tuple(found)


def draw_of(
    rulebook: Rulebook,
    supply: Supply,
    on_lines: Mapping[str, Line | None],
    linked: Collection[str],
    members: Iterable[Member],
) -> Draw:
    """Return what circuits draw together, A in each line (311.1; guidance for one dwelling).

    Each class of load has its diversity over the whole; what has no class counts in full. A circuit that feeds a
    board counts by what hangs on that board, never twice: `linked` are those that do, by key. `on_lines` says on
    which line each circuit is, where somebody has said.
    """
    lines: tuple[str, ...] = LINES if supply.phases == 3 else LINES[:1]
    by_class: dict[str, dict[str, list[float]]] = {line: {} for line in lines}
    unstated, unplaced = [], list[str]()
    for member in members:
        draws = _draws(member, linked)
        if not draws:
            continue
        on = lines
        if supply.phases == 3 and member.phases == 1:
            line = on_lines.get(member.key)
            on = (line,) if line else on
            unplaced += [member.title] * (line is None)
        if not member.stated:
            unstated.append(member.title)
        for each in on:
            for kind, amperes in draws.items():
                by_class[each].setdefault(kind, []).extend(amperes)
    parts = []
    for name in lines:
        for kind, each_a in sorted(by_class[name].items()):
            # A cooker has had its diversity in its circuit.
            rule = None if kind in (PLAIN, "cooker") else rulebook.data.diversity.get(kind)
            connected = sum(each_a)
            drawn = connected if rule is None else diversified_a(rule, each_a)
            parts.append(Part(name, kind, len(each_a), connected, drawn))
    return Draw(lines, tuple(parts), tuple(unstated), tuple(unplaced))


def _draws(member: Member, linked: Collection[str]) -> dict[str, tuple[float, ...]]:
    """Return what a circuit draws by class, in A; what it feeds, where that does not hang on a board of the house."""
    draws = dict(member.draws)
    if member.feeds_a and member.key not in linked:
        draws[PLAIN] = (*draws.get(PLAIN, ()), member.feeds_a)
    return draws


_NAMES = {
    PLAIN: "In full",
    "lighting": "Lighting",
    "cooker": "Cooking, its own diversity taken",
    "instantaneous": "Water heated as it runs",
    "thermostatic": "Water heaters and storage heating",
    "fixed-heating": "Fixed heating",
    "sockets": "Socket circuits",
    "vehicle": "Vehicle charging",
}
