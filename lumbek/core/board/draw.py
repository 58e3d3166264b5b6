"""What several circuits draw together: by line, with the diversity of one dwelling."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass

from lumbek.core.board.member import PLAIN, Member
from lumbek.core.model.board import LINES, Line
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import show
from lumbek.core.result import Step
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.diversity import diversified_a


@dataclass(frozen=True)
class Draw:
    """Currents in A by line: connected, and with diversity; `stated` where every circuit says its loads.

    `unplaced` are single-phase circuits of which nobody has said on which of three lines they are: they count on
    every line.
    """

    connected_a: Mapping[str, float]
    demand_a: Mapping[str, float]
    stated: bool
    unstated: tuple[str, ...]
    unplaced: tuple[str, ...]
    steps: tuple[Step, ...]

    @property
    def greatest_a(self) -> float:
        """The demand of the fullest line in A."""
        return max(self.demand_a.values(), default=0.0)

    @property
    def greatest_connected_a(self) -> float:
        """The connected load of the fullest line in A."""
        return max(self.connected_a.values(), default=0.0)


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
        draws = dict(member.draws)
        if member.feeds_a and member.key not in linked:
            draws[PLAIN] = (*draws.get(PLAIN, ()), member.feeds_a)
        if not draws:
            continue
        on = lines
        if supply.phases == 3 and member.phases == 1:
            line = on_lines.get(member.key)
            on = (line,) if line else on
            if line is None:
                unplaced.append(member.title)
        if not member.stated:
            unstated.append(member.title)
        for each in on:
            for kind, amperes in draws.items():
                by_class[each].setdefault(kind, []).extend(amperes)
    demand, connected, steps = dict[str, float](), dict[str, float](), list[Step]()
    for name in lines:
        connected[name] = sum(sum(each) for each in by_class[name].values())
        total = 0.0
        for kind in sorted(by_class[name]):
            each_a = by_class[name][kind]
            rule = None if kind in (PLAIN, "cooker") else rulebook.data.diversity.get(kind)
            # A cooker has had its diversity in its circuit.
            drawn = sum(each_a) if rule is None else diversified_a(rule, each_a)
            total += drawn
            where = f"{name}, " if len(lines) > 1 else ""
            steps.append(
                Step(
                    text=f"{where}{_NAMES.get(kind, kind)}: {len(each_a)} of {show(sum(each_a), 1)} A",
                    sum=f"{show(drawn, 1)} A",
                )
            )
        demand[name] = total
        if len(lines) > 1 or steps:
            steps.append(Step(text=f"{name} together" if len(lines) > 1 else "Together", sum=f"{show(total, 1)} A"))
    return Draw(connected, demand, not unstated, tuple(unstated), tuple(unplaced), tuple(steps))


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
