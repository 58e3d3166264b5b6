"""Does what feeds the house carry all that it draws, and what may still be added?"""

from lumbek.core.board.draw import Draw
from lumbek.core.board.house import House
from lumbek.core.board.member import PLAIN
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.numbers import counted, plain, show_down, show_up
from lumbek.core.sizing.diversity import diversified_a
from lumbek.core.value import Frozen

QUESTION = Question(
    "house-demand", "Demand of the house", "Does the supply carry what the house draws together?", "house-demand"
)
# What is asked for next, by the appliances of the list.
_NEXT = ("vehicle", "shower", "hob", "heat-pump")


class MayAdd(Frozen):
    """Something that may be added, what it would bring the fullest line to in A, and whether the supply carries it."""

    what: str
    then_a: str
    fits: bool


class Headroom(Frozen):
    """What a house draws of what it may, on the fullest line; None where there is no limit known.

    The texts are the figures as they are shown, rounded against the user; `share` is the part of the limit.
    """

    demand_a: float
    connected_a: float
    limit_a: float | None
    limit_is: str
    spare_a: float | None
    share: float
    shown_demand: str
    shown_connected: str
    shown_left: str
    may_add: tuple[MayAdd, ...]


def _limit(house: House) -> tuple[float, str] | None:
    supply = house.supply
    known = []
    if supply.main_fuse.rating_a is not None:
        known.append((supply.main_fuse.rating_a, "the main fuse"))
    if supply.declared_limit_a is not None:
        known.append((supply.declared_limit_a, "the declared limit of the supply"))
    return min(known, default=None)


def check_demand(house: House) -> Check:
    """Demand with its diversity on the fullest line <= main fuse, and <= what the distributor declared, A (311.1).

    A single-phase circuit whose line is not known counts on each. Ratings stand in for loads that are not stated:
    what passes so passes; what does not, waits for the loads.
    """
    draw, limit = house.whole_draw, _limit(house)
    if not house.members:
        return QUESTION.not_applicable(house, "No circuits yet")
    if limit is None:
        return QUESTION.cannot_tell(house, ("main fuse of the supply",), steps=draw.steps)
    limit_a, name = limit
    beyond = hold(draw.greatest_a, limit_a, "at most")[0] is Verdict.FAIL
    if beyond and (not draw.stated or draw.unplaced):
        stated = _stated(house)
        if hold(stated.greatest_a, limit_a, "at most")[0] is Verdict.PASS:
            what = f"loads of {draw.unstated[0]}" if draw.unstated else f"line of {draw.unplaced[0]}"
            return QUESTION.cannot_tell(
                house,
                (what,),
                answer=f"{show_up(draw.greatest_a, 1)} A by the ratings: needs the {what}",
                steps=draw.steps,
            )
        draw = stated
    return QUESTION.held(
        house,
        draw.greatest_a,
        limit_a,
        "at most",
        f"{{value}} A, {name} {{limit}} A",
        unit="A",
        decimals=1,
        steps=(*draw.steps, Step(text=f"Limit: {name}", sum=f"{plain(limit_a)} A")),
        caution=""
        if draw.stated
        else f"No loads stated for {counted(len(draw.unstated), 'circuit', 'circuits')}: by rating instead.",
    )


def _placed(house: House, key: str) -> bool:
    return house.supply.phases == 1 or house.members[key].phases == 3 or house.seats[key].way.line is not None


def _stated(house: House) -> Draw:
    """Return what is drawn by the circuits whose loads are stated and whose line is known: at least so much is."""
    return house.drawn_by(member for member in house.members.values() if member.stated and _placed(house, member.key))


def headroom(house: House) -> Headroom:
    """Return what is left, and whether the usual next things still fit on the fullest line."""
    draw, limit = house.whole_draw, _limit(house)
    limit_a, limit_is = limit or (None, "")
    spare = None if limit_a is None else limit_a - draw.greatest_a
    return Headroom(
        demand_a=draw.greatest_a,
        connected_a=draw.greatest_connected_a,
        limit_a=limit_a,
        limit_is=limit_is,
        spare_a=spare,
        share=draw.greatest_a / limit_a if limit_a else 0.0,
        shown_demand=show_up(draw.greatest_a, 1),
        shown_connected=show_up(draw.greatest_connected_a, 1),
        shown_left="" if spare is None else _left(spare),
        may_add=_may_add(house, draw, limit_a),
    )


def _may_add(house: House, draw: Draw, limit_a: float | None) -> tuple[MayAdd, ...]:
    """Return the usual next things with what is drawn with them, and whether that is within the limit."""
    may_add = []
    for key in _NEXT:
        appliance = house.rulebook.appliances[key]
        current = appliance.current_a or (appliance.power_w or 0.0) / house.rulebook.u0_v
        rule = house.rulebook.data.diversity.get(appliance.diversity)
        # Next to what is there it adds no less than its own diversity leaves, and never more than itself.
        own = current if rule is None or appliance.diversity in (PLAIN, "sockets") else diversified_a(rule, [current])
        then = draw.greatest_a + own
        fits = limit_a is not None and hold(then, limit_a, "at most")[0] is Verdict.PASS
        may_add.append(MayAdd(what=appliance.name, then_a=show_up(then, 1), fits=fits))
    return tuple(may_add)


def _left(spare_a: float) -> str:
    return f"{show_down(spare_a, 1)} A left" if spare_a >= 0 else f"{show_up(-spare_a, 1)} A too much"
