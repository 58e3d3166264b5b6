"""Every measurement that may be asked for, by a name that says how it is taken.

A test's id is its kind and what it is taken between: `link/LN/p3/a` is read at end a of a ring between line and
neutral, which are linked at point p3. The same id comes back with the reading.

    read/r1, read/cross-ln/p3      a reading of the test sheet
    link/LN/p3/a                   linked at a point, read at the board (end a or b of a ring, - for a radial)
    lead/N/p3/a                    one conductor by a long lead from the board to a point
    ends/L-N                       the line of one end of a ring to the neutral of the other
    far/NE/p3                      step 3 with neutral and cpc, read at a point
    flat/LN/p3                     between two terminals of a point, nothing linked
    leg/N/L4                       one core of a cable from terminal to terminal
    ins/NE                         insulation at the board; /unplug/p1+p2 with loads out; /split/p3/a up to a point,
                                   /out/p3/L4 from there on through a cable, /alone/L4 of that cable only
"""

from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import Literal, get_args

from lumbek.core.diagnosis.patient import NAMES, Patient
from lumbek.core.diagnosis.suspects import BAR
from lumbek.core.model.leg import BOARD
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import crossed, end_to_end, ends_out
from lumbek.core.network.wiring import CoreAt, Node, Setup, loose, node
from lumbek.core.numbers import plain

Pair = Literal["LN", "LE", "NE"]
PAIRS: tuple[Pair, ...] = get_args(Pair)
Side = Literal["a", "b", "-"]
# What a test costs beside another: a walk to a point, a long lead, cores taken apart.
_EFFORT = {"read": 1.0, "ends": 1.0, "link": 1.1, "far": 1.15, "flat": 1.1, "lead": 1.3, "ins": 1.0, "leg": 1.6}
_SPLIT_EFFORT, _UNPLUG_EFFORT = 1.6, 1.1


# What the readings of a sheet are called.
_CALLED = {"r1+r2": "R1+R2", "r1+rn": "R1+Rn", "r2-lead": "R2 by a long lead", "zs": "Zs, less Ze,",
           "cross-ln": "L–N crossed", "cross-le": "L–cpc crossed"}  # fmt: skip


_ISOLATED = "Isolated and proved dead, the lock on."
# How a reading of the sheet is taken, at a place that stands for the braces.
_HOW_READ = {
    "r1": "Both ends of the ring out at the board: read line end to line end.",
    "rn": "Both ends of the ring out at the board: read neutral end to neutral end.",
    "r2": "Both ends of the ring out at the board: read cpc end to cpc end.",
    "cross-ln": "At the board each line end with the other end's neutral: read line to neutral at {}.",
    "cross-le": "At the board each line end with the other end's cpc: read line to cpc at {}.",
    "r1+r2": "Line and cpc joined at one end: read them at the other, for {}.",
    "r1+rn": "Line and neutral joined at one end: read them at the other, for {}.",
    "r2-lead": "A long lead, nulled, from the earth bar: read the cpc at {}.",
}


class UnknownTestError(ValueError):
    """A name that no test of this circuit has."""


@dataclass(frozen=True)
class Test:
    """A measurement that may be asked for, and what it takes.

    `how` is a resistance or an insulation resistance; `unplugged` names the points whose loads are out.
    """

    id: str
    title: str
    steps: tuple[str, ...]
    how: Measurement
    effort: float
    unplugged: frozenset[str] = frozenset()

    @property
    def insulation(self) -> bool:
        """Whether it is read with the insulation tester."""
        return self.how.function == "insulation"

    @property
    def live(self) -> bool:
        """Whether it was read live: a loop less Ze, further off than a dead reading."""
        return self.id.startswith("read/zs/")

    @property
    def place(self) -> str:
        """The point that is opened for it; nothing for what is read at the board, or taken again as it was."""
        kind, *rest = self.id.split("/")
        if kind in ("link", "lead", "flat", "far"):
            return rest[1]
        return rest[2] if kind == "ins" and rest[1:2] in (["split"], ["out"]) else ""

    @property
    def unit(self) -> str:
        """The unit it is read in."""
        return "MΩ" if self.insulation else "Ω"


@dataclass(frozen=True)
class Catalogue:
    """The tests of one circuit, by their ids."""

    patient: Patient

    def test(self, test_id: str) -> Test:
        """Return a test by its id. Raises UnknownTestError."""
        kind, *rest = test_id.split("/")
        makers: dict[str, Callable[..., Test]] = {
            "read": self._sheet,
            "link": self._link,
            "lead": self._lead,
            "ends": self._ends,
            "far": self._far,
            "flat": self._flat,
            "leg": self._leg,
            "ins": self._insulation,
        }
        try:
            test = makers[kind](test_id, *rest)
        except (KeyError, TypeError, ValueError) as error:
            raise UnknownTestError(f"{test_id!r} is no test of this circuit") from error
        there = self.patient.laid(test.how.setup).at
        if any(place not in there for place in (*test.how.probes, *(test.how.linked or ()))):
            raise UnknownTestError(f"{test_id!r}: there is no such terminal")
        return test

    def known(self, test_ids: Iterable[str]) -> list[Test]:
        """Return those of these tests that the circuit has: a switch box has no neutral terminal to be read at."""
        found = []
        for test_id in dict.fromkeys(test_ids):
            with suppress(UnknownTestError):
                found.append(self.test(test_id))
        return found

    @property
    def side(self) -> Side:
        """Where what concerns the whole circuit is read: at end a of a ring, else at the board."""
        return "a" if self.patient.ring else "-"

    # What each is

    def _sheet(self, test_id: str, quantity: str, point: str = "") -> Test:
        ring = self.patient.ring
        if point:
            self._need(point)
        if quantity in ("r1", "rn", "r2") and ring:
            how = end_to_end(ring, {"r1": "L", "rn": "N", "r2": "E"}[quantity], self._service)
        elif quantity in ("cross-ln", "cross-le") and ring:
            how = crossed(ring, quantity[-1].upper(), point, self._service)
        elif quantity in ("r1+r2", "r1+rn", "zs"):
            # A loop read live is what the circuit adds to Ze.
            how = self._linked("LN" if quantity == "r1+rn" else "LE", point, "-")
        elif quantity == "r2-lead":
            how = self._by_lead("E", point, "-")
        else:
            raise UnknownTestError(test_id)
        called = _CALLED.get(quantity, quantity)
        title = f"{called} at {self._name(point)}" if point else called
        return Test(test_id, f"Read {title} again", self._read_again(quantity, point), how, _EFFORT["read"])

    def _read_again(self, quantity: str, point: str) -> tuple[str, ...]:
        """Return how a reading of the sheet is taken again: by another contact, or both share what was wrong."""
        where = self._name(point) if point else ""
        if quantity == "zs":
            how = f"Live, only where the dead tests are in order: the loop at {where}, with all loads off."
            return (how,)
        return (
            _ISOLATED,
            "Leads nulled; clean contacts, at another outlet of the plate or another screw.",
            _HOW_READ[quantity].format(where),
        )

    def _link(self, test_id: str, pair: str, point: str, side: str) -> Test:
        one, other = (NAMES[core] for core in pair)
        where = self._name(point)
        return Test(
            test_id,
            f"Link {one} and {other} at {where}; read them at {self._board(side)}",
            (
                *self._ends_apart(side),
                f"At {where}: join {one} and {other} with a short link.",
                f"{self._at_board(side)}: read {one} to {other}. Take the link off again.",
            ),
            self._linked(pair, point, side),
            _EFFORT["link"],
        )

    def _lead(self, test_id: str, core: str, point: str, side: str) -> Test:
        name, where = NAMES[core], self._name(point)
        return Test(
            test_id,
            f"Long lead from {self._board(side)} to {where}: read the {name}",
            (
                *self._ends_apart(side),
                "Null the long lead first.",
                f"Read from the {name} at {self._board(side)} to the {name} at {where}.",
            ),
            self._by_lead(core, point, side),
            _EFFORT["lead"],
        )

    def _ends(self, test_id: str, cores: str) -> Test:
        one, other = cores.split("-")
        first, last = self._ring
        probes = (self.patient.end_at_board(first, one), self.patient.end_at_board(last, other))
        return Test(
            test_id,
            f"At the board: {NAMES[one]} of end a to {NAMES[other]} of end b",
            (*self._ends_apart("a"), f"Read the {NAMES[one]} of end a to the {NAMES[other]} of end b."),
            Measurement("resistance", probes, ends_out(self._ring, (), self._service)),
            _EFFORT["ends"],
        )

    def _far(self, test_id: str, pair: str, point: str) -> Test:
        one, other = pair[0], pair[1]
        self._need(point)
        return Test(
            test_id,
            f"{NAMES[one].capitalize()} and {NAMES[other]} crossed at the board: read them at {self._name(point)}",
            (
                *self._ends_apart("a"),
                f"Join the {NAMES[one]} of each end to the {NAMES[other]} of the other.",
                f"Read {NAMES[one]} to {NAMES[other]} at {self._name(point)}.",
            ),
            crossed(self._ring, other, point, self._service, one),
            _EFFORT["far"],
        )

    def _flat(self, test_id: str, pair: str, point: str) -> Test:
        one, other = (NAMES[core] for core in pair)
        self._need(point)
        probes = (self._at(pair[0], point), self._at(pair[1], point))
        return Test(
            test_id,
            f"At {self._name(point)}, nothing linked: {one} to {other} in ohms",
            (*self._ends_apart(self.side), "Links off, loads out.", f"Read {one} to {other} at {self._name(point)}."),
            Measurement("resistance", probes, self._apart(self.side)),
            _EFFORT["flat"],
        )

    def _leg(self, test_id: str, core: str, leg: str) -> Test:
        run = self.patient.study.legs[leg]
        title, name = self.patient.study.leg_title(leg), NAMES.get(core, core)
        probes = [self._end(core, leg, point) for point in (run.a, run.b)]
        return Test(
            test_id,
            f"{title}: its {name} from terminal to terminal",
            (*self._ends_apart(self.side), f"Read the {name} between these two, with a long lead that is nulled."),
            Measurement("resistance", (probes[0], probes[1]), self._apart(self.side)),
            _EFFORT["leg"],
        )

    def _end(self, core: str, leg: str, point: str) -> Node:
        """Return where a core of a leg is probed at one of its ends."""
        if point != BOARD:
            return node(core, point)
        return self.patient.end_at_board(leg, core) if leg in (self.patient.ring or ()) else node(core, BOARD)

    def _insulation(self, test_id: str, pair: str, change: str = "", places: str = "", side: str = "") -> Test:
        live = pair == "live-E"
        one, other = ("L", "E") if live else (pair[0], pair[1])
        where = side if change == "split" else self.side
        setup, unplugged = self._apart(where), frozenset[str]()
        words = "line and neutral together to cpc" if live else f"{NAMES[one]} to {NAMES[other]}"
        title, effort = f"Insulation, {words}", _EFFORT["ins"]
        steps = [*self._ends_apart(where), *self._before_insulation]
        if change == "unplug":
            if places == BAR:
                return self._others_out(test_id, pair)
            unplugged = frozenset(self.patient.points if places == "all" else places.split("+"))
            for point in unplugged:
                self._need(point)
            names = "every load" if places == "all" else ", ".join(self._name(each) for each in places.split("+"))
            title, effort = f"{title}, with {names} unplugged", _UNPLUG_EFFORT
            steps.append(f"Unplug or disconnect {names}.")
        elif change == "split":
            self._need(places)
            unplugged = frozenset(self.patient.points)
            setup = setup._replace(taken_out=setup.taken_out | self.patient.ends_at(places))
            title, effort = f"Apart at {self._name(places)}: {title[0].lower()}{title[1:]}", _SPLIT_EFFORT
            steps += ["Every load unplugged.", f"Take the accessory at {self._name(places)} off and its cables apart."]
        elif change == "out":
            return self._onward(test_id, pair, places, side)
        elif change == "alone":
            return self._by_itself(test_id, pair, places)
        elif change:
            raise UnknownTestError(test_id)
        steps.append(f"{self._at_board(where)}: read {words} with the insulation tester.")
        probes = (self._from(one, where), self._from(other, where))
        links = ((self._from("L", where), self._from("N", where)),) if live else ()
        how = Measurement("insulation", probes, setup._replace(links=(*setup.links, *links)))
        return Test(test_id, title, tuple(steps), how, effort, unplugged=unplugged)

    def _others_out(self, test_id: str, pair: str) -> Test:
        """Insulation with the neutrals of all other circuits out of the bar: what is mixed with them is gone."""
        plain = self._insulation(test_id, pair)
        steps = (plain.steps[0], "Every other neutral out of the bar too, its circuit isolated.", *plain.steps[1:])
        return Test(
            test_id,
            f"{plain.title}, with every other neutral out of the bar",
            steps,
            plain.how,
            _SPLIT_EFFORT,
            unplugged=frozenset({BAR}),
        )

    def _onward(self, test_id: str, pair: str, point: str, leg: str) -> Test:
        """Insulation from a point on through one of its cables, taken out there."""
        one, other = (NAMES[core] for core in pair)
        self._need(point)
        ends = self.patient.ends_at(point)
        onward = self.patient.study.leg_title(leg)
        probes = tuple(CoreAt(leg, core, point) for core in pair)
        if not ends.issuperset(probes):
            raise UnknownTestError(test_id)
        setup = self._apart(self.side)
        return Test(
            test_id,
            f"Apart at {self._name(point)}: insulation of {onward}, {one} to {other}",
            (
                *self._ends_apart(self.side),
                *self._before_insulation,
                "Every load unplugged.",
                f"Take the accessory at {self._name(point)} off and its cables apart.",
                f"There, on the cable {onward}: read {one} to {other} with the insulation tester.",
            ),
            Measurement(
                "insulation",
                (loose(probes[0]), loose(probes[1])),
                setup._replace(taken_out=setup.taken_out | ends),
            ),
            _SPLIT_EFFORT,
            unplugged=frozenset(self.patient.points),
        )

    def _by_itself(self, test_id: str, pair: str, leg: str) -> Test:
        """Insulation of one cable between two points, taken out at both."""
        run = self.patient.study.legs[leg]
        here, there = (run.b, run.a) if run.a == BOARD else (run.a, run.b)
        onward = self._onward(test_id, pair, here, leg)
        far = self.patient.ends_at(there) if there != BOARD else frozenset[CoreAt]()
        out = onward.how.setup.taken_out | far
        *before, read = onward.steps
        at_far_end = () if there == BOARD else (f"At {self._name(there)} too, or the fault may lie beyond.",)
        return replace(
            onward,
            title=f"{self.patient.study.leg_title(leg)} by itself: insulation, {NAMES[pair[0]]} to {NAMES[pair[1]]}",
            steps=(*before, *at_far_end, read),
            how=onward.how._replace(setup=onward.how.setup._replace(taken_out=out)),
        )

    @property
    def _before_insulation(self) -> tuple[str, ...]:
        volts = plain(self.patient.study.rulebook.data.testing.insulation_v)
        return (
            f"{volts} V d.c. Out first: dimmers, sensors, drivers, chargers, surge protection, leads of the RCBO.",
            "Lamps and loads out; switches on, and two-way ones read both ways.",
        )

    # How they are set up

    @property
    def _service(self) -> Setup:
        return self.patient.study.wires.as_found

    @property
    def _ring(self) -> tuple[str, str]:
        if self.patient.ring is None:
            raise UnknownTestError("not a ring")
        return self.patient.ring

    def _apart(self, side: str, service: Setup | None = None) -> Setup:
        stands = self._service if service is None else service
        return stands if side == "-" else ends_out(self._ring, (), stands)

    def _from(self, core: str, side: str) -> Node:
        """Return where a conductor is probed at the board."""
        if side == "-":
            return node(core, BOARD)
        return self.patient.end_at_board(self._ring["ab".index(side)], core)

    def _at(self, core: str, point: str) -> Node:
        return self.patient.line_at(point)[1] if core == "L" else node(core, point)

    def _stands(self, point: str, *cores: str) -> Setup:
        return self.patient.line_at(point)[0] if "L" in cores else self._service

    def _linked(self, pair: str, point: str, side: str) -> Measurement:
        self._need(point)
        one, other = pair[0], pair[1]
        setup = self._apart(side, self._stands(point, one, other))
        linked = (self._at(one, point), self._at(other, point))
        return Measurement("resistance", (self._from(one, side), self._from(other, side)), setup, linked)

    def _by_lead(self, core: str, point: str, side: str) -> Measurement:
        self._need(point)
        setup = self._apart(side, self._stands(point, core))
        return Measurement("resistance", (self._from(core, side), self._at(core, point)), setup)

    # Words

    def _need(self, point: str) -> None:
        if point not in self.patient.points:
            raise UnknownTestError(point)

    def _name(self, point: str) -> str:
        return self.patient.study.circuit.point_title(point)

    def _board(self, side: str) -> str:
        return "the board" if side == "-" else f"end {side} of the ring"

    def _at_board(self, side: str) -> str:
        return "At the board" if side == "-" else f"At the board, {self._board(side)}"

    def _ends_apart(self, side: str) -> tuple[str, ...]:
        if side == "-":
            return ("Isolated and proved dead; line, neutral and cpc of the circuit taken out at the board.",)
        first, last = (self.patient.study.leg_title(leg) for leg in self._ring)
        return (f"Isolated and proved dead; both ends of the ring taken out: end a is {first}, end b is {last}.",)


def first_tests(patient: Patient) -> tuple[str, ...]:
    """Return the ids of what is read first of all: the dead tests of the sheet, by the circuit's shape.

    A radial is read between line and cpc and between line and neutral: R1+R2 alone is blind to the neutral.
    """
    whole: tuple[str, ...]
    at_points: tuple[str, ...]
    if patient.ring:
        whole, at_points = ("read/r1", "read/rn", "read/r2"), ("cross-ln", "cross-le")
    else:
        whole, at_points = (), ("r1+r2", "r1+rn")
    points = [f"read/{each}/{point}" for each in at_points for point in patient.open_points]
    asked = (*whole, *points, *(f"ins/{pair}" for pair in PAIRS))
    return tuple(test.id for test in Catalogue(patient).known(asked))
