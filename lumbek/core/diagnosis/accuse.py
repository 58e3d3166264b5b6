"""Everything that may be wrong with a circuit as it is drawn: one function a family of faults."""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from itertools import combinations

from lumbek.core.diagnosis.catalogue import PAIRS
from lumbek.core.diagnosis.patient import NAMES, Patient
from lumbek.core.diagnosis.suspects import (
    BAR,
    Across,
    Between,
    FaultChange,
    Hypothesis,
    Over,
    Port,
    Series,
    Suspect,
    SuspectKind,
    sized,
    steps_of,
)
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import SWITCH_KINDS
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.network.changed import BROKEN_OHM
from lumbek.core.network.wiring import node
from lumbek.core.numbers import plain

Found = tuple[Suspect, list[Hypothesis]]
# Beyond so many places a bridge is tried between near ones only.
_MOST_BRIDGES = 400
# Of a cable that nobody drew: its length beside that of a usual leg, and how far that may be off; of one that runs
# elsewhere than drawn, how far its length may be off.
_TIMES, _TIMES_LN = (0.35, 0.6, 1.05, 1.8), 0.16
_VAGUE_LN = 0.4
# What a leg of no length has, in Ω.
_NO_LENGTH = 1e-3


def all_suspects(patient: Patient) -> list[Found]:
    """Return every suspect with its hypotheses; priors add up to one."""
    figures = patient.figures
    families: tuple[Callable[[Patient], Iterator[Found]], ...] = (
        _broken, _loose, _cut, _at_accessories, _crossed_accessories, _crossed_legs, _rings_crossed, _bridged,
        _not_as_drawn, _spurs_at_the_board, _wrong_size, _insulation, _loads, _mixed_neutrals, _parallel_earth, _meter,
    )  # fmt: skip
    faults = [found for family in families for found in family(patient)]
    count = Counter(suspect.kind for suspect, _ in faults)
    total, faulty = sum(figures.weights[kind] for kind in count), 1 - figures.sound
    shared = [
        (replace(suspect, prior=faulty * figures.weights[suspect.kind] / total / count[suspect.kind]), each)
        for suspect, each in faults
    ]
    return [*_whole(patient), *shared]


def _whole(patient: Patient) -> list[Found]:
    figures = patient.figures
    sound = Suspect("sound", "sound", "circuit", BOARD, "", "Nothing wrong", figures.sound * (1 - figures.off_drawing))
    drawing = Suspect(
        "drawing",
        "drawing",
        "circuit",
        BOARD,
        "",
        "Sound, its lengths not as drawn",
        figures.sound * figures.off_drawing,
    )
    off = Hypothesis("drawing", 1.0, length_part=figures.off_length_part, common_part=figures.off_common_length_part)
    return [(sound, [Hypothesis("sound", 1.0)]), (drawing, [off])]


def _on_leg(patient: Patient, kind: SuspectKind, leg: str, cores: str, title: str) -> Suspect:
    return Suspect(f"{kind}/{cores}/{leg}", kind, "leg", leg, cores, f"{title}, {patient.study.leg_title(leg)}", 0.0)


def _at_point(patient: Patient, kind: SuspectKind, point: str, cores: str, title: str) -> Suspect:
    name = patient.study.circuit.point_title(point)
    return Suspect(f"{kind}/{cores}/{point}", kind, "point", point, cores, f"{title}, {name}", 0.0)


def _cores(patient: Patient, leg: str) -> list[tuple[str, int]]:
    """Return the cores of a leg that lead somewhere, with their branches."""
    broken = patient.study.wires.as_found.broken
    return [
        (core, at)
        for at, (number, each, core) in enumerate(patient.wiring.branches)
        if each == leg and (number, each, core) not in broken
    ]


def _called(core: str) -> str:
    return NAMES.get(core, f"core {core}")


def _break(branch: int) -> FaultChange:
    return FaultChange(Series(branch), BROKEN_OHM)


def _broken(patient: Patient) -> Iterator[Found]:
    for leg in patient.legs:
        for core, branch in _cores(patient, leg):
            said = f"{_called(core).capitalize()} open"
            if leg in (patient.ring or ()):
                # No reading of this ring tells a core that is open from an end in another ring's device.
                said = f"{said}, or its end is in another ring's device"
            suspect = _on_leg(patient, "open", leg, core, said)
            yield suspect, [Hypothesis(suspect.id, 1.0, (_break(branch),))]


def _loose(patient: Patient) -> Iterator[Found]:
    for leg in patient.legs:
        for core, branch in _cores(patient, leg):
            suspect = _on_leg(patient, "loose", leg, core, f"High resistance in the {_called(core)}")
            yield suspect, sized(suspect.id, (Series(branch),), patient.figures.loose_ohm)


def _cut(patient: Patient) -> Iterator[Found]:
    """Several conductors broken at once in one leg."""
    for leg in patient.legs:
        cores = dict(_cores(patient, leg))
        main = [core for core in CONDUCTORS if core in cores]
        for count in range(2, len(main) + 1):
            for some in combinations(main, count):
                names = "".join(some)
                said = " and ".join(_called(core) for core in some) if count < 3 else "all conductors"
                suspect = _on_leg(patient, "cut", leg, names, f"{said.capitalize()} open")
                yield suspect, [Hypothesis(suspect.id, 1.0, tuple(_break(cores[core]) for core in some))]


def _at_accessories(patient: Patient) -> Iterator[Found]:
    """A terminal of an accessory that hardly touches or is not joined, while the conductors run on past it."""
    sizes = patient.figures.loose_ohm
    for point in patient.open_points:
        for core in CONDUCTORS:
            terminal = patient.terminal(core, point)
            if terminal is None:
                continue
            name = _called(core)
            suspect = _at_point(patient, "loose-accessory", point, core, f"The {name} of the accessory hardly touches")
            share = 1 / len(sizes)
            loose = [
                Hypothesis(suspect.id, share, cell_ln=cell, tails=((terminal, ohm),)) for ohm, cell in steps_of(sizes)
            ]
            yield suspect, loose
            suspect = _at_point(patient, "open-accessory", point, core, f"The {name} is not joined to the accessory")
            yield suspect, [Hypothesis(suspect.id, 1.0, tails=((terminal, BROKEN_OHM),))]


def _crossed_accessories(patient: Patient) -> Iterator[Found]:
    for point in patient.open_points:
        for one, other in PAIRS:
            between = _terminals(patient, point, one, other)
            if between is not None:
                said = f"{_called(one).capitalize()} and {_called(other)} in each other's terminals"
                suspect = _at_point(patient, "crossed-accessory", point, f"{one}{other}", said)
                yield suspect, [Hypothesis(suspect.id, 1.0, exchanged=(between.a, between.b))]


def _crossed_legs(patient: Patient) -> Iterator[Found]:
    for leg in patient.legs:
        cores = dict(_cores(patient, leg))
        for one, other in PAIRS:
            if one in cores and other in cores:
                said = f"{_called(one).capitalize()} and {_called(other)} crossed in a cable"
                suspect = _on_leg(patient, "crossed-leg", leg, f"{one}{other}", said)
                here, there = cores[one], cores[other]
                over = (FaultChange(Over(here, there), float(patient.ohms[here])),)
                back = (FaultChange(Over(there, here), float(patient.ohms[there])),)
                yield suspect, [Hypothesis(suspect.id, 1.0, (_break(here), _break(there), *over, *back))]


def _rings_crossed(patient: Patient) -> Iterator[Found]:
    """An end that belongs to another ring was taken for this one's."""
    if patient.ring is None:
        return
    suspect = Suspect(
        "rings-crossed", "rings-crossed", "board", BOARD, "LNE", "Ends of two rings exchanged at the board", 0.0
    )
    hypotheses = []
    for leg in patient.ring:
        away = tuple(_break(branch) for core, branch in _cores(patient, leg) if core in CONDUCTORS)
        hypotheses.append(Hypothesis(suspect.id, 0.5, away))
    yield suspect, hypotheses


def _bridged(patient: Patient) -> Iterator[Found]:
    """A cable that nobody drew, from one point of a ring to another."""
    if patient.ring is None:
        return
    ring = (BOARD, *patient.study.shape.ring_points)
    apart = [(i, j) for i, j in combinations(range(len(ring)), 2) if 2 <= j - i < len(ring) - (i == 0)]
    apart.sort(key=lambda pair: pair[1] - pair[0])
    usual = _mean_ohm(patient)
    for i, j in apart[:_MOST_BRIDGES]:
        if i == 0:
            continue
        names = " and ".join(patient.study.circuit.point_title(ring[each]) for each in (i, j))
        title = f"A cable that is not drawn, {names}"
        suspect = Suspect(f"bridged/{ring[i]}/{ring[j]}", "bridged", "point", ring[i], "LNE", title, 0.0)
        hypotheses = []
        for times in _TIMES:
            added = tuple(
                FaultChange(Between(node(core, ring[i]), node(core, ring[j])), usual[core] * times)
                for core in CONDUCTORS
            )
            hypotheses.append(Hypothesis(suspect.id, 1 / len(_TIMES), added, cell_ln=_TIMES_LN))
        yield suspect, hypotheses


def _mean_ohm(patient: Patient) -> dict[str, float]:
    """Return what a leg has in the mean, by core, in Ω."""
    found = {}
    for core in CONDUCTORS:
        ohms = [patient.ohms[branch] for leg in patient.legs for each, branch in _cores(patient, leg) if each == core]
        found[core] = float(sum(ohms) / len(ohms)) if ohms else 1.0
    return found


def _not_as_drawn(patient: Patient) -> Iterator[Found]:
    """A point of a ring, or two after one another, that hang off it instead of lying in it."""
    if patient.ring is None:
        return
    shape = patient.study.shape
    stops, legs = (BOARD, *shape.ring_points, BOARD), shape.ring_legs
    for count in (1, 2):
        for start in range(1, len(stops) - count):
            before, after = start - 1, start + count
            for root, way in ((before, legs[after - 1]), (after, legs[before])):
                hung = [stops[each] for each in range(start, start + count)]
                near = hung if root == before else hung[::-1]
                cores = dict(_cores(patient, way))
                if BOARD in (stops[before], stops[after]) or any(core not in cores for core in CONDUCTORS):
                    continue
                suspect = _spur(patient, stops[root], near)
                # The leg that is drawn on the far side goes past them to the other end of the gap.
                far = stops[after] if root == before else stops[before]
                past = tuple(
                    FaultChange(Between(node(core, stops[root]), node(core, far)), float(patient.ohms[cores[core]]))
                    for core in CONDUCTORS
                )
                gone = tuple(_break(cores[core]) for core in CONDUCTORS)
                yield suspect, [Hypothesis(suspect.id, 1.0, (*past, *gone), cell_ln=_VAGUE_LN)]


def _spur(patient: Patient, root: str, near: Sequence[str]) -> Suspect:
    """Return points as suspects of hanging off one of the ring, in their order from there."""
    name = patient.study.circuit.point_title
    said = "A spur" if len(near) == 1 else "A spur off a spur"
    title = f"{said}, not in the ring: {' then '.join(name(each) for each in near)}, from {name(root)}"
    return Suspect(f"not-as-drawn/{root}/{near[0]}/{len(near)}", "not-as-drawn", "point", near[-1], "LNE", title, 0.0)


def _spurs_at_the_board(patient: Patient) -> Iterator[Found]:
    """The first or last point of a ring, or two after one another there, that hang off the next one inward.

    The ring goes past them to the board: what is drawn as their way inward has no length, and their terminals hang on
    it by what it has as drawn.
    """
    if patient.ring is None:
        return
    shape = patient.study.shape
    for points, legs in ((shape.ring_points, shape.ring_legs), (shape.ring_points[::-1], shape.ring_legs[::-1])):
        for count in (1, 2):
            if len(points) < count + 2:
                continue
            hung, root, outer = points[:count], points[count], dict(_cores(patient, legs[0]))
            inner = [dict(_cores(patient, leg)) for leg in legs[1 : count + 1]]
            if any(core not in each for each in (outer, *inner) for core in CONDUCTORS):
                continue
            ohms = {core: [float(patient.ohms[each[core]]) for each in inner] for core in CONDUCTORS}
            gone = tuple(
                FaultChange(Series(each[core]), _NO_LENGTH - ohm)
                for core in CONDUCTORS
                for each, ohm in zip(inner, ohms[core], strict=True)
            )
            tails = tuple(
                (terminal, sum(ohms[core][at:]))
                for core in CONDUCTORS
                for at, point in enumerate(hung)
                if (terminal := patient.terminal(core, point)) is not None
            )
            # The way to the board is as long as the leg that was drawn there, or as all of what it goes past.
            longer = tuple(FaultChange(Series(outer[core]), sum(ohms[core])) for core in CONDUCTORS)
            suspect = _spur(patient, root, hung[::-1])
            yield (
                suspect,
                [Hypothesis(suspect.id, 0.5, (*way, *gone), cell_ln=_VAGUE_LN, tails=tails) for way in ((), longer)],
            )


def _wrong_size(patient: Patient) -> Iterator[Found]:
    study = patient.study
    for leg in patient.legs:
        cable = study.circuit.cable_of(study.legs[leg])
        sizes = sorted({1.0, 1.5, 2.5, 4.0, 6.0, 10.0, cable.csa_mm2})
        at = sizes.index(cable.csa_mm2)
        for csa in (*sizes[max(0, at - 2) : at][::-1], *sizes[at + 1 : at + 2]):
            other = cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
            scaled: list[FaultChange] = []
            for core, branch in _cores(patient, leg):
                was, now = (study.rulebook.milliohm_per_m(each, core) for each in (cable, other))
                if was and now and was != now:
                    scaled.append(FaultChange(Series(branch), float(patient.ohms[branch]) * (now / was - 1)))
            said = f"Cable of {plain(csa)} mm² where {plain(cable.csa_mm2)} is drawn"
            suspect = _on_leg(patient, "wrong-size", leg, plain(csa), said)
            if scaled:
                yield suspect, [Hypothesis(suspect.id, 1.0, tuple(scaled))]


def _insulation(patient: Patient) -> Iterator[Found]:
    """A path between two conductors, in a cable or behind an accessory."""
    sizes = patient.figures.leak_ohm
    for leg in patient.legs:
        cores = dict(_cores(patient, leg))
        for one, other in PAIRS:
            if one in cores and other in cores:
                said = f"{_called(one).capitalize()} to {_called(other)} in a cable"
                suspect = _on_leg(patient, "insulation-leg", leg, f"{one}{other}", said)
                ports: tuple[Port, ...] = tuple(Across(cores[one], cores[other], side) for side in (0, 1))
                yield suspect, sized(suspect.id, ports, sizes)
    for point in patient.points:
        for one, other in PAIRS:
            between = _terminals(patient, point, one, other)
            if between is not None:
                said = f"{_called(one).capitalize()} to {_called(other)} behind the accessory"
                suspect = _at_point(patient, "insulation-point", point, f"{one}{other}", said)
                yield suspect, sized(suspect.id, (between,), sizes)


def _terminals(patient: Patient, point: str, one: str, other: str) -> Between | None:
    first, second = patient.terminal(one, point), patient.terminal(other, point)
    return None if first is None or second is None else Between(first, second)


def _loads(patient: Patient) -> Iterator[Found]:
    """A load that was left in, and one that leaks to earth."""
    figures = patient.figures
    for point in patient.open_points:
        if patient.study.circuit.point(point).kind in SWITCH_KINDS:
            continue
        across = _terminals(patient, point, "L", "N")
        if across is not None:
            suspect = _at_point(patient, "load-left-in", point, "LN", "A load left in")
            yield suspect, sized(suspect.id, (across,), figures.load_ohm, point)
        for one in ("L", "N"):
            between = _terminals(patient, point, one, "E")
            if between is not None:
                said = f"{_called(one).capitalize()} to cpc in a load"
                suspect = _at_point(patient, "load-fault", point, f"{one}E", said)
                yield suspect, sized(suspect.id, (between,), figures.leak_ohm, point)


def _mixed_neutrals(patient: Patient) -> Iterator[Found]:
    """A neutral joined with another circuit's: by that to the bar, and where bar and earth are one to the cpc.

    With both ends of a ring out, its cpc is not in the bar either, and no dead test of it shows this.
    """
    if patient.ring:
        return
    for point in patient.open_points:
        neutral = patient.terminal("N", point)
        if neutral is not None:
            suspect = _at_point(patient, "mixed-neutral", point, "NE", "The neutral joined with another circuit's")
            yield suspect, sized(suspect.id, (Between(neutral, node("E", BOARD)),), patient.figures.bar_ohm, BAR)


def _parallel_earth(patient: Patient) -> Iterator[Found]:
    """Metal that joins cpcs beside the cpc: pipes, structure."""
    if patient.ring:
        points = patient.study.shape.ring_points
        pairs = [(a, b) for at, a in enumerate(points) for b in points[at + 2 : at + 6]]
    else:
        pairs = [(BOARD, point) for point in patient.points]
    for a, b in pairs:
        names = " and ".join(patient.study.circuit.point_title(each) for each in (a, b))
        suspect = Suspect(
            f"parallel-earth/{a}/{b}", "parallel-earth", "point", b, "E", f"Metal joins the cpcs of {names}", 0.0
        )
        yield suspect, sized(suspect.id, (Between(node("E", a), node("E", b)),), patient.figures.metal_ohm)


def _meter(patient: Patient) -> Iterator[Found]:
    leads = Suspect("leads", "leads", "circuit", BOARD, "", "Leads not nulled, or nulled wrong", 0.0)
    offsets = patient.figures.leads_ohm
    yield leads, [Hypothesis("leads", 1 / len(offsets), offset_ohm=each) for each in offsets]
    gain = Suspect("gain", "gain", "circuit", BOARD, "", "The meter reads high or low throughout", 0.0)
    gains = patient.figures.gain
    yield gain, [Hypothesis("gain", 1 / len(gains), gain=each) for each in gains]
