"""A house: its boards as a tree with its circuits seated, and what follows from where each sits."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from lumbek.core.board.draw import Draw, draw_of
from lumbek.core.board.member import Member, member_of
from lumbek.core.board.tree import seated
from lumbek.core.circuit.graph import graph_of
from lumbek.core.judging.check import Clause, Place
from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.board import LINES, Board, Group, Line, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.places import Places, name_by_id
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import Supply
from lumbek.core.model.text import LEAST
from lumbek.core.places.named import named
from lumbek.core.plan.at_points import PlanZones, zoned, zones_at_points
from lumbek.core.rulebooks import Rulebook, rulebook_of
from lumbek.core.study.lengths import settle
from lumbek.core.study.own_earth import as_measured, read_electrode_ohm
from lumbek.core.study.residual import rcds_of
from lumbek.core.survey.as_read import supply_of_job

# The greatest RCCB there is in a house, and the greatest current that a load may state.
_LARGEST_RCCB_A = 100.0
_MOST_A = 400.0


@dataclass(frozen=True)
class Seat:
    """A way that holds a circuit, with its group and board."""

    board: Board
    group: Group
    way: Way


@dataclass(frozen=True)
class House:
    """The boards with every circuit in a way, under one rulebook on one supply. Made by `house_of`."""

    rulebook: Rulebook
    supply: Supply
    boards: tuple[Board, ...]
    places: Places
    members: Mapping[str, Member]
    # The circuits that were put into a way by somebody, and not only to have one.
    said: frozenset[str] = frozenset()
    # What electrodes of circuits' own were read at, Ω, by the circuit on whose sheet it stands.
    electrodes: Mapping[str, float] = field(default_factory=dict)

    # Where things are

    @cached_property
    def mixed_colours(self) -> bool:
        """Whether conductors of old and of new colours stand beside each other in it."""
        return len({colours for member in self.members.values() for colours in member.colours}) > 1

    @cached_property
    def plan_zones(self) -> PlanZones:
        """The zones that the plan has points in."""
        return zones_at_points(self.places, self.rulebook.data.id)

    @cached_property
    def by_id(self) -> Mapping[str, Board]:
        """The boards by their ids."""
        return {board.id: board for board in self.boards}

    @cached_property
    def _all_seats(self) -> Mapping[str, list[Seat]]:
        found: dict[str, list[Seat]] = {}
        for board in self.boards:
            for group in board.groups:
                for way in group.ways:
                    for key in way.circuits:
                        found.setdefault(key, []).append(Seat(board, group, way))
        return found

    @cached_property
    def seats(self) -> Mapping[str, Seat]:
        """Where each circuit sits: the first way that holds it."""
        return {key: seats[0] for key, seats in self._all_seats.items()}

    @property
    def several(self) -> Mapping[str, list[Seat]]:
        """The circuits that are in more than one way: a ring across two devices, a borrowed way."""
        return {key: seats for key, seats in self._all_seats.items() if len(seats) > 1}

    @cached_property
    def _hanging(self) -> Mapping[str, tuple[Board, ...]]:
        """The boards that hang on a circuit, a board or a group, by that one's id."""
        found: dict[str, list[Board]] = {}
        for board in self.boards:
            above = board.fed_by or board.beside_group or board.beside
            if above is not None:
                found.setdefault(above, []).append(board)
        return {key: tuple(boards) for key, boards in found.items()}

    def members_in(self, ways: Iterable[Way]) -> Iterator[Member]:
        """Yield every circuit behind these ways, those of boards that they feed too, each once."""
        seen: set[str] = set()
        for way in ways:
            for key in way.circuits:
                if key in seen:
                    continue
                seen.add(key)
                yield self.members[key]
                for board in self.hanging_on(key):
                    yield from self.behind_board(board)

    def behind_group(self, group: Group) -> Iterator[Member]:
        """Yield every circuit behind a group's RCD."""
        yield from self.members_in(group.ways)
        for board in self.hanging_on(group.id):
            yield from self.behind_board(board)

    def behind_board(self, board: Board) -> Iterator[Member]:
        """Yield every circuit of a board and of all boards behind it."""
        for group in board.groups:
            yield from self.behind_group(group)
        for other in self.hanging_on(board.id):
            yield from self.behind_board(other)

    def hanging_on(self, above: str) -> tuple[Board, ...]:
        """Return the boards that hang on a circuit, a group or a board."""
        return self._hanging.get(above, ())

    def device_of(self, way: Way) -> Device | None:
        """Return the device of a way: that of its first circuit, or one fitted with no circuit."""
        if way.direct:
            return None
        return self.members[way.circuits[0]].device if way.circuits else way.device

    def storey_of(self, room: str) -> str:
        """Return the name of the storey of a room; nothing where nobody has said."""
        return self._storeys.get(room, "")

    def room_name(self, room: str | None) -> str:
        """Return what a room is called; one that nobody lists as its id says."""
        return self._room_names.get(room or "", name_by_id(room))

    @cached_property
    def _storeys(self) -> Mapping[str, str]:
        names = {storey.id: storey.name for storey in self.places.storeys}
        return {room.id: names[room.storey] for room in self.places.rooms if room.storey is not None}

    @cached_property
    def _room_names(self) -> Mapping[str, str]:
        return {room.id: room.name for room in self.places.rooms}

    # What is drawn

    def drawn_by(self, members: Iterable[Member]) -> Draw:
        """Return what some circuits draw together, with the diversity of one dwelling."""
        return draw_of(self.rulebook, self.supply, self._on_lines, self._linked, members)

    @cached_property
    def _on_lines(self) -> Mapping[str, Line | None]:
        return {key: seat.way.line for key, seat in self.seats.items()}

    @cached_property
    def _linked(self) -> frozenset[str]:
        return frozenset(board.fed_by for board in self.boards if board.fed_by is not None)

    @cached_property
    def board_draws(self) -> Mapping[str, Draw]:
        """What each board draws with all boards behind it."""
        return {board.id: self.drawn_by(self.behind_board(board)) for board in self.boards}

    @cached_property
    def whole_draw(self) -> Draw:
        """What the whole house draws."""
        return self.drawn_by(self.members.values())

    @cached_property
    def way_draws(self) -> Mapping[str, Draw]:
        """What each way draws with all boards behind it."""
        return {way.id: self.drawn_by(self.members_in((way,))) for board in self.boards for way in board.ways}

    @cached_property
    def group_draws(self) -> Mapping[str, Draw]:
        """What each group draws with all boards behind it."""
        return {group.id: self.drawn_by(self.behind_group(group)) for board in self.boards for group in board.groups}

    def most_through(self, ways: Iterable[Way], beside: Iterable[Board] = ()) -> float:
        """Return the most that ways let through together, A on the fullest line: their devices' ratings.

        A way that is linked straight, or behind a mere switch, lets through what its board can, or its circuit draws.
        """
        sums = dict.fromkeys(LINES if self.supply.phases == 3 else LINES[:1], 0.0)
        for way in ways:
            if not way.circuits:
                continue
            device = self.device_of(way)
            behind = [board for key in way.circuits for board in self.hanging_on(key)]
            if device is not None and self.rulebook.protects(device):
                most = device.rating_a
            elif behind:
                most = sum(self.most_through_board(board) for board in behind)
            else:
                most = self.way_draws[way.id].greatest_a
            single = all(self.members[key].phases == 1 for key in way.circuits)
            for line in sums:
                if not single or way.line is None or way.line == line:
                    sums[line] += most
        return max(sums.values()) + sum(self.most_through_board(board) for board in beside)

    def most_through_board(self, board: Board) -> float:
        """Return the most that a board lets through, A on its fullest line, boards beside it included."""
        groups = [each for group in board.groups for each in self.hanging_on(group.id)]
        return self.most_through(board.ways, [*groups, *self.hanging_on(board.id)])

    # A circuit as it sits

    def effective(self, circuit: JobCircuit) -> Circuit:
        """Return a circuit with what follows from its seat: what is ahead, what it shares, what its board draws."""
        return self.placed(circuit.key, circuit.design)

    def placed(self, key: str, design: Circuit) -> Circuit:
        """Return a design as if it were that of the circuit of this key."""
        design = zoned(named(design, self.room_name), key, self.plan_zones)
        seat = self.seats.get(key)
        own = self.earth_of(key, design)
        if own != design.own_earth:
            design = design.model_copy(update={"own_earth": own})
        if seat is None:
            return design
        first = seat.way.circuits[0]
        device = design.device if first == key else self.members[first].device
        ahead, device = self._behind_rcd(seat.group, self.ahead_of(seat.board), device)
        device = self._as_the_board_has_it(key, seat, ahead, device)
        update: dict[str, object] = {}
        fellow = self._bath_fellow(key)
        if fellow != design.surroundings.bath_fellow:
            update["surroundings"] = design.surroundings.model_copy(update={"bath_fellow": fellow})
        if ahead:
            update["ahead"] = ahead
        if device is not design.device:
            update["device"] = device
        update |= self._with_its_board(key, design)
        return design.model_copy(update=update) if update else design

    def earth_of(self, key: str, design: Circuit) -> OwnEarth | None:
        """Return the earth of a circuit's own, as it was measured on its sheet; None where it has the house's.

        Nobody has said that two circuits stand on one electrode: what was read for one clears no other.
        """
        own, read = design.own_earth, self.electrodes.get(key)
        return own if own is None or read is None else as_measured(own, read)

    def _with_its_board(self, key: str, design: Circuit) -> dict[str, object]:
        """Return the points of a design that feeds a board with what that draws, where they do not say it."""
        boards = self.hanging_on(key)
        if not boards or all(point.kind != "board" or point.loads for point in design.points):
            return {}
        load = self._load_of(boards[0])
        return {"points": tuple(_fed(point, load) for point in design.points)}

    def _as_the_board_has_it(self, key: str, seat: Seat, ahead: tuple[Ahead, ...], device: Device) -> Device:
        """Return a device whose shared RCD is disputed where its board, as somebody has described it, has none."""
        rcd = device.known_rcd
        behind_one = seat.group.rcd is not None or any(each.device and each.device.may_have_rcd for each in ahead)
        if rcd is None or not rcd.shared or key not in self.said or behind_one:
            return device
        rated = "an RCD" if rcd.rated_ma is None else f"an RCD of {rcd.rated_ma:g} mA"
        words = f"the circuit is said to share {rated}, and {seat.board.name} has none ahead of its way"
        return device.model_copy(update={"rcd": rcd.model_copy(update={"rated_ma": None, "disputed": words})})

    def _bath_fellow(self, key: str) -> str:
        """Return another circuit of the same bath room that is not known to have 30 mA; nothing where there is none."""
        rooms = self.members[key].bath_rooms if key in self.members else frozenset()
        for other in self.members.values() if rooms else ():
            if other.key != key and other.bath_rooms & rooms and self._is_guarded(other.key) is not True:
                return other.title
        return ""

    def _is_guarded(self, key: str) -> bool | None:
        """Whether 30 mA guards a circuit, wherever it is; None where that is not known."""
        seat, member, most = self.seats[key], self.members[key], self.rulebook.data.rcd.most_ma
        ahead, device = self._behind_rcd(seat.group, self.ahead_of(seat.board), member.device)
        found = [
            None if each.rcd is None else each.rcd.is_additional(most)
            for each in rcds_of(Circuit(ahead=ahead, device=device))
        ]
        return True if True in found else None if None in found else False

    def _load_of(self, board: Board) -> Load | None:
        """Return what a board draws as the load of its feed; None where nothing hangs on it."""
        flows = self._flows(board)
        current = self._drawn_a(board) if flows is None else flows
        return Load(name=f"Everything on {board.name}", current_a=_stateable(current)) if current else None

    def ahead_of(self, board: Board) -> tuple[Ahead, ...]:
        """Return what stands between the origin and the ways of a board, its main switch included.

        A mere switch is left out: whether it carries what flows is asked of the board, once.
        """
        return self._ahead[board.id]

    @cached_property
    def _ahead(self) -> Mapping[str, tuple[Ahead, ...]]:
        found: dict[str, tuple[Ahead, ...]] = {}

        def of(board: Board) -> tuple[Ahead, ...]:
            if board.id not in found:
                found[board.id] = ()
                found[board.id] = self._find_ahead(board, of)
            return found[board.id]

        for board in self.boards:
            of(board)
        return found

    def _find_ahead(self, board: Board, of: Callable[[Board], tuple[Ahead, ...]]) -> tuple[Ahead, ...]:
        ahead: tuple[Ahead, ...] = ()
        if board.beside is not None and board.beside in self.by_id:
            above = self.by_id[board.beside]
            ahead = of(above)
            group = next((each for each in above.groups if each.id == board.beside_group), None)
            if group is not None:
                ahead = (*ahead, *self._rcd_ahead(group))
        elif board.fed_by is not None and board.fed_by in self.seats:
            seat, member = self.seats[board.fed_by], self.members[board.fed_by]
            ahead, device = self._behind_rcd(seat.group, of(seat.board), member.device)
            if not seat.way.direct:
                ahead = (*ahead, Ahead(name=member.name, device=device))
            if member.feeder is not None:
                ahead = (*ahead, *self._feeds(member.feeder, board))
        return (*ahead, *self._main_ahead(board))

    def _main_ahead(self, board: Board) -> tuple[Ahead, ...]:
        """Return the main of a board as what is ahead of its ways; a bare switch is nothing to them."""
        main = board.known_main
        if main is None or (main.standard == "switch" and main.known_rcd is None):
            return ()
        flows = _stateable(self._flows(board))
        return (Ahead(name=f"Main switch of {board.name}", device=main, current_a=flows, at_board=True),)

    def _flows(self, board: Board) -> float | None:
        """Return what is known to flow through a board, in A: its loads, else what is said of it; None of neither."""
        return self._drawn_a(board) if self.board_draws[board.id].stated else board.stated_a

    def _drawn_a(self, board: Board) -> float:
        """Return what the circuits of a board draw together, in A.

        Diversity is between circuits: no feed carries less than the one of them that draws most.
        """
        alone = max((each.ib_a + each.sources_a for each in self.behind_board(board)), default=0.0)
        return max(self.board_draws[board.id].greatest_a, alone)

    def _feeds(self, design: Circuit, board: Board) -> Iterator[Ahead]:
        """Yield the cables from a way to the board it feeds, one for each segment of each leg."""
        shortest, *_ = settled = settle(self.rulebook, design).variants
        design = settled[-1]
        graph = graph_of(design)
        end = next((point.id for point in design.points if point.kind == "board"), None)
        if end is None or end not in graph.distance:
            return
        stated = sum(load.design_current_a(self.rulebook.u0_v, 1) for load in design.point(end).loads) or board.stated_a
        found = self.board_draws[board.id]
        current = stated if stated is not None and not found.stated else self._drawn_a(board) or None
        if stated is not None and current is not None:
            current = max(current, stated)
        for leg_id in graph.path_to(end):
            leg = design.leg(leg_id)
            for least, segment in zip(shortest.leg(leg_id).segments, leg.segments, strict=True):
                yield Ahead(
                    name=design.name,
                    feed=design.cable_of(leg),
                    length_m=segment.length_m,
                    least_length_m=None if least.length_m == segment.length_m else least.length_m,
                    method=segment.method or design.method,
                    current_a=_stateable(current),
                )

    def _rcd_ahead(self, group: Group) -> tuple[Ahead, ...]:
        """Return a group's RCD as a thing ahead."""
        if group.rcd is None:
            return ()
        # Whether an RCCB of unread rating carries its group is asked of the group; here only its RCD counts.
        rating = group.rating_a or _LARGEST_RCCB_A
        device = Device(standard="bs-en-61008", curve=None, rating_a=rating, rcd=group.rcd)
        draw = self.group_draws[group.id]
        flows = draw.greatest_a if draw.stated and not group.unsure else group.stated_a
        name = group.name or "RCD of the group"
        return (Ahead(name=name, device=device, current_a=_stateable(flows), at_board=True),)

    def _behind_rcd(self, group: Group, ahead: tuple[Ahead, ...], device: Device) -> tuple[tuple[Ahead, ...], Device]:
        """Return what is ahead and the device of a way in a group, its RCD counted in.

        One whose rating nobody has read goes with the device that shares it, as long as that has none of its own.
        """
        if group.rcd is None:
            return ahead, device
        if group.rating_a is None and device.rcd is None:
            shared = group.rcd if group.rcd == "unknown" else group.rcd.model_copy(update={"shared": True})
            return ahead, device.model_copy(update={"rcd": shared})
        return (*ahead, *self._rcd_ahead(group)), device

    # Words

    def clause(self, key: str) -> Clause:
        """Return a clause of the rulebook in force."""
        return self.rulebook.clause(key)

    def board_place(self, board: Board) -> Place:
        """Return a board as a place."""
        return Place(kind="board", id=board.id, name=board.name)

    def group_title(self, board: Board, group: Group) -> str:
        """Return how a person would name a group."""
        if group.name:
            return group.name
        several = len(board.groups) > 1
        return f"group {board.groups.index(group) + 1} of {board.name}" if several else board.name

    def group_place(self, board: Board, group: Group) -> Place:
        """Return a group as a place."""
        return Place(kind="group", id=group.id, name=self.group_title(board, group))


def _stateable(current_a: float | None) -> float | None:
    """Return a current as far as the model lets one be stated.

    What is beyond that is beyond every device too, and what is less than can be meant is nothing.
    """
    if current_a is None:
        return None
    return 0.0 if current_a < LEAST else min(current_a, _MOST_A)


def _fed(point: Point, load: Load | None) -> Point:
    """Return the end of a feed with what its board draws as its load; what is stated there stands."""
    if load is None or point.kind != "board" or point.loads:
        return point
    return point.model_copy(update={"loads": (load,)})


def house_of(
    rulebook: Rulebook,
    supply: Supply,
    boards: tuple[Board, ...],
    places: Places,
    circuits: Iterable[JobCircuit],
) -> House:
    """Return the house of these circuits, each in a way."""
    members, electrodes = [], {}
    for circuit in circuits:
        members.append(member_of(rulebook, circuit))
        if (ohm := read_electrode_ohm(circuit.readings)) is not None:
            electrodes[circuit.key] = ohm
    return house_with(rulebook, supply, boards, places, members, electrodes)


def house_with(
    rulebook: Rulebook,
    supply: Supply,
    boards: tuple[Board, ...],
    places: Places,
    members: Iterable[Member],
    electrodes: Mapping[str, float],
) -> House:
    """Return the house of these members, each in a way; `electrodes` of their own are in Ω as read, by circuit."""
    by_key = {member.key: member for member in members}
    said = frozenset(key for board in boards for way in board.ways for key in way.circuits)
    return House(rulebook, supply, seated(boards, by_key, supply.board), places, by_key, said, electrodes)


def house_of_job(job: Job, circuits: Iterable[JobCircuit] | None = None) -> House:
    """Return the house of a job; `circuits` where they are not held in it."""
    given = job.circuits if circuits is None else circuits
    return house_of(rulebook_of(job), supply_of_job(job), job.boards, job.places, given)
