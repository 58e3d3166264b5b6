"""What papers say of supply, earthing, bonding and main switch (the particulars of BS 7671 Appendix 6)."""

from lumbek.core.board.demand import headroom
from lumbek.core.documents.asking import NOT_APPLICABLE, Asking
from lumbek.core.documents.electrodes import electrode_facts, own_electrodes
from lumbek.core.documents.facts import rcd_words
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Fact, Section
from lumbek.core.model.board import Board
from lumbek.core.model.inspection import Particulars
from lumbek.core.model.reading import Quantity, Reading, standing
from lumbek.core.model.supply import Service, Supply
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name

SURVEY, TESTS, BOARD = "survey", "tests", "board"
_HZ = 50
_SERVICES = {
    "water": "Water",
    "gas": "Gas",
    "oil": "Oil",
    "steel": "Steelwork",
    "lightning": "Lightning protection",
    "other": "Other service",
}


def supply_section(gathered: Gathered, asking: Asking) -> Section:
    """Return what is known of the supply."""
    supply, book = gathered.house.supply, gathered.rulebook
    read = {key[0]: each for key, each in standing(gathered.job.readings).items()}
    three = supply.phases == 3
    polarity = read.get("supply-polarity")
    return Section(
        title="Supply",
        blocks=(
            asking.facts(
                asking.fact("Earthing system", supply.earthing, SURVEY),
                Fact(name="Live conductors", value="a.c., 3 phase, 4 wire" if three else "a.c., 1 phase, 2 wire"),
                Fact(name="Nominal voltage", value=_volts(book.data.supply.u_v, book.u0_v, three)),
                Fact(name="Frequency", value=f"{_HZ} Hz"),
                asking.fact("Greatest fault current", _given(supply.fault_current_ka, "kA"), SURVEY),
                asking.fact("Ze", None if supply.ze_ohm is None else f"{show(supply.ze_ohm)} Ω", SURVEY),
                asking.fact("Polarity of the supply", _seen(polarity), TESTS),
                asking.fact("Main fuse", _fuse(supply), SURVEY),
                asking.fact("Other sources", _sources(gathered), SURVEY, "none on record"),
            ),
        ),
    )


def _volts(u_v: float, u0_v: float, three: bool) -> str:
    return f"U {plain(u_v)} V, U0 {plain(u0_v)} V" if three else f"U0 {plain(u0_v)} V"


def _fuse(supply: Supply) -> str | None:
    fuse = supply.main_fuse
    if fuse.rating_a is None:
        return None
    kind = "type not read" if fuse.standard == "unknown" else fuse.standard.replace("bs", "BS ").replace("iec", "IEC ")
    return f"{kind}, {plain(fuse.rating_a)} A"


def _given(value: float | None, unit: str) -> str | None:
    return None if value is None else f"{plain(value)} {unit}"


def _seen(reading: Reading | None) -> str | None:
    if reading is None or reading.correct is None:
        return None
    return "confirmed" if reading.correct else "REVERSED"


def _sources(gathered: Gathered) -> str:
    return ", ".join(
        point.title for circuit in gathered.job.circuits for point in circuit.design.points if point.kind == "source"
    )


def earthing_section(gathered: Gathered, particulars: Particulars, asking: Asking) -> Section:
    """Return what is known of the means of earthing and of bonding."""
    supply = gathered.house.supply
    read = standing(gathered.job.readings)
    own = supply.earthing == "TT"
    islands = own_electrodes(gathered.house, gathered.job.circuits)
    electrode = read.get(("electrode", None))
    ra = "" if electrode is None or electrode.value is None else f"{plain(electrode.value)} Ω"
    size = _given(supply.earthing_conductor_mm2, "mm²")
    material = particulars.earthing_material or "copper"
    return Section(
        title="Earthing and bonding",
        blocks=(
            asking.facts(
                asking.fact("Means of earthing", _means(supply, [circuits for circuits, _ in islands]), SURVEY),
                asking.fact("Electrode", particulars.electrode if own else NOT_APPLICABLE),
                asking.fact("Electrode, RA", ra if own else NOT_APPLICABLE, TESTS),
                *electrode_facts(islands, asking),
                asking.fact("Earthing conductor", f"{material}, {size}" if size else None, SURVEY),
                asking.fact("Its continuity", _value(read.get(("earth-continuity", None))), TESTS),
                *(
                    fact
                    for count, service in enumerate(supply.services, start=1)
                    for fact in _bonding(service, f"{service.what}-{count}", read, particulars, asking)
                ),
                *([] if supply.services else [asking.fact("Main bonding", None, SURVEY)]),
            ),
        ),
    )


def _means(supply: Supply, on_their_own: list[str]) -> str | None:
    """Return what the house is earthed by, and which circuits are not."""
    if supply.earthing is None:
        return None
    house = "the installation's own electrode" if supply.earthing == "TT" else "the distributor's"
    return "; ".join((house, *(f"{circuits}: a separate electrode" for circuits in on_their_own)))


def _bonding(
    service: Service,
    key: str,
    read: dict[tuple[Quantity, str | None], Reading],
    particulars: Particulars,
    asking: Asking,
) -> list[Fact]:
    """Return what is known of the bonding of one service."""
    name = f"Bonding, {_SERVICES[service.what].lower()}"
    if service.material == "plastic":
        return [Fact(name=name, value="plastic: none needed")]
    if service.bonded == "no":
        return [Fact(name=name, value="NONE")]
    size = _given(service.bonding_mm2, "mm²")
    said = f"{particulars.bonding_material or 'copper'}, {size}" if size and service.bonded == "yes" else None
    return [
        asking.fact(name, said, SURVEY),
        asking.fact(f"{name}: continuity", _value(read.get(("bonding", key))), TESTS),
    ]


def _value(reading: Reading | None) -> str | None:
    if reading is None or reading.value is None:
        return None
    return f"{'>' if reading.beyond else ''}{plain(reading.value)} Ω, {reading.when[:10]}"


def origin_section(gathered: Gathered, asking: Asking) -> Section:
    """Return what is known of the main switches, tails and of the demand."""
    house = gathered.house
    roots = [board for board in house.boards if board.is_root]
    tails = house.supply.tails.csa_mm2
    room = headroom(house)
    return Section(
        title="Main switch and demand",
        blocks=(
            asking.facts(
                *(fact for board in roots for fact in _main(gathered, board, asking)),
                asking.fact("Tails", _given(tails, "mm²"), SURVEY),
                Fact(name="Greatest demand", value=f"{room.shown_demand} A" if room.shown_demand else NOT_APPLICABLE),
            ),
        ),
    )


def _main(gathered: Gathered, board: Board, asking: Asking) -> list[Fact]:
    where = gathered.house.places.where(board.at)
    main = board.known_main
    name = "Main switch" + (f", {board.name}" if board.name else "")
    if board.main is None:
        return [Fact(name=name, value="none")]
    poles = f", {board.main_poles} poles" if board.main_poles else ""
    said = None if main is None else device_name(gathered.rulebook, main) + poles
    facts = [asking.fact(name, said, BOARD), asking.fact(f"{name}: where", where, BOARD, "not said")]
    if main is not None and main.known_rcd is not None:
        said = rcd_words(main.known_rcd) or "rating not read"
        facts.append(Fact(name=f"{name}: RCD", value=said + (", delayed" if main.known_rcd.delayed else "")))
    return facts
