"""The proof of lighting over all states: every check, every hazard with a state that shows it, the table."""

from collections.abc import Mapping

import numpy as np

from lumbek.core.judging.check import Check, Verdict, overall
from lumbek.core.model.circuit import Circuit
from lumbek.core.network.wiring import Node
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.checks.boxes import check_boxes
from lumbek.core.switching.checks.earth import check_earth, check_earth_only
from lumbek.core.switching.checks.isolation import check_isolation
from lumbek.core.switching.checks.lights import check_lights
from lumbek.core.switching.checks.links import check_links
from lumbek.core.switching.checks.loads import check_dimmers, check_inrush
from lumbek.core.switching.checks.loose import check_loose
from lumbek.core.switching.checks.marks import check_marks
from lumbek.core.switching.checks.neutral import check_neutral
from lumbek.core.switching.checks.sensors import check_sensors
from lumbek.core.switching.checks.supply import check_supply
from lumbek.core.switching.checks.together import check_together
from lumbek.core.switching.lamps import glows
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving
from lumbek.core.switching.states import Cluster, Lamp, States
from lumbek.core.value import Frozen

CHECKS = (
    check_lights,
    check_supply,
    check_neutral,
    # What a cpc is misused for comes before the places that it then does not reach.
    check_earth_only,
    check_earth,
    check_isolation,
    check_sensors,
    check_links,
    check_loose,
    check_together,
    check_marks,
    check_boxes,
    check_dimmers,
    check_inrush,
)
# States beyond which the table of a cluster is not handed out: it is proved all the same.
_MOST_SHOWN = 1024


class SwitchSeen(Frozen):
    """A switch of the table, by the name a person gives it."""

    circuit: int
    point: str
    switch: str
    name: str
    positions: int
    at: int
    isolates: bool


class LampSeen(Frozen):
    """Something that is lit or not."""

    circuit: int
    point: str
    line: str
    name: str


class StateTable(Frozen):
    """What switches that act on each other do in every state.

    `rows` has for each state how the switches stand, the lamps (1 lit, 0 dark, - dim) and every part of the copper it
    changes: L live, N neutral, E earth, F live through a lamp, a dot for dead.
    """

    switches: tuple[SwitchSeen, ...]
    lamps: tuple[LampSeen, ...]
    parts: tuple[int, ...]
    stands: tuple[tuple[int, ...], ...]
    lit: tuple[str, ...]
    live: tuple[str, ...]


class CorePart(Frozen):
    """Which part of the copper a core of a leg is, at one of its ends, or a terminal."""

    circuit: int
    point: str
    name: str
    leg: str = ""
    part: int


class Proof(Frozen):
    """Everything there is to say of a circuit's lighting.

    `fixed` are the parts that no switch changes, as in the table.
    """

    verdict: Verdict
    circuits: tuple[int, ...]
    checks: tuple[Check, ...]
    hazards: tuple[Hazard, ...]
    states: int
    lamps: tuple[LampSeen, ...]
    always_lit: tuple[LampSeen, ...]
    tables: tuple[StateTable, ...]
    fixed: Mapping[str, str]
    where: tuple[CorePart, ...]


def prove(book: Rulebook, circuits: Mapping[int, Circuit]) -> Proof:
    """Return the proof of one circuit, or of several that are wired into each other, by their numbers."""
    proving = Proving(book, States(circuits))
    answers = [check(proving) for check in CHECKS]
    states = proving.states
    free = [lamp for lamp in states.lamps if states.lit(lamp)[0] is None]
    return Proof(
        verdict=overall(answer.check for answer in answers),
        circuits=tuple(circuits),
        checks=tuple(answer.check for answer in answers),
        hazards=tuple(hazard for answer in answers for hazard in answer.hazards),
        states=int(np.prod([len(cluster.stands) for cluster in states.clusters], dtype=np.int64)),
        lamps=tuple(_lamp(proving, lamp) for lamp in states.lamps),
        always_lit=tuple(_lamp(proving, lamp) for lamp in free if states.lit(lamp)[1].all()),
        tables=tuple(_table(proving, cluster) for cluster in states.clusters if len(cluster.stands) <= _MOST_SHOWN),
        fixed={str(part): _fixed(proving, part) for part in sorted(set(states.copper.part)) if _is_fixed(states, part)},
        where=tuple(_where(states)),
    )


def answers_of(book: Rulebook, circuits: Mapping[int, Circuit]) -> tuple[ProvedAnswer, ...]:
    """Return the answer to every question of the proof, without what is only shown."""
    proving = Proving(book, States(circuits))
    return tuple(check(proving) for check in CHECKS)


def holds(book: Rulebook, circuits: Mapping[int, Circuit]) -> tuple[Verdict, tuple[Hazard, ...]]:
    """Return the verdict of the proof and its hazards, without what is only shown."""
    answers = answers_of(book, circuits)
    return overall(answer.check for answer in answers), tuple(each for answer in answers for each in answer.hazards)


def _lamp(proving: Proving, lamp: Lamp) -> LampSeen:
    return LampSeen(circuit=lamp.circuit, point=lamp.point, line=lamp.line, name=proving.lamp_title(lamp))


def _is_fixed(states: States, part: int) -> bool:
    return states.cluster_of(part) is None


def _fixed(proving: Proving, part: int) -> str:
    kinds = {supply.kind for supply in proving.states.supplies.get(part, ())}
    return next((kind for kind in ("L", "N", "E") if kind in kinds), ".")


def _table(proving: Proving, cluster: Cluster) -> StateTable:
    states = proving.states
    lamps = [lamp for lamp in states.lamps if states.lit(lamp)[0] is cluster]
    free = [part for part in cluster.parts if part not in states.supplies]
    lit = [states.lit(lamp)[1] for lamp in lamps]
    dim = [glows(states, lamp) for lamp in lamps]
    live = _classes(states, cluster, free)
    return StateTable(
        switches=tuple(
            SwitchSeen(
                circuit=switch[0],
                point=switch[1],
                switch=switch[2],
                name=proving.switch_title(switch),
                positions=len(states.wiring.contacts[switch]),
                at=states.wiring.positions[switch],
                isolates=proving.isolates(switch),
            )
            for switch in cluster.switches
        ),
        lamps=tuple(_lamp(proving, lamp) for lamp in lamps),
        parts=tuple(free),
        stands=tuple(tuple(int(at) for at in row) for row in cluster.stands),
        lit=tuple(
            "".join("1" if on[state] else "-" if glow[state] else "0" for on, glow in zip(lit, dim, strict=True))
            for state in range(len(cluster.stands))
        ),
        live=tuple("".join(row) for row in live),
    )


def _classes(states: States, cluster: Cluster, parts: list[int]) -> list[list[str]]:
    """Return what each part is in each state: live first, for that is what hurts."""
    columns = [cluster.at[part] for part in parts]
    found = np.full((len(cluster.stands), len(parts)), ".", dtype="<U1")
    for kind in ("E", "N", "L"):
        found[cluster.kind(kind)[:, columns]] = kind
    # What a lamp joins to a line and nothing else to a neutral is live through that lamp.
    at = {part: column for column, part in enumerate(parts)}
    ends = [each for lamp in states.lamps for each in (states.ends(lamp), states.ends(lamp)[::-1])]

    def lit_through(one: int | None, other: int | None) -> bool:
        """Whether one end of a lamp makes its other live where that was not yet."""
        if one is None or other is None or other not in at:
            return False
        live = np.isin(found[:, at[one]], ("L", "F")) if one in at else states.joined(cluster, one, "L")
        fresh = live & (found[:, at[other]] == ".")
        found[fresh, at[other]] = "F"
        return bool(fresh.any())

    while sum(lit_through(*each) for each in ends):
        pass
    rows: list[list[str]] = found.tolist()
    return rows


def _where(states: States) -> list[CorePart]:
    """Return where each part of the copper shows: at core ends, and in terminals."""
    found = []
    for end, (branch, side) in states.wiring.place_of.items():
        part = states.copper.part[states.wiring.ends[branch][side]]
        found.append(CorePart(circuit=end.circuit, point=end.point, name=end.core, leg=end.leg, part=part))
    for node, index in states.wiring.index.items():
        if _is_terminal(node):
            found.append(
                CorePart(circuit=node.circuit, point=node.point, name=node.name, part=states.copper.part[index])
            )
    return found


def _is_terminal(node: Node) -> bool:
    return ":" not in node.name and " " not in node.name
