"""The gist of the proof for many wirings of the same cables: does it work, and is nothing dangerous?

It looks at whole joins, not at resistances: a search tries thousands. What it finds is proved in full afterwards.
"""

from collections.abc import Callable, Container, Iterable, Mapping, Sequence
from itertools import chain, pairwise, product
from typing import NamedTuple

from lumbek.core.model.accessory import ISOLATING, SENSING
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.network.solver import parts_of
from lumbek.core.switching.meaning import Meaning, meaning_of
from lumbek.core.switching.states import lines_of

# Contacts that act on each other beyond which nothing is said of them.
_MOST_TOGETHER = 10


# For each state which lamps burn.
_Seen = dict[tuple[int, ...], dict[tuple[str, str], bool]]


class End(NamedTuple):
    """A core end in a box."""

    place: str
    leg: str
    core: str


class Layout:
    """A circuit as core ends in joins: which join each end is in may be changed, and tried."""

    def __init__(self, circuit: Circuit) -> None:
        """Number the joins of every place, with their terminals; each end that is left off has one of its own."""
        self.circuit = circuit
        self.ends: list[End] = []
        self.joins: list[tuple[str, tuple[str, ...]]] = []
        self.at: list[int] = []
        self.links: list[tuple[int, int]] = []
        self._terminal: dict[tuple[str, str], int] = {}
        self._lay(self._said())
        # Where each end is when it is left off: a join of its own.
        self.alone = [len(self.joins) + at for at in range(len(self.ends))]
        self.joins += [(end.place, ()) for end in self.ends]
        self._name_what_is_switched()
        self._name_what_isolates()

    def _said(self) -> dict[End, int]:
        """Number the joins that are said, and return which of them each end is in."""
        circuit, said = self.circuit, dict[End, int]()
        for place, joins in ((BOARD, circuit.board_joins), *((point.id, point.joins) for point in circuit.points)):
            for join in joins:
                own = (each for each in join.ends if each.circuit is None)
                said.update((End(place, each.leg, each.core), len(self.joins)) for each in own)
                self._terminal.update({(place, name): len(self.joins) for name in join.terminals})
                self.joins.append((place, join.terminals))
        return said

    def _named(self, place: str, name: str) -> int:
        """Return the join that a terminal is in; one of its own where nothing is said of it."""
        if (place, name) not in self._terminal:
            self._terminal[place, name] = len(self.joins)
            self.joins.append((place, (name,)))
        return self._terminal[place, name]

    def _lay(self, said: Mapping[End, int]) -> None:
        """Number the ends of all cores, each in its join; what is not said is plain, or by itself."""
        for leg in self.circuit.legs:
            for core in self.circuit.cable_of(leg).core_names:
                first = len(self.ends)
                for place in (leg.a, leg.b):
                    end = End(place, leg.id, core)
                    self.ends.append(end)
                    self.at.append(said[end] if end in said else self._unsaid(end))
                self.links.append((first, first + 1))

    def _unsaid(self, end: End) -> int:
        if end.core in ("L", "N", "E"):
            return self._named(end.place, end.core)
        self.joins.append((end.place, ()))
        return len(self.joins) - 1

    def _name_what_is_switched(self) -> None:
        """Name contacts, lamps, what needs a cpc, and what is meant of each lamp."""
        circuit, named = self.circuit, self._named
        self.contacts = [
            (
                (point.id, switch.id),
                [[(named(point.id, pair.a), named(point.id, pair.b)) for pair in pairs] for pairs in switch.positions],
            )
            for point in circuit.points
            for switch in point.contacts
        ]
        self.lamps = {
            (point.id, line): (named(point.id, line), named(point.id, "N"))
            for point in circuit.points
            for line in lines_of(point)
        }
        reached = {end for leg in circuit.legs for end in (leg.a, leg.b)}
        self.earths = [
            named(point.id, "E") for point in circuit.points if point.kind != "unknown-end" and point.id in reached
        ]
        self.supply = [named(BOARD, name) for name in ("L", "N", "E")]
        self.isolating = {
            (point.id, str(each.gang))
            for point in circuit.points
            for each in point.accessories
            if each.kind in ISOLATING
        }
        self.meant = self._controls()

    def _name_what_isolates(self) -> None:
        """Name the poles of isolators, the supply of sensors, and what links of alarms join."""
        circuit, named = self.circuit, self._named
        reached = {end for leg in circuit.legs for end in (leg.a, leg.b)}
        # Of what isolates: for each pole its terminals before and after, by the contact that opens it.
        self.poles = {
            (point.id, str(each.gang)): [
                (
                    pole,
                    named(point.id, each.terminal(f"{pole}I")),
                    named(point.id, each.terminal(f"{pole}O")),
                )
                for pole in each.poles
            ]
            for point in circuit.points
            for each in point.accessories
            if each.kind in ISOLATING and point.id in reached
        }
        self.sensors = [
            (named(point.id, each.terminal("L")), named(point.id, each.terminal("N")))
            for point in circuit.points
            for each in point.accessories
            if each.kind in SENSING and point.id in reached
        ]
        self.between = [
            [named(end.point, end.line) for end in link.ends]
            for link in (circuit.scheme.links if circuit.scheme else ())
        ]

    def _controls(self) -> list[tuple[tuple[str, str], Meaning[int]]]:
        """Return for each lamp that is meant to be switched which contacts do so, and how."""
        columns = {key: column for column, (key, _) in enumerate(self.contacts)}
        found = []
        for control in self.circuit.scheme.controls if self.circuit.scheme else ():
            meant = meaning_of(control, lambda gang: columns.get((gang.point, str(gang.gang)), -1))
            meant = meant.only(lambda column: column >= 0)
            found += [((output.point, output.line), meant) for output in control.outputs]
        return found

    def options(self, end: int) -> list[int]:
        """Return the joins that a core end could be moved to: all others of its place, or left off.

        A cpc belongs to the earth and nowhere else, and nothing else belongs there.
        """
        place, own, is_cpc = self.ends[end].place, set(self.alone), self.ends[end].core == "E"
        return [
            index
            for index, (where, names) in enumerate(self.joins)
            if where == place
            and index != self.at[end]
            and ("E" in names) == is_cpc
            and (index not in own or index == self.alone[end])
        ]

    def works(self, at: Sequence[int]) -> bool:
        """Whether the circuit does as meant with its ends in these joins, and nothing is live that may not be."""
        part = parts_of(len(self.joins), [(at[a], at[b]) for a, b in self.links])
        line, neutral, earth = supply = part[self.supply[0]], part[self.supply[1]], part[self.supply[2]]
        if len({line, neutral, earth}) < 3 or not self._supplied(part, at, neutral, earth):
            return False
        crowd: dict[int, int] = {}
        for join in at:
            crowd[join] = crowd.get(join, 0) + 1
        alone = [part[join] for join in at if crowd[join] == 1 and not self.joins[join][1]]
        edges = [[[(part[a], part[b]) for a, b in pairs] for pairs in positions] for _, positions in self.contacts]
        touched = {end for edge in edges for pairs in edge for pair in pairs for end in pair}
        return (
            self._poles_right(part, crowd, (line, neutral))
            and self._links_right(part, touched, supply)
            and self._in_every_state(part, supply, edges, alone)
        )

    def _supplied(self, part: list[int], at: Sequence[int], neutral: int, earth: int) -> bool:
        """Whether earth is wherever it should be and nowhere else, and lamps and sensors have their neutral."""
        # Nothing but a cpc is earth, and no cpc is anything else.
        cpcs = [at[end] for end, (_, _, core) in enumerate(self.ends) if core == "E"]
        if any(part[each] != earth for each in (*self.earths, *cpcs)):
            return False
        if any(part[on] != neutral for _, on in self.lamps.values()) and not self.isolating:
            return False
        return all(part[on] == neutral and part[line_in] != neutral for line_in, on in self.sensors)

    def is_wired(self, join: int, held: Container[int]) -> bool:
        """Whether anything is in a terminal's join: an end, by the joins that hold any, or another terminal."""
        return join in held or len(self.joins[join][1]) > 1

    def _poles_right(self, part: list[int], crowd: dict[int, int], supply: tuple[int, int]) -> bool:
        """Whether every pole of what isolates has its conductor on both sides, and none is past it by itself."""
        return all(self._pole_right(each, part, crowd, supply) for poles in self.poles.values() for each in poles)

    def _pole_right(
        self, each: tuple[str, int, int], part: list[int], crowd: dict[int, int], supply: tuple[int, int]
    ) -> bool:
        pole, before, after = each
        wired = [self.is_wired(each, crowd) for each in (before, after)]
        if pole == "S" and not any(wired):
            return True
        if not all(wired) or part[before] == part[after] or part[after] in supply:
            return False
        line, neutral = supply
        return part[before] != (line if pole == "N" else neutral)

    def _links_right(self, part: list[int], touched: set[int], supply: tuple[int, int, int]) -> bool:
        """Whether the core between alarms is one at all of them, and nothing else."""
        for ends in self.between:
            parts = {part[each] for each in ends}
            if len(parts) > 1 or parts & touched or parts & {*supply}:
                return False
        return True

    def _in_every_state(
        self,
        part: list[int],
        supply: tuple[int, int, int],
        edges: list[list[list[tuple[int, int]]]],
        alone: list[int],
    ) -> bool:
        """Try every position of contacts that act on each other; those that meet only in the supply do not."""
        lamps = {key: (part[a], part[b]) for key, (a, b) in self.lamps.items()}
        together, groups = _acting_together(len(part), supply, edges, lamps.values())
        acted = {key: together[one] for key, (one, _) in lamps.items() if one not in supply and together[one] in groups}
        for group, members in groups.items():
            burning = {key: lamps[key] for key, mine in acted.items() if mine == group}
            if not self._group_works(supply, edges, members, burning, alone):
                return False
        # A lamp that no contact acts on has one state.
        fixed = lamps.keys() - acted.keys()
        if any(lamps[key][1] != supply[1] for key in fixed):
            return False
        once: _Seen = {(): {key: lamps[key][0] == supply[0] for key in fixed}}
        return all(self._as_meant(once, [], *each) for each in self.meant if each[0] in fixed)

    def _group_works(
        self,
        supply: tuple[int, int, int],
        edges: list[list[list[tuple[int, int]]]],
        members: list[int],
        lamps: dict[tuple[str, str], tuple[int, int]],
        alone: list[int],
    ) -> bool:
        line, neutral, earth = supply
        if len(members) > _MOST_TOGETHER:
            return False
        seen: _Seen = {}
        free = [[0] if self.contacts[each][0] in self.isolating else list(range(len(edges[each]))) for each in members]
        for state in product(*free):
            root = _joined(pair for each, at in zip(members, state, strict=True) for pair in edges[each][at])
            live, back, ground = root(line), root(neutral), root(earth)
            if len({live, back, ground}) < 3 or any(root(each) == live for each in alone):
                return False
            if any(root(on) != back for _, on in lamps.values()):
                return False
            seen[state] = {key: root(one) == live for key, (one, _) in lamps.items()}
        if not all(self._as_meant(seen, members, *each) for each in self.meant if each[0] in lamps):
            return False
        return all(self._parts(part_at, supply, edges, members) for part_at in self._opening(members))

    def _opening(self, members: list[int]) -> list[int]:
        """Return which of some contacts isolate."""
        return [each for each in members if self.contacts[each][0] in self.poles]

    def _parts(
        self, opened: int, supply: tuple[int, int, int], edges: list[list[list[tuple[int, int]]]], members: list[int]
    ) -> bool:
        """Whether nothing past an isolator has line or neutral while it is off, however the switches stand."""
        after = {past for _, past in edges[opened][0]}

        def stands(each: int) -> Sequence[int]:
            if self.contacts[each][0] in self.isolating:
                return (1 if each == opened else 0,)
            return range(len(edges[each]))

        for state in product(*map(stands, members)):
            pairs = [pair for each, at in zip(members, state, strict=True) for pair in edges[each][at]]
            root = parts_of(1 + max(*supply, *after, *chain.from_iterable(pairs)), pairs)
            if not {root[end] for end in after}.isdisjoint({root[supply[0]], root[supply[1]]}):
                return False
        return True

    @staticmethod
    def _as_meant(seen: _Seen, members: list[int], lamp: tuple[str, str], meant: Meaning[int]) -> bool:
        """Whether a lamp burns as is meant of it in every state, whatever else stands how."""
        if not {*meant.switches} <= set(members):
            return False
        column = {contact: at for at, contact in enumerate(members)}
        fits = list(meant.signs())
        for state, lit in seen.items():
            moved = {each: state[column[each]] == 1 for each in meant.switches}
            fits = [signs for signs in fits if meant.wanted(moved, signs, True) == lit[lamp]]
            if not fits:
                return False
        return True


def _acting_together(
    size: int, supply: tuple[int, int, int], edges: list[list[list[tuple[int, int]]]], lamps: Iterable[tuple[int, int]]
) -> tuple[list[int], dict[int, list[int]]]:
    """Return which parts hang together by contacts and lamps, and the contacts of each such group."""
    touched = [set(chain.from_iterable(chain.from_iterable(edge))) - {*supply} for edge in edges]
    chains = [sorted(ends) for ends in (*touched, *({*pair} - {*supply} for pair in lamps))]
    together = parts_of(size, list(chain.from_iterable(map(pairwise, chains))))
    groups: dict[int, list[int]] = {}
    for contact, ends in enumerate(touched):
        # A contact between supplies alone stands by itself.
        groups.setdefault(together[min(ends)] if ends else -1 - contact, []).append(contact)
    return together, groups


def _joined(pairs: Iterable[tuple[int, int]]) -> Callable[[int], int]:
    """Return what finds one of all that some pairs join."""
    parent: dict[int, int] = {}

    def root(each: int) -> int:
        while parent.get(each, each) != each:
            each = parent[each]
        return each

    for a, b in pairs:
        one, other = root(a), root(b)
        if one != other:
            parent[one] = other
    return root
