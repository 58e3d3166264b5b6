"""Does a fault put out as little as it can? Asked of everything that many circuits share."""

from lumbek.core.board.house import House
from lumbek.core.board.member import Member
from lumbek.core.board.shared_rcds import shared_rcds
from lumbek.core.board.trips import Trip, trips
from lumbek.core.judging.check import Check, Place, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import counted

QUESTION = Question(
    "division", "Division", "Does one fault leave lights or sockets working on every storey?", "division"
)
ALARMS = Question(
    "alarms", "Alarms", "Do the alarms stay on, or is it noticed at once when they do not?", "alarms-division"
)
_ROOMS = "storey of every room: say which rooms lie on which"


def worst_trip(found: list[Trip]) -> Trip | None:
    """Return the single trip that costs most."""
    return max(found, key=lambda trip: trip.weight, default=None)


def check_division(house: House, found: list[Trip] | None = None) -> Check:
    """No single trip takes lights and sockets of one storey together, nor a medical need with other circuits (314.1).

    A room that loses both is enough, whatever storey it is on. A way of one circuit is that circuit's own affair, and
    so is the feed of an outbuilding: it is pointed out.
    """
    found = list(trips(house)) if found is None else found
    shared = [trip for trip in found if len(trip.circuits) > 1 and not _feeds_a_board(house, trip)]
    steps = tuple(_step(trip) for trip in shared)
    bad = [trip for trip in shared if trip.dark_storeys or trip.dark_rooms or ("medical" in trip.needs)]
    sure, worst = worst_trip([trip for trip in bad if not trip.unsure]), worst_trip(found)
    if sure is not None:
        return QUESTION.check(house, Verdict.FAIL, _takes(sure), place=_place(sure), steps=steps)
    unsure = next(iter(bad), None)
    if unsure is not None:
        what = f"RCD that each circuit of {unsure.title} is behind: there may be several alike"
        return QUESTION.cannot_tell(house, (what,), steps=steps, place=_place(worst))
    whole = next((trip for trip in shared if len(set(trip.circuits)) == len(house.members) and _takes_both(trip)), None)
    if whole is not None:
        answer = f"{whole.title} takes lights and sockets of the whole house together"
        return QUESTION.check(house, Verdict.FAIL, answer, place=_place(whole), steps=steps)
    missing = _not_known(house, shared)
    if missing:
        return QUESTION.cannot_tell(house, missing, steps=steps, place=_place(worst))
    answer = "Every trip leaves lights or sockets" if worst is None else f"The most that one trip takes: {worst.title}"
    caution = _pointed_out(house, found)
    return QUESTION.check(house, Verdict.PASS, answer, place=_place(worst), steps=steps, caution=caution)


def _not_known(house: House, shared: list[Trip]) -> tuple[str, ...]:
    """Return what would say whether a trip takes too much, where nobody has said it."""
    if any(map(_might, shared)):
        return (_ROOMS,)
    if any(group.rcd == "unknown" and len(group.ways) > 1 for board in house.boards for group in board.groups):
        return ("RCD of each group of ways: whether there is one",)
    return ()


def _place(trip: Trip | None) -> Place | None:
    return None if trip is None else Place(kind=trip.kind, id=trip.id, name=trip.title)


def _takes(worst: Trip) -> str:
    """Return in words what a trip takes that it should not."""
    if worst.dark_storeys:
        return f"{worst.title} takes lights and sockets of {' and '.join(worst.dark_storeys)} together"
    if worst.dark_rooms:
        return f"{worst.title} takes lights and sockets of {worst.dark_rooms[0] or 'the same rooms'} together"
    return f"{worst.title} takes a medical need along with other circuits"


def _pointed_out(house: House, found: list[Trip]) -> str:
    """Return what a way takes by itself that is its own affair, and worth a word."""
    ways = [trip for trip in found if trip.kind == "way"]
    for trip in ways:
        if trip.dark_rooms and _feeds_a_board(house, trip):
            return f"{trip.title} takes all of its board along, lights and sockets."
    for trip in ways:
        if len(trip.circuits) == 1 and _darkens(trip):
            return f"{trip.title} feeds lights and sockets of the same rooms."
    return ""


def _darkens(trip: Trip) -> bool:
    return bool(trip.dark_rooms or trip.dark_storeys)


def check_alarms(house: House) -> Check:
    """Alarms on a way of their own, or with a lighting circuit that would be missed (314.1).

    An RCD that other circuits can trip silences them with those.
    """
    alarms = [member for member in house.members.values() if member.kind == "alarms"]
    with_lights = [
        member for member in house.members.values() if member.kind != "alarms" and "alarms" in _needs(house, member.key)
    ]
    if not alarms and not with_lights:
        return ALARMS.not_applicable(house, "No alarms in any circuit")
    every = (*alarms, *with_lights)
    for ask in (_in_a_group, _over_many):
        for member in every:
            with_others = ask(house, member)
            if with_others is not None:
                return with_others
    own = not with_lights
    steps = tuple(
        Step(text=f"{school}{', as here' if here else ''}", sum=gives_up)
        for school, gives_up, here in (
            ("A way of their own", "nothing else puts them out; a dead way may go unnoticed", own),
            ("With a lighting circuit", "its loss is noticed at once; a fault of a lamp can put them out", not own),
        )
    )
    lights = all("lights" in member.kinds for member in with_lights)
    verdict = Verdict.PASS if lights else Verdict.FAIL
    answer = "On a way of their own" if own else f"With {with_lights[0].title}"
    return ALARMS.check(house, verdict, answer, steps=steps)


def _in_a_group(house: House, member: Member) -> Check | None:
    """Return what is to be said of alarms behind an RCD of their group that others share; None where they are not."""
    seat = house.seats[member.key]
    others = [each for each in house.behind_group(seat.group) if each.key != member.key]
    if seat.group.rcd is None or not others:
        return None
    place = house.group_place(seat.board, seat.group)
    if seat.group.unsure:
        what = f"RCD that {member.title} is behind, and with what: there may be several alike"
        return ALARMS.cannot_tell(house, (what,), place=place)
    noticed = member.kind != "alarms" or any("lights" in each.kinds for each in others)
    return ALARMS.check(
        house,
        Verdict.PASS if noticed else Verdict.FAIL,
        f"{member.title} shares an RCD with {len(others)} other circuits",
        place=place,
        caution=f"{others[0].title} can trip the RCD that feeds them: the battery takes over, unnoticed.",
    )


def _over_many(house: House, member: Member) -> Check | None:
    """Return what is to be said of alarms behind an RCD further up that others share; None where they are not."""
    shared = next((each for each in shared_rcds(house) if {member.key} < set(each.circuits)), None)
    if shared is None:
        return None
    return ALARMS.check(
        house,
        Verdict.PASS,
        f"{member.title} is behind the RCD of {shared.place.name} with {len(set(shared.circuits)) - 1} other circuits",
        place=shared.place,
        caution="Any of them can trip it: the battery takes over, unnoticed. Better ahead of that RCD.",
    )


def _needs(house: House, key: str) -> tuple[str, ...]:
    return house.seats[key].way.needs


def _feeds_a_board(house: House, trip: Trip) -> bool:
    return trip.kind == "way" and any(house.hanging_on(key) for key in trip.circuits)


def _might(trip: Trip) -> bool:
    """Whether a trip may take both of one storey, as far as is known."""
    unplaced = [lost for lost in trip.lost if not lost.storey]
    kinds = {what for lost in trip.lost for what in lost.what}
    return bool(unplaced) and {"lights", "sockets"} <= kinds


def _takes_both(trip: Trip) -> bool:
    """Whether lights and sockets are among what a trip takes: with the whole house, on whatever storey they are."""
    return {"lights", "sockets"} <= {what for lost in trip.lost for what in lost.what} and not trip.unsure


def _step(trip: Trip) -> Step:
    rooms = ", ".join(f"{lost.room or 'no room said'} ({' and '.join(lost.what)})" for lost in trip.lost)
    return Step(text=f"{trip.title} takes {counted(len(trip.circuits), 'circuit', 'circuits')}", sum=rooms)
