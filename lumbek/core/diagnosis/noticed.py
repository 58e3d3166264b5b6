"""What somebody noticed, and what a voltmeter showed: how likely each is under each hypothesis.

The circuit is taken as it is in service. What a terminal has there follows from which bars of the board it still hangs
on under a hypothesis; a symptom is likely where the network would show it, and unlikely where it would not. None of it
is asked for: live parts are nobody's to touch for a diagnosis.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from lumbek.core.diagnosis.catalogue import Test, UnknownTestError
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import Flags, predict
from lumbek.core.diagnosis.suspects import Hypothesis, Suspect
from lumbek.core.model.leg import BOARD
from lumbek.core.network.changed import OPEN_FROM_OHM, Reals
from lumbek.core.network.measure import Measurement
from lumbek.core.network.wiring import node
from lumbek.core.value import Frozen

# How likely a symptom is where the network would show it, where it might, and where something else must be the cause.
_YES, _MAYBE, _NO = 0.9, 0.3, 0.03
# More than this in the way of the current is felt: dim, flickering, warm.
_FELT_OHM = 0.1
# A path to earth that trips an RCD of 30 mA at 230 V, and one between live parts that trips a breaker, in Ω.
_TRIPS_RCD_OHM, _TRIPS_BREAKER_OHM = 7667.0, 10.0
# From so many volts something is there, and from so many parts of U0 it is all there.
_SOME_V, _FULL_PART, _MOST_PART = 25.0, 0.85, 1.15
_BARS = ("L", "N", "E")


@dataclass(frozen=True)
class View:
    """A circuit in service under each of many hypotheses, seen at one of its points (or at none in particular)."""

    patient: Patient
    suspects: Mapping[str, Suspect]
    hypotheses: Sequence[Hypothesis]
    point: str = ""

    @cached_property
    def _in_service(self) -> tuple[Hypothesis, ...]:
        """The hypotheses with every load that was left in meant to be there."""
        return tuple(
            replace(each, changes=()) if self.suspects[each.suspect].kind == "load-left-in" else each
            for each in self.hypotheses
        )

    @cached_property
    def _ohm(self) -> dict[tuple[str, str], Reals]:
        """Ω from each terminal of the point to each bar of the board, shape (hypotheses,)."""
        setup, _ = self.patient.line_at(self.point)
        pairs = [
            ((core, bar), Test(f"{core}-{bar}", "", (), Measurement("resistance", (at, node(bar, BOARD)), setup), 1.0))
            for core in _BARS
            if (at := self.patient.terminal(core, self.point)) is not None
            for bar in _BARS
        ]
        read = predict(self.patient, self._in_service, [test for _, test in pairs]).ohm
        return {pair: read[:, at] for at, (pair, _) in enumerate(pairs)}

    def _hangs(self, core: str, bar: str) -> Flags:
        found = self._ohm.get((core, bar), np.full(len(self.hypotheses), np.inf))
        return np.asarray(found < OPEN_FROM_OHM)

    def potential(self, core: str) -> Reals:
        """Return what a terminal has, as a part of U0: 1, 0, or NaN where it hangs on nothing, or on both."""
        live, dead = self._hangs(core, "L"), self._hangs(core, "N") | self._hangs(core, "E")
        return np.asarray(np.where(live & ~dead, 1.0, np.where(dead & ~live, 0.0, np.nan)))

    @cached_property
    def supplied(self) -> Flags:
        """Whether line and neutral of the point reach the board's own, and not each other's."""
        return np.asarray((self.potential("L") == 1.0) & self._hangs("N", "N"))

    @cached_property
    def earthed(self) -> Flags:
        """Whether the point's cpc reaches the board's, and no line."""
        return self._hangs("E", "E") & ~self._hangs("E", "L")

    @cached_property
    def way_ohm(self) -> Reals:
        """What the current to the point and back meets, by line and neutral, Ω."""
        ways = (self._ohm[pair] for pair in (("L", "L"), ("N", "N")) if pair in self._ohm)
        return np.asarray(sum(ways, np.zeros(len(self.hypotheses))))

    @cached_property
    def in_the_way_ohm(self) -> Reals:
        """How much more that is than as drawn."""
        drawn = View(self.patient, self.suspects, (Hypothesis("sound", 1.0),), self.point)
        return np.asarray(self.way_ohm - drawn.way_ohm[0])

    @cached_property
    def hot_here(self) -> Flags:
        """Whether what is in the way lies in a terminal of the point: its accessory's, or at the end of a leg."""
        legs = {leg.id for leg in self.patient.study.graph.at.get(self.point, ())}
        return self._of(
            lambda suspect: (
                suspect.kind in ("loose", "loose-accessory")
                and suspect.cores != "E"
                and suspect.place in legs | {self.point}
            )
        )

    def path_ohm(self, *cores: str) -> Reals:
        """Return the least path between conductors of one of these pairs that should have none, Ω; else infinite."""
        found = np.full(len(self.hypotheses), np.inf)
        for at, each in enumerate(self._in_service):
            if each.paths and any(set(pair) <= set(self.suspects[each.suspect].cores) for pair in cores):
                found[at] = min(change.ohm for change in each.paths)
        return found

    def in_load(self) -> Flags:
        """Whether what is wrong is what the point feeds, or behind its accessory."""
        kinds = ("load-fault", "insulation-point")
        return self._of(lambda suspect: suspect.kind in kinds and suspect.place == self.point)

    def _of(self, holds: Callable[[Suspect], bool]) -> Flags:
        return np.array([holds(self.suspects[each.suspect]) for each in self.hypotheses], dtype=np.bool_)


def _likely(yes: Flags, maybe: Flags | None = None) -> Reals:
    return np.where(yes, _YES, _NO if maybe is None else np.where(maybe, _MAYBE, _NO))


def _dead(view: View) -> Reals:
    return _likely(~view.supplied)


def _works(view: View) -> Reals:
    return _likely(view.supplied)


def _dim(view: View) -> Reals:
    return _likely(view.supplied & (view.in_the_way_ohm > _FELT_OHM))


def _flickers(view: View) -> Reals:
    # A break that makes contact now and then reads open when it is looked for.
    return _likely(view.in_the_way_ohm > _FELT_OHM, ~view.supplied)


def _warm(view: View) -> Reals:
    return _likely(view.hot_here, view.supplied & (view.in_the_way_ohm > _FELT_OHM))


def _tingle(view: View) -> Reals:
    return _likely(~view.earthed)


def _at_once(view: View) -> Reals:
    short = view.path_ohm("LN") < _TRIPS_BREAKER_OHM
    return _likely(short | (view.path_ohm("LE") < _TRIPS_RCD_OHM), view.path_ohm("NE") < _TRIPS_RCD_OHM)


def _later(view: View) -> Reals:
    leak = view.path_ohm("LE")
    return _likely((leak >= _TRIPS_RCD_OHM) & np.isfinite(leak), np.isfinite(view.path_ohm("LE", "NE", "LN")))


def _with(view: View) -> Reals:
    return _likely(view.in_load() & np.isfinite(view.path_ohm("LE", "NE", "LN")), np.isfinite(view.path_ohm("NE")))


def _wet(view: View) -> Reals:
    return _likely(np.isfinite(view.path_ohm("LE", "NE")), np.isfinite(view.path_ohm("LN")))


@dataclass(frozen=True)
class Symptom:
    """What may be noticed, in words, and how likely it is; some are noticed at a point."""

    title: str
    likely: Callable[[View], Reals]
    at_point: bool = True


SYMPTOMS: dict[str, Symptom] = {
    "dead": Symptom("Dead", _dead),
    "works": Symptom("Works", _works),
    "dim": Symptom("Dim, or weak", _dim),
    "flickers": Symptom("Flickers, or comes and goes", _flickers),
    "warm": Symptom("Warm plate, or a smell", _warm),
    "tingle": Symptom("A tingle from metal", _tingle),
    "trips-with": Symptom("Trips when this is switched on", _with),
    "trips-at-once": Symptom("Trips at once", _at_once, at_point=False),
    "trips-later": Symptom("Trips after hours", _later, at_point=False),
    "trips-wet": Symptom("Trips when it rains", _wet, at_point=False),
}
VOLTS = {"LN": "Volts L–N", "LE": "Volts L–E", "NE": "Volts N–E"}


class Noticeable(Frozen):
    """Something that may be said to have been noticed: by the beginning of its id, and what it takes."""

    id: str
    title: str
    at_point: bool
    unit: str = ""


def noticeable() -> tuple[Noticeable, ...]:
    """Return all that may be noticed or was read live, in the order it is offered."""
    seen = tuple(
        Noticeable(id=f"seen/{kind}", title=each.title, at_point=each.at_point) for kind, each in SYMPTOMS.items()
    )
    return (
        *seen,
        *(Noticeable(id=f"volt/{pair}", title=title, at_point=True, unit="V") for pair, title in VOLTS.items()),
    )


@dataclass(frozen=True)
class Sign:
    """One thing that was noticed or read live: by its id, where, and with its volts where it has any."""

    id: str
    kind: str
    point: str = ""
    volts: float | None = None

    @property
    def title(self) -> str:
        """What it is, in words, without its place."""
        return SYMPTOMS[self.kind].title if self.volts is None else VOLTS[self.kind]

    def likely(self, view: View) -> Reals:
        """Return how likely it is under each hypothesis, shape (hypotheses,)."""
        if self.volts is None:
            return SYMPTOMS[self.kind].likely(view)
        return _of_volts(view, self.kind, self.volts)


def is_sign(test_id: str) -> bool:
    """Whether an id is of something noticed or read live, not of a test of the catalogue."""
    return test_id.startswith(("seen/", "volt/"))


def sign_of(patient: Patient, test_id: str, value: float) -> Sign:
    """Return what an id says was noticed: `seen/dead/p3`, `seen/trips-wet`, `volt/LN/p3`. Raises UnknownTestError."""
    how, kind, *rest = (*test_id.split("/"), "")[:4]
    point = rest[0] if rest else ""
    symptom = SYMPTOMS.get(kind) if how == "seen" else None
    known = symptom.at_point == bool(point) if symptom else how == "volt" and kind in VOLTS and bool(point)
    if not known or (point and point not in patient.points):
        raise UnknownTestError(f"{test_id!r} is nothing that is noticed of this circuit")
    return Sign(test_id, kind, point, value if how == "volt" else None)


def _of_volts(view: View, pair: str, volts: float) -> Reals:
    """Return how likely a voltage is: all of U0, none, or something between, as a terminal shows that hangs on nothing.

    With something switched on a neutral that hangs on nothing has the line's voltage: that is as likely as none.
    """
    u0 = view.patient.study.rulebook.u0_v
    one, other = view.potential(pair[0]), view.potential(pair[1])
    says = np.abs(one - other)
    resistive = view.in_the_way_ohm > _FELT_OHM if pair == "LN" else np.zeros(len(view.hypotheses), dtype=np.bool_)
    if volts < _SOME_V:
        known, adrift = np.where(says == 0.0, 0.97, 0.01), 0.35
    elif _FULL_PART <= volts / u0 <= _MOST_PART:
        known, adrift = np.where(says == 1.0, np.where(resistive, 0.6, 0.97), 0.01), 0.3
    else:
        known, adrift = np.where((says == 1.0) & resistive, 0.35, 0.02), 0.35
    return np.where(np.isnan(says), adrift, known)
