"""From a chosen way to a circuit wired so: cables, what sits in each box, and every core in its terminal."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from lumbek.core.circuit.edit import next_id
from lumbek.core.circuit.presets import laid_by
from lumbek.core.model.accessory import ISOLATING, Accessory
from lumbek.core.model.cable import Cable, CableKind
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.point import Point, State
from lumbek.core.model.scheme import Route, RouteCable
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.choose import Chooser, Chosen
from lumbek.core.switching.colours import colour_of, scheme_of
from lumbek.core.switching.nets import Net, fitted, nets_of
from lumbek.core.switching.packing import Flows, flows_of, into_cores, shared_out, sleeved_end

_TYPES: dict[int, tuple[CableKind, int]] = {
    1: ("flat-single-and-earth", 3),
    2: ("flat-twin-and-earth", 3),
    3: ("flat-three-core-and-earth", 3),
    4: ("multicore", 5),
}


# Cables that are told by how many cores they have.
_COUNTED: tuple[CableKind, ...] = ("single-core", "multicore", "armoured")


def wire(book: Rulebook, chooser: Chooser, chosen: Chosen) -> Circuit:
    """Return the circuit of a scheme wired in a chosen way; what it holds beside the scheme stays."""
    return _Wiring(book, chooser, chosen).circuit()


@dataclass
class _Wiring:
    """A circuit while it is wired: each net in cores of legs, run by run."""

    book: Rulebook
    chooser: Chooser
    chosen: Chosen
    legs: list[Leg] = field(default_factory=list)
    # For each core of each leg which net it is.
    core_of: dict[tuple[str, str], int] = field(default_factory=dict)
    # The runs that legs lie in.
    run_of: dict[str, int] = field(default_factory=dict)
    nets: list[Net] = field(default_factory=list)
    fitted: dict[str, tuple[Accessory, ...]] = field(default_factory=dict)
    outside: list[Leg] = field(default_factory=list)

    def circuit(self) -> Circuit:
        """Return the circuit wired."""
        circuit, scheme = self.chooser.circuit, self.chooser.scheme
        self.nets = nets_of(scheme, self.chosen, self.chooser.neutral_at(self.chosen.tree), self.chooser.through)
        self.fitted = fitted(circuit, scheme, self.chosen)
        places = set(scheme.places)
        # Legs from a place to elsewhere, or of other parts of the circuit, are as they were.
        self.outside = [leg for leg in circuit.legs if not {leg.a, leg.b} <= places and not self._other_feed(leg)]
        self._feed()
        self._lay()
        points = tuple(self._point(point) if point.id in places else point for point in circuit.points)
        changed: dict[str, object] = {"points": points, "legs": (*self.outside, *self.legs), "scheme": scheme}
        if BOARD in places:
            changed["board_joins"] = self._joins(BOARD, ())
        return Circuit.model_validate(circuit.model_copy(update=changed).model_dump())

    def _other_feed(self, leg: Leg) -> bool:
        """Whether a leg brings the supply to a place of the scheme that is not to be fed: it is taken off."""
        places = set(self.chooser.scheme.places)
        ends = {leg.a, leg.b}
        return BOARD in ends and BOARD not in places and bool(ends & places) and self.chosen.tree.root not in ends

    def _feed(self) -> None:
        """Bring the supply to where it is to arrive, where nothing does yet."""
        root = self.chosen.tree.root
        if root != BOARD and not any(root in (leg.a, leg.b) for leg in self.outside):
            leg = self._leg([], BOARD, root, RouteCable(colours=self.chooser.scheme.wishes.colours), None, False)
            self.outside.append(leg)

    def _lay(self) -> None:
        """Lay the cables of every run and put the nets into their cores."""
        circuit, tree = self.chooser.circuit, self.chosen.tree
        hulls = [tree.hull([end.place for end in net.ends]) for net in self.nets]
        flows = flows_of(self.chooser.scheme, self.chosen, self.nets)
        places = set(self.chooser.scheme.places)
        inside = [leg for leg in circuit.legs if {leg.a, leg.b} <= places]
        for run, route in enumerate(tree.routes):
            crossing = [index for index, hull in enumerate(hulls) if hull[run]]
            here = [leg for leg in inside if {leg.a, leg.b} == {route.a, route.b}]
            self._lay_run(run, route, crossing, flows[:, crossing, run], here)
            # What was there and is not needed stays in the wall.
            self.legs += [leg for leg in here if leg.state == "as-found"]
        routed = {frozenset((route.a, route.b)) for route in tree.routes}
        self.legs += [leg for leg in inside if leg.state == "as-found" and frozenset((leg.a, leg.b)) not in routed]

    def _lay_run(self, run: int, route: Route, crossing: list[int], flows: Flows, here: list[Leg]) -> None:
        """Lay the cables of a run and put the nets that cross it into their cores; what is used of `here` goes."""
        fill = self.chooser.fill(route, len(crossing))
        new = [RouteCable(live=live, colours=self.chooser.scheme.wishes.colours) for live in fill.new]
        cables = [*(route.cables[index] for index in fill.kept), *new]
        shares = shared_out(flows, [cable.live for cable in cables], [self.nets[index] for index in crossing])
        for at, (cable, share) in enumerate(zip(cables, shares, strict=True)):
            leg = self._leg(here, route.a, route.b, cable, route.length_m, at < len(fill.kept))
            self.legs.append(leg)
            self.run_of[leg.id] = run
            self._fill(leg, [crossing[index] for index in share])

    def _made(self, cable: RouteCable) -> Cable:
        """Return a new cable with as many live cores, of the sort that the circuit is laid in."""
        usual = self.chooser.circuit.cable
        kind, cores = _TYPES[cable.live]
        if usual.type in _COUNTED and usual.lone is None:
            # What is laid in singles or in round cable goes on so, with a core for each conductor and one for the cpc.
            kind, cores = usual.type, cable.live + 1
        said = {"type": kind, "cores": cores, "cpc_by": "core", "colours": cable.colours}
        return Cable.model_validate({**said, "csa_mm2": usual.csa_mm2, "insulation": usual.insulation})

    def _leg(self, here: list[Leg], a: str, b: str, cable: RouteCable, length_m: float | None, kept: bool) -> Leg:
        """Return the leg of a cable: one that is there, taken out of `here`, or a new one."""
        circuit = self.chooser.circuit
        for leg in here:
            mine = circuit.cable_of(leg)
            if len(mine.live_cores) == cable.live and (kept or leg.state == "new") and mine.colours == cable.colours:
                here.remove(leg)
                return leg
        made = self._made(cable)
        leg_id = next_id("L", [leg.id for leg in (*circuit.legs, *self.legs, *self.outside)])
        own = None if made == circuit.cable else made
        method = laid_by(self.book, made, circuit.method)
        segment = Segment(length_m=length_m, method=None if method == circuit.method else method)
        state: State = "as-found" if kept else "new"
        return Leg(id=leg_id, a=a, b=b, state=state, cable=own, segments=(segment,))

    def _fill(self, leg: Leg, share: Sequence[int]) -> None:
        """Put nets into the cores of a cable."""
        cable = self.chooser.circuit.cable_of(leg)
        cores = cable.live_cores
        colours = [colour_of(self.book, cable, core) for core in cores]
        nets = [self.nets[index] for index in share]
        for core, net in zip(cores, into_cores(nets, colours, scheme_of(self.book, cable)), strict=True):
            if net is not None:
                self.core_of[leg.id, core] = share[net]

    def _point(self, point: Point) -> Point:
        accessories = self.fitted[point.id]
        return point.model_copy(update={"accessories": accessories, "joins": self._joins(point.id, accessories)})

    # What meets at a place

    def _joins(self, place: str, accessories: Sequence[Accessory]) -> tuple[Join, ...]:
        here = [leg for leg in (*self.outside, *self.legs) if place in (leg.a, leg.b)]
        groups, parked = self._ends_at(here, self.chosen.tree.towards_root(place))
        earths = [CoreEnd(leg=leg.id, core="E") for leg in here]
        parting = next((each for each in accessories if each.kind in ISOLATING), None)
        joins = [Join(ends=tuple(earths), terminals=("E",))] if earths else []
        poles = _poles(parting, [self.nets[net] for net in sorted(groups)])
        for index, net in enumerate(self.nets):
            terminals = _terminals(net, place)
            ends = groups.get(index, [])
            if not ends and not terminals:
                continue
            if parting is not None and net in poles:
                joins += _parted(parting, poles[net], ends, terminals)
                continue
            if not terminals and net.role == "line" and self._is_light(place):
                terminals = ["LOOP"]
            joins.append(Join(ends=tuple(end for end, _ in ends), terminals=tuple(terminals)))
        joins += [Join(ends=(end,)) for end in parked]
        return tuple(joins)

    def _ends_at(
        self, here: Sequence[Leg], supply: int | None
    ) -> tuple[dict[int, list[tuple[CoreEnd, bool]]], list[CoreEnd]]:
        """Return the core ends of some legs by the net they hold, each with whether it comes from the supply, and the
        ends that hold none."""
        groups: dict[int, list[tuple[CoreEnd, bool]]] = {}
        parked = list[CoreEnd]()
        for leg in here:
            outside = leg in self.outside
            before = outside if supply is None else self.run_of.get(leg.id) == supply
            for core in self.chooser.circuit.cable_of(leg).live_cores:
                holds = {"L": 0, "N": 1}.get(core) if outside else self.core_of.get((leg.id, core))
                if holds is None:
                    parked.append(CoreEnd(leg=leg.id, core=core))
                else:
                    groups.setdefault(holds, []).append((self._end(leg, core, self.nets[holds]), before))
        return groups, parked

    def _is_light(self, place: str) -> bool:
        return place != BOARD and self.chooser.circuit.point(place).kind == "light"

    def _end(self, leg: Leg, core: str, net: Net) -> CoreEnd:
        return sleeved_end(self.book, leg.id, self.chooser.circuit.cable_of(leg), core, net)


def _terminals(net: Net, place: str) -> list[str]:
    """Return the terminals of a net at a place."""
    found = [end.terminal for end in net.ends if end.place == place and end.terminal]
    if place == BOARD and net.role in ("line", "neutral"):
        found.append("L" if net.role == "line" else "N")
    return found


def _poles(parting: Accessory | None, nets: Sequence[Net]) -> dict[Net, str]:
    """Return which conductors an isolator or fused unit opens, each with its pole: of those switched the first."""
    if parting is None:
        return {}
    poles = {net: "L" if net.role == "line" else "N" for net in nets if net.role in ("line", "neutral")}
    switched = [net for net in nets if net.role == "switched"]
    if parting.kind == "isolator-3" and switched:
        poles[switched[0]] = "S"
    return poles


def _parted(
    parting: Accessory, pole: str, ends: Iterable[tuple[CoreEnd, bool]], terminals: Sequence[str]
) -> list[Join]:
    """Return the two joins of a conductor on either side of what opens it."""
    every = list(ends)
    before = tuple(end for end, supply in every if supply)
    beyond = tuple(end for end, supply in every if not supply)
    return [
        Join(ends=before, terminals=(parting.terminal(f"{pole}I"),)),
        Join(ends=beyond, terminals=(parting.terminal(f"{pole}O"), *terminals)),
    ]
