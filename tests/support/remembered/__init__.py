"""All that is remembered of what the application says, file by file: how each is made again."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from zlib import crc32

from tests.support.planned import PLANS
from tests.support.remembered.choices import quick, usual
from tests.support.remembered.commands import boards_changed, circuits_changed, places_changed
from tests.support.remembered.demo import report, whole
from tests.support.remembered.houses import boards, house, inspected, of_circuits, proposed, suspects, tripped
from tests.support.remembered.lights import lighting, rooms
from tests.support.remembered.plans import plans, typed
from tests.support.said import LONG
from tests.support.street import HOUSES, street

KEPT = Path(__file__).resolve().parents[2] / "reference" / "said"
_DEMOS = ("signal_box", "signal_box_found", "boathouse")


def lines_of(name: str) -> Iterator[str]:
    """Yield the lines of one of what is remembered, as they are kept."""
    for line in REMEMBERED[name]():
        yield line if len(line) <= LONG else f"{line[:LONG]}… {crc32(line.encode()):08x}"


REMEMBERED: dict[str, Callable[[], Iterator[str]]] = {
    **{f"house_{number:03}": partial(house, number) for number in HOUSES},
    **{f"boards_{part}": partial(boards, HOUSES[part::20]) for part in range(4)},
    **{f"proposed_{number:03}": partial(proposed, number) for number in HOUSES[3::12]},
    **{f"suspects_{number:03}": partial(lambda number: suspects(street(number)), number) for number in HOUSES[4::10]},
    **{f"circuits_changed_{number:03}": partial(circuits_changed, number) for number in HOUSES[7::15]},
    **{f"boards_changed_{number:03}": partial(boards_changed, number) for number in HOUSES[9::15]},
    **{f"places_changed_{number:02}": partial(places_changed, number) for number in PLANS[2::8]},
    **{f"inspected_{part}": partial(inspected, HOUSES[part::12]) for part in range(3)},
    **{f"of_circuits_{part}": partial(of_circuits, HOUSES[part::15]) for part in range(2)},
    "tripped": tripped,
    **{f"plans_{part}": partial(plans, PLANS[part::4]) for part in range(4)},
    **{f"lighting_{part:02}": partial(lighting, part) for part in range(0, 12, 4)},
    **{name: partial(whole, name) for name in _DEMOS},
    "lit_rooms": rooms,
    "report": report,
    "typed": typed,
    "quick": quick,
    "usual": usual,
}
