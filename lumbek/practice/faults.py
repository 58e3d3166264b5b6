"""Faults: a customer's words, a circuit with something wrong, a meter with noise: find it, put it right, prove it."""

from collections.abc import Iterator
from functools import cached_property, lru_cache
from random import Random
from typing import ClassVar

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.belief import Took
from lumbek.core.diagnosis.catalogue import PAIRS, Catalogue, Test, first_tests
from lumbek.core.diagnosis.patient import NAMES, Patient
from lumbek.core.diagnosis.remedy import remedy_of
from lumbek.core.diagnosis.suspects import BAR, NO_FAULT, Suspect
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import counted
from lumbek.core.study.door import study_of
from lumbek.practice.body import DEAD_FIRST, through_a_body
from lumbek.practice.exercise import (
    DUST_OF_A_WALL,
    Act,
    Ask,
    CameOf,
    Choice,
    Exercise,
    Kind,
    Reckoning,
    School,
    Together,
    need_choice,
)
from lumbek.practice.finder import Moved, OwnRun, moved_by, own_run
from lumbek.practice.hidden import Faulty, Meter, document_of, draw, go_wrong, is_named_by, with_names
from lumbek.practice.pictures import Picture, run_of
from lumbek.practice.symptoms import heard
from lumbek.simulated.house import Installed

# By level: how many points, which shapes, what may be wrong, how many things.
_LEVELS: dict[int, tuple[tuple[int, int], tuple[str, ...], tuple[str, ...], int]] = {
    1: ((4, 5), ("radial",), ("cut cable", "core left out", "cut core", "left plugged in"), 1),
    2: ((5, 7), ("ring",), ("cut core", "core left out", "accessory reversed", "cores crossed"), 1),
    3: ((6, 9), ("ring", "radial"), ("loose screw", "nail", "wet box", "leaking load", "accessory reversed"), 1),
    4: (
        (9, 12),
        ("ring",),
        ("loose screw", "nail", "cross cable", "left off the ring", "worn contact", "cores crossed"),
        1,
    ),
    5: ((7, 10), ("ring", "radial"), ("cut core", "loose screw", "nail", "wet box", "leaking load"), 2),
}
_ISOLATE, _SHEET, _PROVE, _DONE = "isolate", "sheet", "prove", "done"
_MINUTES_A_TEST, _MINUTES_A_SHEET_READING, _ISOLATING, _OPENED_FOR_NOTHING = 4, 2, 5, 20
_MOST_NAMED = 3
# A ring has more places than this for a cable to cross it.
_LEAST_OF_A_RING = 5
SUPPLY = Supply(earthing="TN-C-S", ze_ohm=0.21)
_GROUPS = {
    "read": "Readings of the sheet", "link": "Link at a point, read at the board", "lead": "Long lead",
    "ends": "Ring: end to end", "far": "Ring: crossed, read at a point", "flat": "At a point, nothing linked",
    "leg": "One core from terminal to terminal",
}  # fmt: skip

# The sheet, what was read after it, and what was wrong meanwhile, as the finder calls it.
Round = tuple[list[Took], list[tuple[Test, Took]], list[str]]


class Faults(Exercise):
    """A circuit with something wrong."""

    kind: ClassVar[Kind] = "faults"
    title = "Find the fault"

    def __init__(self, seed: int, level: int, school: School, given: Circuit | None = None) -> None:
        """Draw the circuit, or take one that is given, and let something go wrong in it."""
        super().__init__(seed, level, school)
        points, shapes, kinds, count = _LEVELS[level]
        self.given = given
        if given is None:
            drawn, self.document, _ = draw(self.chance, points, shapes)
            self.circuit = with_names(drawn)
        else:
            self.circuit, self.document = given, document_of(self.book, given)
        self.patient = Patient(study_of(self.book, SUPPLY, self.circuit).middle)
        self.catalogue = Catalogue(self.patient)
        self.first = [self.catalogue.test(each) for each in first_tests(self.patient)]
        is_long_ring = self.patient.ring is not None and len(self.patient.points) > _LEAST_OF_A_RING
        some = [each for each in kinds if is_long_ring or each not in ("cross cable", "left off the ring")]
        self.hidden: Faulty = go_wrong(
            self.chance, self.document, lambda: [self.chance.choice(some) for _ in range(count)], self.first, 0.05, True
        )
        self.offset = self.chance.uniform(-0.02, 0.02)
        titles = {point: self.circuit.point_title(point) for point in self.patient.open_points}
        self.story = heard(self.hidden.inst, self.hidden.clean, titles)
        self.is_dead = self.is_done = False
        self.hurt = ""
        self.named: list[bool] = [False] * count
        self.wrong_names = 0
        self.proved = False
        # The boxes that stand open.
        self.boxes_off: frozenset[str] = frozenset()
        self.opened: list[Took] = []
        # Every reading since the circuit was last changed, and each with the sheet it followed.
        self.taken: list[tuple[Test, Took]] = []
        self.times: dict[str, int] = {}
        # What was read before the circuit was changed, or read anew, with what was wrong then.
        self.rounds: list[Round] = []

    # What there is

    def picture(self) -> Picture:
        """Return the run as it is drawn."""
        places = counted(len(self.patient.points), "place", "places")
        told = f"{'A ring' if self.patient.ring else 'A radial'} of {places}, {self.circuit.cable.csa_mm2:g} mm²"
        return run_of(self.patient.points, self.circuit.legs, self.patient.ring is not None, told)

    @property
    def installed(self) -> Installed:
        """The circuit as it is now: what was put right is right."""
        left = [at for at, is_named in enumerate(self.named) if not is_named]
        if not left:
            return self.hidden.clean
        return self.hidden.inst if len(left) == len(self.named) else self.hidden.alone[left[0]]

    @property
    def truth(self) -> list[set[str]]:
        """What the finder calls what is still wrong."""
        return [each for each, is_named in zip(self.hidden.truth, self.named, strict=True) if not is_named]

    @cached_property
    def suspects(self) -> list[Suspect]:
        """Everything that may be named."""
        found = {each.id: each for each, _ in all_suspects(self.patient)}
        return [each for each in found.values() if each.kind not in NO_FAULT]

    @cached_property
    def tests(self) -> list[Test]:
        """Every measurement that may be taken."""
        points, sides = self.patient.open_points, ("a", "b") if self.patient.ring else ("-",)
        side = self.catalogue.side
        ids = [test.id for test in self.first]
        ids += [f"ins/{pair}/unplug/all" for pair in PAIRS]
        for point in points:
            ids += [f"link/{pair}/{point}/{each}" for pair in PAIRS for each in sides]
            ids += [f"flat/{pair}/{point}" for pair in PAIRS]
            ids += [f"ins/{pair}/split/{point}/{side}" for pair in PAIRS]
            ids += [f"ins/{pair}/unplug/{point}" for pair in PAIRS]
            ids += [f"lead/{core}/{point}/{each}" for core in NAMES for each in sides]
            near = [leg.id for leg in self.circuit.legs if point in (leg.a, leg.b)]
            ids += [f"ins/{pair}/out/{point}/{leg}" for pair in PAIRS for leg in near]
            ids.append(f"far/NE/{point}")
        ids += [f"leg/{core}/{leg}" for leg in self.patient.legs for core in NAMES]
        ids += [f"ins/{pair}/alone/{leg}" for leg in self.patient.legs for pair in PAIRS]
        ids.append(f"ins/NE/unplug/{BAR}")
        ids += [f"ends/{one}-{other}" for one in NAMES for other in NAMES if one != other]
        return self.catalogue.known(ids)

    # What is asked

    @property
    def is_over(self) -> bool:
        """Whether it was said to be done, or somebody was hurt."""
        return self.is_done or bool(self.hurt)

    def ask(self) -> Ask | None:
        """Return what may be done now."""
        if self.is_over:
            return None
        return Ask(words="What do you do?", choices=tuple(self._choices()), together=self._together)

    def _choices(self) -> Iterator[Choice]:
        if not self.is_dead:
            yield Choice(id=_ISOLATE, words="Isolate, lock off, prove dead", minutes=_ISOLATING)
        yield Choice(id=_SHEET, words="Take the first readings of the sheet", minutes=self._sheet_minutes)
        yield from self._measurements
        if self.is_dead:
            yield from self._names
        if any(self.named):
            yield Choice(id=_PROVE, words="Prove it: take the sheet again", minutes=self._sheet_minutes)
        yield Choice(id=_DONE, words="Done: nothing else is wrong")

    @property
    def _measurements(self) -> Iterator[Choice]:
        return (self._choice(test) for test in self.tests)

    def _choice(self, test: Test) -> Choice:
        return Choice(
            id=f"measure {test.id}",
            words=_told(test),
            group=_GROUPS.get(test.id.split("/")[0], "Insulation"),
            minutes=_minutes_of(test),
            dust=len(boxes_opened(self.circuit, test) - self.boxes_off),
        )

    @cached_property
    def _together(self) -> tuple[Together, ...]:
        """What may be measured with several loads out at once: any of them, too many ways to list."""
        points = [point for point in self.patient.points if self.catalogue.known([f"ins/LN/unplug/{point}"])]
        titles = tuple(Choice(id=point, words=self.circuit.point_title(point)) for point in points)
        alike = [self.catalogue.test(f"ins/{pair}/unplug/all") for pair in PAIRS] if points else []
        return tuple(
            Together(
                id=f"measure {test.id.removesuffix('all')}",
                words=test.title.split(", with")[0],
                group="Insulation, several unplugged",
                minutes=_minutes_of(test),
                of=titles,
            )
            for test in alike
        )

    @cached_property
    def _names(self) -> list[Choice]:
        return [
            Choice(id=f"name {suspect.id}", words=suspect.title, group=f"It is {self._where(suspect)}")
            for suspect in self.suspects
        ]

    def _where(self, suspect: Suspect) -> str:
        """Return where a suspect is, as one says it."""
        leg = self.patient.study.legs.get(suspect.place)
        if leg is not None:
            return f"in cable {leg.id}, {self.circuit.leg_title(leg)}"
        there = any(point.id == suspect.place for point in self.circuit.points)
        return f"at {self.circuit.point_title(suspect.place)}" if there else "elsewhere"

    @property
    def _sheet_minutes(self) -> int:
        return _MINUTES_A_SHEET_READING * len(self.first)

    def more_hints(self) -> tuple[str, ...]:
        """Return where to look, then what tells most now."""
        hidden = next(
            (each for each, is_named in zip(self.hidden.mishaps, self.named, strict=True) if not is_named), None
        )
        if hidden is None:
            return ("Nothing is left to find: prove what you put right.",)
        half = self.patient.points[: (len(self.patient.points) + 1) // 2]
        ends = [end for leg in self.circuit.legs if leg.id == hidden.leg for end in (leg.a, leg.b)]
        near = any(place in half for place in (*hidden.points, *ends))
        about = "line or neutral" if "E" not in hidden.cores else "the cpc, among others"
        return (
            f"Look first at {about}.",
            f"Look in the {'first' if near else 'second'} half of the run, counted from the board.",
        )

    # What is done

    def take(self, act: Act) -> None:
        """Measure, name what is wrong, prove, or say that it is done."""
        chosen = self._several_unplugged(act) or need_choice(self.ask(), act)
        self.minutes += chosen.minutes
        self.dust += chosen.dust
        if chosen.id == _ISOLATE:
            self.is_dead = True
            self.seen.append(
                CameOf(did=chosen.words, came="Dead at the board and at the first socket. Key in your pocket.")
            )
        elif not self.is_dead and chosen.id != _DONE:
            self._touch(chosen)
        elif chosen.id in (_SHEET, _PROVE):
            self._sheet(chosen)
        elif chosen.id.startswith("measure "):
            self._measure(self.catalogue.test(chosen.id.removeprefix("measure ")))
        elif chosen.id.startswith("name "):
            self._name(chosen)
        else:
            self.is_done = True

    def _several_unplugged(self, act: Act) -> Choice | None:
        """Return a measurement with several loads out: there are too many to list."""
        test_id = act.choice.removeprefix("measure ")
        if "+" not in test_id or not test_id.startswith("ins/"):
            return None
        return next((self._choice(test) for test in self.catalogue.known([test_id])), None)

    def _touch(self, chosen: Choice) -> None:
        self.hurt = through_a_body(self.book.u0_v, "a socket that was not proved dead")
        law = DEAD_FIRST[self.school.rulebook]
        self.seen.append(CameOf(did=chosen.words, came=self.hurt, good=False, unsafe=True, clause=law))

    def read(self, test: Test) -> Took:
        """Read a test as the instrument shows it: the same again is not quite the same, and everybody's is alike."""
        times = self.times[test.id] = self.times.get(test.id, 0) + 1
        state = f"{self.seed}/{self.level}/{test.id}/{times}/{sum(self.named)}"
        return Meter(Random(state), self.offset).read(self.installed, test)

    @property
    def _round(self) -> Round:
        """What was read since the circuit was last changed, with what is still wrong."""
        return self.opened, self.taken, sorted(set().union(*self.truth))

    def _end_round(self) -> None:
        """Put what was read aside for the debrief: what is read from here on stands by itself."""
        if self.opened and self.taken:
            self.rounds.append(self._round)
        self.opened, self.taken = [], []

    def _sheet(self, chosen: Choice) -> None:
        self._end_round()
        tooks = [self.read(test) for test in self.first]
        self.opened = tooks
        self.proved = chosen.id == _PROVE
        lines = "; ".join(f"{_told(test)} {shown(test, took)}" for test, took in zip(self.first, tooks, strict=True))
        self.seen.append(CameOf(did=chosen.words, came=lines))

    def _measure(self, test: Test) -> None:
        took = self.read(test)
        self.taken.append((test, took))
        self.boxes_off |= boxes_opened(self.circuit, test)
        self.seen.append(CameOf(did=_told(test), came=shown(test, took)))

    def _name(self, chosen: Choice) -> None:
        suspect_id = chosen.id.removeprefix("name ")
        suspect = next(each for each in self.suspects if each.id == suspect_id)
        found = [
            not done and any(is_named_by(each, mishap) for each in (suspect.id, *suspect.parts))
            for done, mishap in zip(self.named, self.hidden.mishaps, strict=True)
        ]
        if any(found):
            self._end_round()
            self.named = [each or is_it for each, is_it in zip(self.named, found, strict=True)]
            self.times, self.proved = {}, False
            remedy = remedy_of(suspect)
            came = f"There it is. {' '.join(remedy.do)}"
            self.seen.append(CameOf(did=chosen.words, came=came, good=True))
            return
        self.wrong_names += 1
        self.minutes += _OPENED_FOR_NOTHING
        self.dust += DUST_OF_A_WALL if suspect.place in self.patient.study.legs else 1
        came = "Opened, looked at, made off again: nothing is wrong there."
        self.seen.append(CameOf(did=chosen.words, came=came, good=False))
        if self.wrong_names >= _MOST_NAMED:
            self.is_done = True

    # How it went

    @property
    def own(self) -> OwnRun:
        """The finder's own run of the same house, with the same instrument."""
        return _own_of(self.seed, self.level, self.school, self.given)

    def run_by_finder(self) -> OwnRun:
        """Let the finder go through it as it began, whatever was done since."""
        times: dict[str, int] = {}

        def read(test: Test) -> Took:
            times[test.id] = times.get(test.id, 0) + 1
            state = f"{self.seed}/{self.level}/{test.id}/{times[test.id]}/0"
            return Meter(Random(state), self.offset).read(self.hidden.inst, test)

        return own_run(self.patient, self.first, read)

    @property
    def least_minutes(self) -> int:
        """What the finder's own run takes, isolated before and proved after."""
        tests = sum(map(_minutes_of, self.own.tests))
        return _ISOLATING + tests + self._sheet_minutes * (1 + len(self.named))

    @property
    def least_dust(self) -> int:
        """The boxes that the finder opens in its own run."""
        return len(frozenset().union(*(boxes_opened(self.circuit, test) for test in self.own.tests)))

    def reckon(self) -> Reckoning:
        """Return marks, and how suspicion moved."""
        right, asked = sum(self.named), len(self.named)
        share = right / asked - 0.15 * self.wrong_names - (0.2 if right and not self.proved else 0.0)
        said, debrief = tuple(self._said()), tuple(self._debrief())
        return self.reckoned(not self.hurt, right, asked, self.least_minutes, share, said, debrief, self.least_dust)

    def _said(self) -> Iterator[str]:
        for mishap, is_named in zip(self.hidden.mishaps, self.named, strict=True):
            points = " and ".join(self.circuit.point_title(each) for each in mishap.points)
            where = f"cable {mishap.leg}" if mishap.leg else points
            cores = f", {' and '.join(NAMES[core] for core in mishap.cores)}" if mishap.cores else ""
            yield f"{'Found' if is_named else 'Missed'}: {mishap.kind}, {where}{cores}."
        if any(self.named) and not self.proved:
            yield "What was put right was not proved by reading again."
        if self.hurt:
            yield self.hurt
        yield f"The finder took {len(self.own.tests)} measurements beside the sheet: {self._own_words()}"

    def _own_words(self) -> str:
        return "; ".join(_told(test) for test in self.own.tests) or "the sheet alone told it."

    def _debrief(self) -> Iterator[CameOf]:
        for opened, taken, truth in (*self.rounds, self._round):
            if opened and taken:
                yield from map(_moved, moved_by(self.patient, opened, taken, truth))

    # The way of one who knows

    def way(self) -> Act:
        """Isolate, take the sheet, measure what the finder measures, name it, prove it."""
        if not self.is_dead:
            return Act(choice=_ISOLATE)
        if not any(self.named) and not self.opened:
            return Act(choice=_SHEET)
        if not any(self.named) and len(self.taken) < len(self.own.tests):
            return Act(choice=f"measure {self.own.tests[len(self.taken)].id}")
        left = self.truth
        if left:
            there = {each.id for each in self.suspects}
            return Act(choice=f"name {next(name for truth in left for name in sorted(truth) if name in there)}")
        return Act(choice=_DONE if self.proved else _PROVE)


# Asked for wherever an ended exercise is looked at: it takes seconds, and comes out the same each time.
@lru_cache(maxsize=256)
def _own_of(seed: int, level: int, school: School, given: Circuit | None) -> OwnRun:
    return Faults(seed, level, school, given).run_by_finder()


def _moved(each: Moved) -> CameOf:
    """Return what a reading did to the suspicion of what was wrong, and what would have told more."""
    is_best = each.best is None or each.best.id == each.test.id
    best = "" if is_best or each.best is None else f" More would have told: {_told(each.best)}."
    came = f"Suspicion of what was wrong: {each.before:.0%}, then {each.after:.0%}.{best}"
    return CameOf(did=_told(each.test), came=came, good=each.after > each.before)


def _minutes_of(test: Test) -> int:
    return round(_MINUTES_A_TEST * test.effort)


def boxes_opened(circuit: Circuit, test: Test) -> frozenset[str]:
    """Return the points whose accessories come off for a test; links and leads are plugged in from the front."""
    kind, *rest = test.id.split("/")
    if kind == "leg" or rest[1:2] == ["alone"]:
        leg = circuit.leg(rest[1] if kind == "leg" else rest[2])
        return frozenset((leg.a, leg.b)) - {BOARD}
    return frozenset((rest[2],)) if rest[1:2] in (["split"], ["out"]) else frozenset()


def _told(test: Test) -> str:
    return test.title.removeprefix("Read ").removesuffix(" again") if test.id.startswith("read/") else test.title


def shown(test: Test, took: Took) -> str:
    """Return what the instrument shows."""
    if test.insulation:
        return f"> {took.value:g} MΩ" if took.is_open else f"{took.value:.2f} MΩ"
    return "open" if took.is_open else f"{took.value:.2f} Ω"
