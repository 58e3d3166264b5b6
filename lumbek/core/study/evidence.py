"""A circuit as its readings prove it: what can read to each point, and whether any cable explains what was read."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from math import sqrt

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.shape import Shape
from lumbek.core.evidence.given import CPC, LIVE, LOOP, Bounds, Cores, GivenLeg, GivenReading, RingGiven
from lumbek.core.evidence.intervals import ANYTHING, Interval
from lumbek.core.evidence.ring import RingKnown, ring_bounds, total_m
from lumbek.core.evidence.tree import outward, paths, proved_by_live, tree_bounds
from lumbek.core.judging.check import Step
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.reading import Quantity, Reading
from lumbek.core.numbers import plain, show_down, show_up
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.ahead import AheadOf
from lumbek.core.study.read import Read
from lumbek.core.study.wires import Wires

# Conductors that a reading from the board to a point counts.
_COUNTS: Mapping[Quantity, Cores] = {"r1+r2": LOOP, "zs": LOOP, "r1+rn": LIVE, "r2-lead": CPC}
NAMES: Mapping[Quantity, str] = {
    "r1": "r1", "rn": "rn", "r2": "r2", "r1+r2": "R1+R2", "r1+rn": "R1+Rn", "r2-lead": "R2", "zs": "Zs",
    "cross-ln": "L–N crossed", "cross-le": "L–cpc crossed",
}  # fmt: skip
_ENDS: tuple[Quantity, ...] = ("r1", "rn", "r2")
# Readings with the neutral in them, and no cpc.
_NEUTRAL: tuple[Quantity, ...] = ("rn", "cross-ln", "r1+rn")
_CROSSED: tuple[Quantity, ...] = ("cross-ln", "cross-le")
_BOUNDED = ("ring", "ring-with-spurs", "radial", "branched-radial")


@dataclass(frozen=True)
class Evidence:
    """What is known of the conductors of one circuit by its drawing and its readings together.

    `bounds` are those of each point; empty where no cable explains what was read, or nothing can be said. `drawn_off`
    says that the drawn lengths are no more than guesses beside what was read.
    """

    rulebook: Rulebook
    graph: CircuitGraph
    shape: Shape
    wires: Wires
    ahead: AheadOf
    read: Read

    @cached_property
    def _unread_leg(self) -> bool:
        return any(leg.length_m is None for leg in self.wires.legs)

    @cached_property
    def is_plain(self) -> bool:
        """Whether its conductors meet plainly, so that a way to a point is the sum of its legs."""
        wiring = self.wires
        return (
            self.shape.kind in _BOUNDED
            and not wiring.circuit.board_joins
            and all(not point.joins and not point.contacts for point in wiring.circuit.points)
            and not wiring.without_cpc
            and not wiring.parted
            and not wiring.as_found.broken
        )

    @cached_property
    def is_known(self) -> bool:
        """Whether every length is drawn, without a range."""
        return not self._unread_leg and all(
            segment.length_to_m is None for leg in self.wires.legs for segment in leg.segments
        )

    @property
    def says_nothing(self) -> bool:
        """Whether nothing was read that tells of the conductors."""
        return self.read.is_empty

    # What there is to go by

    def _cores(self, leg: Leg) -> Cores | None:
        cable = self.wires.cable_of(leg)
        found = [self.rulebook.milliohm_per_m(cable, core) for core in ("L", "N", "E")]
        if any(each is None for each in found):
            return None
        line, neutral, earth = ((each or 0.0) / 1000 for each in found)
        return line, neutral, earth

    @cached_property
    def listed(self) -> bool:
        """Whether the tables have the conductors of every leg."""
        return all(self._cores(leg) is not None for leg in self.wires.legs)

    def _legs(self, part: tuple[float, float]) -> tuple[GivenLeg, ...]:
        """Return the legs as they are given, those drawn with this part of their length."""
        far = self.graph.distance
        found = []
        for leg in self.wires.legs:
            near, beyond = (leg.a, leg.b) if far[leg.a] <= far[leg.b] else (leg.b, leg.a)
            known = leg.length_m is not None
            least = leg.length_m or 0.0
            most = sum(segment.length_to_m or segment.length_m or 0.0 for segment in leg.segments)
            length = Interval(least * part[0], most * part[1]) if known else Interval(0.0, self._together_m)
            cores = self._cores(leg)
            assert cores is not None
            found.append(GivenLeg(leg.id, near, beyond, cores, length, known))
        return tuple(found)

    @property
    def _together_m(self) -> float:
        return self.rulebook.evidence.unknown_together_m

    @cached_property
    def _factor(self) -> float:
        return self.rulebook.temperature_factor(self.read.ambient_c)

    def dead(self, ohm: float) -> Interval:
        """Return what a dead reading may stand for, Ω at 20 °C."""
        rules = self.rulebook.evidence
        room = ohm * rules.dead_part + rules.dead_ohm
        return Interval(max(0.0, ohm - room), ohm + room).times(1 / self._factor)

    def live(self, ohm: float) -> Interval:
        """Return what a live reading may stand for, Ω as the copper is."""
        rules = self.rulebook.evidence
        room = ohm * rules.live_part + rules.live_ohm
        return Interval(max(0.0, ohm - room), ohm + room)

    @cached_property
    def _outside(self) -> Interval | None:
        """What lies outside the circuit in a reading of Zs; nothing known of it is a range from nothing on."""
        ze = self.ahead.cold_ze_ohm
        if ze is None or self.ahead.unmeasured_electrode is not None:
            return None
        return self.live(ze) if self.ahead.outside_measured else Interval(0.0, ze)

    def _of(self, reading: Reading) -> GivenReading | None:
        counts = _COUNTS.get(reading.quantity)
        if counts is None or reading.value is None or reading.beyond:
            return None
        if reading.quantity != "zs":
            return GivenReading(counts, self.dead(reading.value))
        loop = self.loop_of_zs(reading.value)
        return None if loop is None else GivenReading(counts, loop)

    def loop_of_zs(self, zs_ohm: float) -> Interval | None:
        """Return what the circuit may have of a Zs that was read, Ω at 20 °C; None where nothing is known of Ze.

        Metal beside the cpc makes a loop read low, never high: less than nothing is nothing.
        """
        if self._outside is None:
            return None
        ohm = self.live(zs_ohm).less(self._outside).times(1 / self._factor)
        return Interval(max(0.0, ohm.least), max(0.0, ohm.most))

    @cached_property
    def _readings(self) -> Mapping[str, list[GivenReading]]:
        found: dict[str, list[GivenReading]] = {}
        for reading in self.read.readings:
            each = self._of(reading)
            if reading.point is not None and each is not None:
                found.setdefault(reading.point, []).append(each)
        return found

    @cached_property
    def is_open(self) -> bool:
        """Whether some conductor was read open: no sound circuit is."""
        return any(each.beyond for each in self.read.readings)

    # What follows

    @cached_property
    def _found(self) -> tuple[dict[str, Bounds] | None, bool]:
        """The bounds with the drawing as it is, else as a guess; and whether it had to be taken as one."""
        rules = self.rulebook.evidence
        exact = (1.0, 1.0)
        first = self._bounds(exact if self.says_nothing else rules.known_part)
        if first is not None or self.says_nothing:
            return first, False
        if self.is_lowered:
            return self._bounds(rules.known_part, self._without_low), False
        guessed = self._bounds(rules.guessed_part)
        if guessed is not None:
            return guessed, True
        rest = self._without_neutral
        return (None, True) if rest is None else (_no_neutral(rest.bounds), rest.drawn_off)

    @cached_property
    def _without_neutral(self) -> "Evidence | None":
        """The same without what was read of the neutral, where that alone fits nothing.

        The loop is judged by the rest.

        None where the neutral was not read, or the rest fits nothing either.
        """
        rest = replace(self, read=self.read.without(_NEUTRAL))
        same = len(rest.read.readings) == len(self.read.readings)
        return rest if not same and not rest.says_nothing and rest.bounds else None

    @property
    def neutral_off(self) -> bool:
        """Whether what was read of the neutral fits nothing that the rest allows."""
        return self.can_tell and not self.is_open and self._found[1] and self._without_neutral is not None

    @cached_property
    def is_lowered(self) -> bool:
        """Whether readings of Zs lie under what all else says: metal beside the cpc, a remark and no fault."""
        if not any(each.quantity == "zs" for each in self.read.readings):
            return False
        return self._bounds(self.rulebook.evidence.known_part, self._without_low) is not None

    @cached_property
    def _without_low(self) -> Mapping[str, list[GivenReading]]:
        """The readings with those of Zs as lower bounds alone: another way to earth may have lowered them."""
        found: dict[str, list[GivenReading]] = {}
        for reading in self.read.readings:
            each = self._of(reading)
            if reading.point is None or each is None:
                continue
            if reading.quantity == "zs":
                each = GivenReading(each.counts, Interval(each.ohm.least, float("inf")))
            found.setdefault(reading.point, []).append(each)
        return found

    def _bounds(
        self, part: tuple[float, float], readings: Mapping[str, list[GivenReading]] | None = None
    ) -> dict[str, Bounds] | None:
        given = self._readings if readings is None else readings
        legs = self._legs(part)
        if not self.shape.is_ring:
            return tree_bounds(legs, given, BOARD, self._together_m)
        if not self._is_of_one_cable:
            return None
        return ring_bounds(self._ring_known(legs, given))

    def _ring_known(self, legs: tuple[GivenLeg, ...], readings: Mapping[str, list[GivenReading]]) -> RingKnown:
        by_id = {leg.id: leg for leg in legs}
        value = self.read.value
        ends = {core: self.dead(ohm) for core, each in enumerate(_ENDS) if (ohm := value(each)) is not None}

        def read_at_points(each: Quantity) -> dict[str, Interval]:
            return {point: self.dead(ohm) for point in self.graph.distance if (ohm := value(each, point)) is not None}

        hung: dict[str, list[GivenLeg]] = {}
        for spur in self.shape.spurs:
            hung.setdefault(spur.from_point, []).extend(by_id[each] for each in spur.legs)
        return RingKnown(
            legs=tuple(by_id[each] for each in self.shape.ring_legs),
            points=self.shape.ring_points,
            hung={point: tuple(some) for point, some in hung.items()},
            readings=readings,
            ring=RingGiven(ends, *map(read_at_points, _CROSSED)),
            together_m=self._together_m,
            slices=self.rulebook.evidence.ring_slices,
        )

    @cached_property
    def ring_total_m(self) -> Interval | None:
        """The whole length of a ring in m; None where there is none, or what is known of it does not agree."""
        if not self.shape.is_ring or not self.can_tell:
            return None
        part = self.rulebook.evidence.guessed_part if self._found[1] else self.rulebook.evidence.known_part
        found = total_m(self._ring_known(self._legs(part), self._readings))
        return None if found.is_empty else found

    def far_share(self, point: str) -> float:
        """Return the most of a load that either side of a ring carries, 0.5 to 1; of one on a spur, where that hangs.

        A load x from one end is shared (T - x) to x; q / T = f (1 - f) for the greater share f. What hangs off the
        board beside the ring goes by neither side: 0.
        """
        at = self.shape.hangs_at(point)
        if at == BOARD:
            return 0.0
        whole, bounds = self.ring_total_m, self.bounds.get(at)
        if whole is None or bounds is None or not whole.most:
            return 1.0
        line, _, earth = self._ring_cores
        share = min(0.25, bounds.loop.least / (line + earth) / whole.most)
        return 0.5 + sqrt(0.25 - share)

    @property
    def _ring_cores(self) -> Cores:
        found = self._cores(self._ring_legs[0])
        assert found is not None
        return found

    @cached_property
    def _is_of_one_cable(self) -> bool:
        return len({self.wires.cable_of(leg) for leg in self._ring_legs}) == 1

    @property
    def can_tell(self) -> bool:
        """Whether bounds can be worked out at all: plain joins, listed cables, a ring of one cable."""
        if not self.is_plain or not self.listed:
            return False
        return not self.shape.is_ring or self._is_of_one_cable

    @cached_property
    def _ring_legs(self) -> tuple[Leg, ...]:
        return tuple(leg for leg in self.wires.legs if leg.id in self.shape.ring_legs)

    @cached_property
    def bounds(self) -> Mapping[str, Bounds]:
        """What can read to each point, Ω at 20 °C; empty where nothing explains what was read, or none can be told."""
        if self.is_open:
            return {}
        return (self._found[0] or {}) if self.can_tell else self._switched

    @cached_property
    def _switched(self) -> Mapping[str, Bounds]:
        """What is known where conductors do not meet plainly: at each point by what was read there, and no more.

        Its neutral takes no longer way than its cpc, and is no thinner: with the line it reads no more than the cpc.
        """
        if not self.listed or self.wires.without_cpc or self.wires.as_found.broken:
            return {}
        thin = all(cores[2] >= cores[1] for leg in self.wires.legs if (cores := self._cores(leg)) is not None)
        return {
            point: Bounds(ohm, Interval(0.0, ohm.most if thin else float("inf"))) for point, ohm in self.alone.items()
        }

    @property
    def drawn_off(self) -> bool:
        """Whether what was read fits the drawing only as a guess."""
        return self.can_tell and not self.is_open and self._found[1] and bool(self.bounds)

    @property
    def is_explained(self) -> bool:
        """Whether some cable of this drawing reads what was read."""
        return not self.can_tell or (not self.is_open and self._found[0] is not None)

    @cached_property
    def alone(self) -> Mapping[str, Interval]:
        """What was read of line and cpc at single points, each by itself, the worst of it; Ω at 20 °C."""
        return {
            point: max((each.ohm for each in some if each.counts == LOOP), key=lambda ohm: ohm.least)
            for point, some in self._readings.items()
            if any(each.counts == LOOP for each in some)
        }

    def read_loop_ohm(self, point: str, hot: Interval) -> Interval | None:
        """Return Zs in Ω with the conductors hot, straight from what was read of it at a point; None without that.

        Zs hot = k Zs - (k - 1) Ze: what Ze may be off by counts for little. `hot` is the factor k from 20 °C.
        """
        read = self.read.value("zs", point)
        if read is None or self._outside is None or self.ahead.feeds:
            return None
        ohm = self.live(read)
        return Interval(
            ohm.least * hot.least / self._factor - (hot.least / self._factor - 1) * self._outside.most,
            ohm.most * hot.most / self._factor - (hot.most / self._factor - 1) * self._outside.least,
        )

    @cached_property
    def proved_ohm(self) -> Mapping[str, float]:
        """The greatest loop to each point in Ω that cable alone proves: drawn legs, r1, rn, R1+Rn."""
        if not self.can_tell:
            cold = self.wires.cold if self.is_known else None
            most = self.rulebook.evidence.guessed_part[1]
            return {} if cold is None else {point: ohm * most for point, ohm in cold.joined_ohm.items()}
        part = self.rulebook.evidence.guessed_part if self._found[1] else self.rulebook.evidence.known_part
        legs = self._legs(part)
        if not self.shape.is_ring:
            return proved_by_live(legs, self._readings, BOARD)
        return self._proved_on_ring(legs)

    def _proved_on_ring(self, legs: tuple[GivenLeg, ...]) -> dict[str, float]:
        """A quarter of a ring's whole loop is the most to any point of it; what its live conductors prove counts."""
        by_id = {leg.id: leg for leg in legs}
        ring = [by_id[each] for each in self.shape.ring_legs]
        line, neutral, earth = ring[0].cores
        ends: tuple[tuple[Quantity, float], ...] = (("r1", line), ("rn", neutral))
        read = [self.dead(ohm).most / each for end, each in ends if (ohm := self.read.value(end)) is not None]
        drawn = sum(leg.length_m.most if leg.known else 0.0 for leg in ring)
        whole_m = min(read, default=drawn)
        on_ring = (line + earth) * whole_m / 4
        found = dict.fromkeys(self.shape.ring_points, on_ring)
        for spur in self.shape.spurs:
            start = 0.0 if spur.from_point == BOARD else on_ring
            order = outward([by_id[each] for each in spur.legs], spur.from_point)
            for place, path in paths(order, spur.from_point).items():
                if path:
                    added = sum(
                        (leg.length_m.most if leg.known else 0.0) * (leg.cores[0] + leg.cores[2]) for leg in path
                    )
                    found[place] = start + added
        return found

    # In words

    def next_reading(self) -> str:
        """Return the reading that settles most: where the upper bound is greatest; of a ring its ends first."""
        if self.shape.is_ring:
            missing = next((each for each in ("r1", "r2") if self.read.value(each) is None), None)
            if missing is not None:
                return f"reading of {missing}, end to end of the ring, which settles most"
            spurs = [point for spur in self.shape.spurs for point in spur.points]
            unread = [point for point in spurs if not self._is_read(point)]
            if unread:
                return f"reading of R1+R2 at {self.wires.circuit.point_title(self._widest(unread))}, which settles most"
            middle = self._widest(list(self.shape.ring_points))
            return f"reading of Zs at {self.wires.circuit.point_title(middle)}, near the middle of the ring"
        ends = [point for point in self.wires.points if not self._is_read(point)] or list(self.wires.points)
        if not ends:
            return "first cable from the board"
        return f"reading of R1+R2 at {self.wires.circuit.point_title(self._widest(ends))}, which settles most"

    def _is_read(self, point: str) -> bool:
        return any(each.point == point and each.quantity in ("r1+r2", "zs", "cross-le") for each in self.read.readings)

    def _widest(self, points: list[str]) -> str:
        """Return the point with the greatest upper bound; of several alike the farthest by legs."""
        far = self.graph.distance

        def key(point: str) -> tuple[float, int]:
            bounds = self.bounds.get(point)
            return (round(bounds.loop.most, 6) if bounds else 0.0, far[point])

        return max(points, key=key)

    def sources(self, point: str) -> str:
        """Return what was read there or nearest beyond, as the working says it."""
        here = [NAMES[each.quantity] for each in self.read.readings if each.point == point]
        if here:
            return f"from {' and '.join(dict.fromkeys(here))} read there"
        named = dict.fromkeys(
            NAMES[each.quantity]
            if each.point is None
            else f"{NAMES[each.quantity]} at {self.wires.circuit.point_title(each.point)}"
            for each in self.read.readings
        )
        words = list(named)
        more = f" and {len(words) - 3} more" if len(words) > 3 else ""
        return f"from {', '.join(words[:3])}{more}" if words else "from the drawing"

    def steps(self, point: str) -> tuple[Step, ...]:
        """Write out the bounds of a point."""
        bounds = self.bounds[point]
        loop = f"{show_down(bounds.loop.least, 3)} to {show_up(bounds.loop.most, 3)} Ω"
        read = ", ".join(
            f"{NAMES[each.quantity]} {plain(each.value or 0.0)} Ω" for each in self.read.readings if each.point == point
        )
        name = self.wires.circuit.point_title(point)
        return (
            Step(text=f"R1 + R2 at 20 °C at {name}, {self.sources(point)}", sum=f"{read}: {loop}" if read else loop),
            *self._guess_step(),
        )

    def _guess_step(self) -> Iterator[Step]:
        if self.drawn_off:
            yield Step(text="The drawn lengths are off beside what was read: take them as guesses")


def _no_neutral(bounds: Mapping[str, Bounds]) -> dict[str, Bounds]:
    """Return bounds that say nothing of line and neutral together."""
    return {point: Bounds(each.loop, ANYTHING) for point, each in bounds.items()}
