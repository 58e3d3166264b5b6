"""Planning a scheme: the least cable, cores and joints, why, what is next best, and what to do where nothing fits."""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import Literal

from lumbek.core.circuit.routes import routes_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.scheme import Control, GangAt, Scheme
from lumbek.core.numbers import counted, plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.choose import Chooser, Chosen, without
from lumbek.core.switching.nets import row_of
from lumbek.core.switching.options import Method
from lumbek.core.switching.terms import said_as, terms_of
from lumbek.core.switching.two_plate import metres, two_plate_problems, wire_two_plate
from lumbek.core.switching.wire import wire
from lumbek.core.value import Frozen

METHOD_WORDS: dict[Method, str] = {
    "permanent": "on for good",
    "sensor": "by a sensor",
    "one-way": "one switch",
    "commons-at-ends": "commons at the ends, strappers between",
    "commons-joined": "commons joined, line and switched line on one pair",
}


class ControlPlan(Frozen):
    """How one control is wired: the method, and the switches in their order."""

    control: str
    name: str
    method: Method
    words: str
    order: tuple[GangAt, ...]


class RunPlan(Frozen):
    """The cables of one run: live cores used, and what carries them; `kept` are there already."""

    a: str
    b: str
    words: str
    length_m: float | None
    used: int
    kept: tuple[int, ...]
    new: tuple[int, ...]


class Planned(Frozen):
    """A way of wiring a scheme, priced in metres of two-core cable, with the circuit wired so."""

    cable_m: float
    cores_m: float
    joints: int
    shown_cable: str
    controls: tuple[ControlPlan, ...]
    runs: tuple[RunPlan, ...]
    design: Circuit


class Missing(Frozen):
    """A run that does not hold what is needed."""

    a: str
    b: str
    holds: int
    needs: int
    words: str


class Alternative(Frozen):
    """Something else that could be done where nothing fits, with the plan that it allows."""

    kind: Literal["feed", "wish", "method", "radio"]
    words: str
    plan: Planned


class SwitchingPlan(Frozen):
    """What was found for a scheme: the best and the next best, or what is missing and what could be done instead."""

    best: Planned | None
    next_best: Planned | None
    why: str
    next_words: str = ""
    missing: tuple[Missing, ...] = ()
    alternatives: tuple[Alternative, ...] = ()
    assumptions: tuple[str, ...] = ()
    problems: tuple[str, ...] = ()


def plan(book: Rulebook, circuit: Circuit, scheme: Scheme) -> SwitchingPlan:
    """Return the least way of wiring a scheme into a circuit; where nothing fits, what is missing by how much."""
    scheme = scheme.model_copy(update={"routes": routes_of(circuit, scheme)})
    problems = _problems(circuit, scheme)
    if problems:
        return SwitchingPlan(best=None, next_best=None, why="", problems=tuple(problems))
    if scheme.wishes.school == "two-plate":
        return _two_plate(book, circuit, scheme)
    chooser = _chooser(book, circuit, scheme)
    best = chooser.best()
    unknown = [route for route in scheme.routes if route.length_m is None]
    assumptions: tuple[str, ...] = (
        (f"{counted(len(unknown), 'run', 'runs')} of unknown length, taken as {plain(chooser.usual_length_m)} m",)
        if unknown
        else ()
    )
    if len(chooser.trees) == chooser.most_trees > 1:
        assumptions = (*assumptions, f"Only the first {chooser.most_trees} ways of running cable were compared")
    if best is None:
        return SwitchingPlan(
            best=None,
            next_best=None,
            why="",
            missing=tuple(_missing(circuit, chooser)),
            alternatives=tuple(_alternatives(book, circuit, scheme)),
            assumptions=assumptions,
        )
    other = _next_best(chooser, best)
    return SwitchingPlan(
        best=_planned(book, chooser, best),
        next_best=None if other is None else _planned(book, chooser, other),
        why=_why(chooser, best),
        next_words="" if other is None else _beside(best, other),
        assumptions=assumptions,
    )


def _two_plate(book: Rulebook, circuit: Circuit, scheme: Scheme) -> SwitchingPlan:
    """Return the one way of wiring a scheme in two plates: nothing is searched."""
    problems = two_plate_problems(circuit, scheme)
    if problems:
        return SwitchingPlan(best=None, next_best=None, why="", problems=tuple(problems))
    data = book.switching
    design = wire_two_plate(book, circuit, scheme)
    singles_m = metres(design, scheme.places, data.usual_length_m)
    inside = [leg for leg in design.legs if {leg.a, leg.b} <= set(scheme.places)]
    words = said_as(terms_of(book, circuit), "singles, switch to switch")
    controls = tuple(
        ControlPlan(
            control=control.id,
            name=control.name or control.id,
            method=_plain(control),
            words=words,
            order=control.gangs,
        )
        for control in scheme.controls
    )
    ways: dict[tuple[str, str], list[Leg]] = {}
    for leg in inside:
        ways.setdefault((leg.a, leg.b), []).append(leg)
    runs = tuple(
        RunPlan(
            a=a,
            b=b,
            words=f"{design.point_title(a)} to {design.point_title(b)}",
            length_m=legs[0].length_m,
            used=sum(len(design.cable_of(leg).live_cores) for leg in legs),
            kept=(),
            new=tuple(len(design.cable_of(leg).live_cores) for leg in legs),
        )
        for (a, b), legs in ways.items()
    )
    unknown = sum(1 for leg in inside if leg.length_m is None)
    best = Planned(
        cable_m=round(singles_m * data.single_price, 2),
        cores_m=singles_m,
        joints=0,
        shown_cable=f"{plain(round(singles_m, 2))} m of singles",
        controls=controls,
        runs=runs,
        design=design,
    )
    why = (
        "Line from switch to switch, neutral from light to light: no joint at a light and no neutral at a switch. Line "
        "and neutral part, so keep it out of steel, one conductor by one, and off other circuits' neutrals."
    )
    length = f"{counted(unknown, 'run', 'runs')} of unknown length, taken as {plain(data.usual_length_m)} m"
    return SwitchingPlan(best=best, next_best=None, why=why, assumptions=(length,) if unknown else ())


def _plain(control: Control) -> Method:
    if not control.gangs:
        return "permanent"
    return "one-way" if len(control.gangs) == 1 else "commons-at-ends"


def _chooser(book: Rulebook, circuit: Circuit, scheme: Scheme) -> Chooser:
    data = book.switching
    return Chooser(circuit, scheme, data.prices, data.usual_length_m)


def _problems(circuit: Circuit, scheme: Scheme) -> list[str]:
    """Return why there is nothing to plan."""
    found = []
    if not scheme.controls:
        found.append("Say first what switches what.")
    chooser = Chooser(circuit, scheme, {2: 1.0, 3: 1.5}, 1.0)
    for control in scheme.controls:
        found += _problems_of(circuit, chooser, control)
    if not found and not chooser.trees:
        reached = {scheme.feed} | {end for route in scheme.routes for end in (route.a, route.b)}
        cut = [circuit.point_title(place) for place in scheme.places if place not in reached]
        found.append(f"No route leads to {', '.join(cut) if cut else 'every place'}.")
    return found


def _problems_of(circuit: Circuit, chooser: Chooser, control: Control) -> Iterator[str]:
    """Yield why a control cannot be planned."""
    name = control.name or control.id
    held = [gang for gang in control.gangs if gang in chooser.only_ends]
    if len(held) > 2:
        names = ", ".join(circuit.point_title(gang.point) for gang in held)
        yield (
            f"{name}: {len(held)} of its switches can only be an end of the row ({names}). "
            "Give intermediates a box of their own or a grid plate, and one dimmer to a set."
        )
    if BOARD in (*(gang.point for gang in control.gangs), *(output.point for output in control.outputs)):
        yield f"{name}: no switch and no light is at the board."
        return
    if not control.is_plain:
        yield (
            f"{name} has a master, or a switch that holds it on: wire it on the bench, where "
            "every position is proved. The plan knows rows of switches and sensors."
        )
    fitted = (circuit.point(gang.point).accessory(gang.gang) for gang in control.gangs)
    dimmers = [each for each in fitted if each is not None and each.dims]
    if len(dimmers) > 1:
        yield f"{name} has {len(dimmers)} dimmers: one to a set of lamps."


def _next_best(chooser: Chooser, best: Chosen) -> Chosen | None:
    """Return the least of all ways in which some control has another order or method."""
    found = []
    for at, control in enumerate(chooser.scheme.controls):
        if len(control.gangs) < 2:
            continue
        other = replace(chooser, without=without(best, at), _costs={}).best()
        if other is not None:
            found.append(other)
    return min(found, key=lambda each: each.price, default=None)


def _why(chooser: Chooser, best: Chosen) -> str:
    """Return in words why this order and method."""
    wide = [len(control.gangs) for control in chooser.scheme.controls if len(control.gangs) > 1]
    if not wide:
        return "One switch each: line to the switch, switched line on to the light, by the shortest ways."
    trees = f", over {len(chooser.trees)} ways of running cable" if len(chooser.trees) > 1 else ""
    return (
        "Of every order of the switches and both ways of making a two-way"
        f"{trees}, none takes less cable: {plain(best.price.cable_m)} m of two-core, or what costs the same."
    )


def _beside(best: Chosen, other: Chosen) -> str:
    """Return what the next best costs beside the best."""
    # Less than a centimetre is the noise of sums, or nobody's to mind.
    cable_m, cores_m = (round(one - two, 2) for one, two in zip(other.price[:2], best.price[:2], strict=True))
    if cable_m > 0:
        return f"costs {plain(cable_m)} m more"
    if cores_m > 0:
        return f"the same cable, {plain(cores_m)} m more of cores used"
    return "costs the same"


def _planned(book: Rulebook, chooser: Chooser, chosen: Chosen) -> Planned:
    circuit = chooser.circuit
    controls = []
    for control, option in zip(chooser.scheme.controls, chosen.options, strict=True):
        row = row_of(chosen, option, control)
        controls.append(
            ControlPlan(
                control=control.id,
                name=control.name or control.id,
                method=option.method,
                words=said_as(terms_of(book, circuit), METHOD_WORDS[option.method]),
                order=row.gangs,
            )
        )
    runs = []
    for run, route in enumerate(chosen.tree.routes):
        used = int(chosen.cores[run])
        if not used:
            continue
        fill = chooser.fill(route, used)
        kept = tuple(route.cables[index].live for index in fill.kept)
        words = f"{circuit.point_title(route.a)} to {circuit.point_title(route.b)}"
        runs.append(
            RunPlan(a=route.a, b=route.b, words=words, length_m=route.length_m, used=used, kept=kept, new=fill.new)
        )
    return Planned(
        cable_m=chosen.price.cable_m,
        cores_m=chosen.price.cores_m,
        joints=chosen.price.joints,
        shown_cable=f"{plain(round(chosen.price.cable_m, 2))} m",
        controls=tuple(controls),
        runs=tuple(runs),
        design=wire(book, chooser, chosen),
    )


def _missing(circuit: Circuit, chooser: Chooser) -> Iterable[Missing]:
    for over in chooser.shortage():
        a, b = circuit.point_title(over.route.a), circuit.point_title(over.route.b)
        short = over.needs - over.holds
        words = f"{a} to {b} holds {over.holds} cores and needs {over.needs}: {short} missing"
        yield Missing(a=over.route.a, b=over.route.b, holds=over.holds, needs=over.needs, words=words)


def _alternatives(book: Rulebook, circuit: Circuit, scheme: Scheme) -> Iterable[Alternative]:
    """Yield what would fit: the feed from elsewhere, fewer wishes, and last a switch that needs no cable."""

    def tried(kind: Literal["feed", "wish", "radio"], words: str, other: Scheme) -> Iterable[Alternative]:
        chooser = _chooser(book, circuit, other)
        best = chooser.best() if chooser.trees else None
        if best is not None:
            yield Alternative(kind=kind, words=words, plan=_planned(book, chooser, best))

    wishes = scheme.wishes
    for field, words in (
        ("neutral_at_switches", "Do without a neutral at each switch"),
        ("spare_core", "Do without spare cores"),
        ("one_cable", "Allow several cables side by side"),
    ):
        if getattr(wishes, field):
            eased = wishes.model_copy(update={field: False})
            yield from tried("wish", words, scheme.model_copy(update={"wishes": eased}))
    fed = {end for leg in circuit.legs for end in (leg.a, leg.b) if BOARD in (leg.a, leg.b)}
    for place in scheme.places:
        if place in (scheme.feed, BOARD) or BOARD in scheme.places:
            continue
        how = "there is a feed there already" if place in fed else "bring it there"
        words = f"Feed it from {circuit.point_title(place)} instead: {how}"
        yield from tried("feed", words, scheme.model_copy(update={"feed": place}))
    for control in scheme.controls:
        for gang in control.gangs if len(control.gangs) > 1 else ():
            fewer = control.model_copy(update={"gangs": tuple(each for each in control.gangs if each != gang)})
            controls = tuple(fewer if each.id == control.id else each for each in scheme.controls)
            words = (
                f"As a last resort, a radio-linked switch at {circuit.point_title(gang.point)}: no cable, "
                "but a battery or a receiver that can fail"
            )
            yield from tried("radio", words, scheme.model_copy(update={"controls": controls}))
