"""A ring by its whole length T and the place x of each point on it, in metres from the end one begins at.

In service line and cpc read (a + e) q to a point, with q = x (T - x) / T and a, e the ohms of a metre of line and cpc;
cross-joined they read a e T / (a + e) + (a - e)² q / (a + e) (Kirchhoff's laws). T is cut into slices. In each the
places that readings allow are followed round the ring and back: q has two places that mirror each other, so they are
sets of intervals. What no slice allows no ring of this drawing reads.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

from lumbek.core.evidence.given import LIVE, LOOP, Bounds, Cores, GivenLeg, GivenReading, RingGiven, per_m
from lumbek.core.evidence.intervals import Interval, Intervals, hull, meets, merged, spread
from lumbek.core.evidence.tree import ROOT, Readings, as_counted, bounded, outward, paths


@dataclass(frozen=True)
class RingKnown:
    """What is known of a ring: its legs in order, all of one cable, and those that hang on each of its points.

    `points` are those of the ring in order. Readings in service are by place, spurs' places too.
    """

    legs: tuple[GivenLeg, ...]
    points: tuple[str, ...]
    hung: Mapping[str, tuple[GivenLeg, ...]]
    readings: Readings
    ring: RingGiven
    together_m: float
    slices: int

    @property
    def cores(self) -> Cores:
        """Line, neutral and cpc of its cable in Ω/m."""
        return self.legs[0].cores


def total_m(known: RingKnown) -> Interval:
    """Return the lengths in m that the whole ring may have; empty where what is known does not agree."""
    unknown = any(not leg.known for leg in known.legs)
    least = sum(leg.length_m.least for leg in known.legs)
    most = sum(leg.length_m.most for leg in known.legs if leg.known) + (known.together_m if unknown else 0.0)
    found = Interval(least, most)
    for core, ohm in known.ring.ends.items():
        found = found.meet(ohm.times(1 / known.cores[core]))
    line, neutral, _ = known.cores
    for place in known.points:
        if place in known.ring.cross_ln:
            # Between like conductors a cross-joined ring reads the same everywhere.
            found = found.meet(known.ring.cross_ln[place].times((line + neutral) / (line * neutral)))
    return found


def _sliced(whole: Interval, count: int) -> list[Interval]:
    width = (whole.most - whole.least) / count
    if width <= 0:
        return [whole]
    return [Interval(whole.least + at * width, whole.least + (at + 1) * width) for at in range(count)]


def ring_bounds(known: RingKnown) -> dict[str, Bounds] | None:
    """Return the bounds of every point of a ring and of what hangs on it; None where no lengths agree."""
    whole = total_m(known)
    if whole.is_empty or whole.most <= 0:
        return None
    found: dict[str, list[Bounds]] = {}
    for part in _sliced(whole, known.slices):
        for place, bounds in (_Slice(known, part).bounds() or {}).items():
            found.setdefault(place, []).append(bounds)
    if not found:
        return None
    return {
        place: Bounds(_whole(each.loop for each in some), _whole(each.live for each in some))
        for place, some in found.items()
    }


def _whole(some: Iterator[Interval]) -> Interval:
    found = hull(some)
    assert found is not None
    return found


@dataclass(frozen=True)
class _Slice:
    """The ring with its whole length in a narrow range."""

    known: RingKnown
    total: Interval

    def bounds(self) -> dict[str, Bounds] | None:
        """Return the bounds of each place; None where no such ring reads what was read."""
        hung = {point: self._beyond(point, None) for point in self.known.hung}
        if any(each is None for each in hung.values()):
            return None
        allowed = {point: self._allowed(point, hung.get(point) or {}) for point in self.known.points}
        places = self._walked(allowed)
        if places is None:
            return None
        found: dict[str, Bounds] = {}
        loop, live = per_m(self.known.cores, LOOP), per_m(self.known.cores, LIVE)
        at_board = {BOARD_ROOT: ROOT} if BOARD_ROOT in self.known.hung else {}
        q_m = {point: self._q_of(some) for point, some in places.items()} | at_board
        for point, some in q_m.items():
            if point != BOARD_ROOT:
                found[point] = Bounds(some.times(loop), some.times(live))
            beyond = self._beyond(point, some) if point in self.known.hung else {}
            if beyond is None:
                return None
            ways = paths(outward(self.known.hung.get(point, ()), point), point)
            for place, (extra_loop, extra_live) in beyond.items():
                added = Bounds(some.times(loop).plus(extra_loop), some.times(live).plus(extra_live))
                found[place] = self._as_read(place, (self.known.legs[0], *ways[place]), added)
        return found if all(not each.loop.is_empty and not each.live.is_empty for each in found.values()) else None

    def _as_read(self, place: str, way: Sequence[GivenLeg], bounds: Bounds) -> Bounds:
        """Return bounds no wider than what was read at the place itself, of whatever conductors of its way.

        Round the ring and out along the spur each conductor has its part of every metre: by the sizes on the whole way
        one reading bounds the other conductors too.
        """
        loop, live = bounds.loop, bounds.live
        for reading in self.known.readings.get(place, ()):
            of_loop, of_live = as_counted(reading, way, LOOP), as_counted(reading, way, LIVE)
            loop = loop if of_loop is None else loop.meet(of_loop)
            live = live if of_live is None else live.meet(of_live)
        return Bounds(loop, live)

    # What hangs on a point

    def _beyond(self, point: str, q_m: Interval | None) -> dict[str, tuple[Interval, Interval]] | None:
        """Return what the legs that hang on a point add to each of its places, loop and live; None where none agree.

        With `q_m`, the range of q at the point in m, readings in service count too.
        """
        order = outward(self.known.hung[point], point)
        ways = paths(order, point)
        readings: dict[str, list[GivenReading]] = {}
        for place, path in ways.items():
            if path:
                readings[place] = list(self._hung_readings(place, q_m))
        found = [bounded(order, readings, counts, point, ROOT, self.known.together_m) for counts in (LOOP, LIVE)]
        loop, live = found
        if loop is None or live is None:
            return None
        return {leg.far: (loop[leg.far], live[leg.far]) for leg in order}

    def _hung_readings(self, place: str, q_m: Interval | None) -> Iterator[GivenReading]:
        """Yield what readings at a place beyond the ring say of the way from the ring to it."""
        line, neutral, earth = self.known.cores
        every_q = Interval(0.0, self.total.most / 4) if q_m is None else q_m
        crossed = self.known.ring.cross_le.get(place)
        if crossed is not None:
            base = self.total.times(line * earth / (line + earth)).plus(
                every_q.times((line - earth) ** 2 / (line + earth))
            )
            yield GivenReading(LOOP, crossed.less(base))
        crossed = self.known.ring.cross_ln.get(place)
        if crossed is not None:
            yield GivenReading(LIVE, crossed.less(self.total.times(line * neutral / (line + neutral))))
        if q_m is None:
            return
        for reading in self.known.readings.get(place, ()):
            on_ring = q_m.times(per_m(self.known.cores, reading.counts))
            yield GivenReading(reading.counts, reading.ohm.less(on_ring))

    # Where on the ring

    def _allowed(self, point: str, hung: Mapping[str, tuple[Interval, Interval]]) -> Intervals:
        """Return where a point of the ring may be, m, by what was read at it and beyond it."""
        q_m = Interval(0.0, self.total.most / 4)
        line, _, earth = self.known.cores
        for reading in self.known.readings.get(point, ()):
            q_m = _met(q_m, reading.ohm, per_m(self.known.cores, reading.counts))
        crossed = self.known.ring.cross_le.get(point)
        if crossed is not None and line != earth:
            base = self.total.times(line * earth / (line + earth))
            q_m = q_m.meet(crossed.less(base).times((line + earth) / (line - earth) ** 2))
        elif crossed is not None and crossed.meet(self.total.times(line / 2)).is_empty:
            return ()
        order = outward(self.known.hung.get(point, ()), point)
        for place, path in paths(order, point).items():
            for reading in self.known.readings.get(place, ()) if path else ():
                extra = self._extra(reading, path, hung[place])
                if extra is not None:
                    q_m = _met(q_m, reading.ohm.less(extra), per_m(self.known.cores, reading.counts))
        return self._places_of(q_m)

    @staticmethod
    def _extra(reading: GivenReading, path: Sequence[GivenLeg], beyond: tuple[Interval, Interval]) -> Interval | None:
        """Return what the way from the ring adds to a reading, by the conductors that it counts."""
        loop, live = beyond
        if reading.counts == LOOP:
            return loop
        if reading.counts == LIVE:
            return live
        return as_counted(GivenReading(LOOP, loop), path, reading.counts)

    def _places_of(self, q_m: Interval) -> Intervals:
        """Return the places in m whose q lies in a range: two that mirror each other, of any ring of this slice.

        x (T - x) / T = q has x = T/2 ± √(T²/4 - q T). Of the nearer the least q and the longest ring give the least
        x; the farther is T less that.
        """
        if q_m.is_empty:
            return ()
        nearest = _nearer(max(q_m.least, 0.0), self.total.most)
        farthest = _nearer(q_m.most, self.total.least)
        if nearest is None:
            return ()
        beyond = self.total.most / 2 if farthest is None else farthest
        near = Interval(nearest, max(beyond, nearest))
        far = Interval(self.total.least - near.most, self.total.most - near.least)
        if farthest is None:
            far = Interval(min(far.least, near.most), far.most)
        return merged((near, far))

    def _walked(self, allowed: Mapping[str, Intervals]) -> dict[str, Intervals] | None:
        """Return where each point may be with the legs between them followed there and back; None if nowhere."""
        legs, points = self.known.legs, self.known.points
        here: Intervals = (ROOT,)
        forth: list[Intervals] = []
        for leg, point in zip(legs, points, strict=False):
            here = meets(spread(here, leg.length_m), allowed[point])
            if not here:
                return None
            forth.append(here)
        there = meets(spread(here, legs[-1].length_m), (self.total,)) if points else (self.total,)
        if not there:
            return None
        found: dict[str, Intervals] = {}
        for at in range(len(points) - 1, -1, -1):
            back = Interval(-legs[at + 1].length_m.most, -legs[at + 1].length_m.least)
            there = meets(spread(there, back), forth[at])
            if not there:
                return None
            found[points[at]] = there
        return found

    def _q_of(self, some: Intervals) -> Interval:
        """Return the range of q in m over places of rings of this slice: q grows with T, and is greatest half way."""
        least, most = self.total

        def q(x: float, whole: float) -> float:
            return max(x * (whole - x) / whole, 0.0) if whole else 0.0

        lows, highs = [], []
        for each in some:
            lows += [q(each.least, least), q(each.most, least)]
            highs.append(q(min(max(most / 2, each.least), each.most), most))
        return Interval(min(lows), max(highs))


# What hangs on the board beside a ring, as a point of it.
BOARD_ROOT = "board"


def _met(q_m: Interval, ohm: Interval, ohm_per_m: float) -> Interval:
    """Return what is left of q where a reading of so much goes with it; nothing is said by what has no figure."""
    return q_m.meet(ohm.times(1 / ohm_per_m)) if ohm_per_m else q_m


def _nearer(q_m: float, whole_m: float) -> float | None:
    """Return the nearer place in m with this q on a ring of this length; None where it has no such q."""
    square = whole_m * whole_m / 4 - q_m * whole_m
    return None if square < 0 else whole_m / 2 - sqrt(square)
