"""Jobs of every shape for properties: whatever the model allows."""

from typing import get_args

from hypothesis import strategies as st

from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.job import Job
from lumbek.core.model.point import DcPart, DiversityClass, PointKind
from lumbek.core.model.reading import AT_POINTS, SEEN
from lumbek.core.model.text import cleaned
from lumbek.exchange.job_file import make_job

names = st.text(st.characters(blacklist_categories=("Cs", "Cc")), max_size=20).map(
    lambda text: str(cleaned(text)).strip()
)
metres = st.one_of(st.none(), st.floats(0.1, 80).map(lambda length: round(length, 2)))
sizes = st.sampled_from([1.0, 1.3, 1.5, 2.5, 3.0, 4.0, 6.0, 10.0])


def amounts(most: float) -> st.SearchStrategy[float]:
    """Nothing, or a figure above zero that somebody may mean."""
    return st.one_of(st.just(0.0), st.floats(1e-9, most))


own_earths = st.sampled_from(
    [None, None, {}, {"electrode_ohm": 80.0}, {"electrode_ohm": 80.0, "electrode_origin": "measured"}]
)
perhaps = st.sampled_from([None, True, False])
kinds_of_circuit = st.sampled_from(get_args(CircuitKind))
rcds = st.sampled_from(
    [
        "unknown",
        None,
        {},
        {"rated_ma": 30, "type": "AC"},
        {"rated_ma": 30, "type": "F", "shared": True},
        {"rated_ma": 300, "type": "A", "delayed": True, "shared": True},
    ]
)


@st.composite
def devices(draw) -> dict:
    standard = draw(
        st.sampled_from(
            ["bs-en-61009"] * 4
            + ["bs-en-60898", "bs-en-61008", "bs88-2", "bs88-3", "iec60269", "bs1361", "bs3036", "bs3871", "switch"]
        )
    )
    breaker = standard in ("bs-en-60898", "bs-en-61009", "bs3871")
    return {
        "standard": standard,
        "curve": draw(st.sampled_from(list("1234" if standard == "bs3871" else "BCD"))) if breaker else None,
        "rating_a": draw(st.sampled_from([6, 16, 20, 30, 32, 45, 63])),
        "breaking_capacity_ka": draw(st.sampled_from([None, 6, 10])),
        "rcd": draw(rcds),
        "afdd": draw(st.booleans()),
        "let_through_a2s": draw(st.sampled_from([None, None, 9000])),
        "bidirectional": draw(st.sampled_from([None, True, False])),
    }


_OTHERS = ("multicore", "armoured", "single-core", "flat-single-and-earth", "flex")


@st.composite
def cables(draw) -> dict:
    kind = draw(st.sampled_from(["flat-twin-and-earth"] * 3 + [*_OTHERS]))
    by = {"armoured": [None, "core", "armour"], "single-core": ["core", "conduit"]}.get(kind, [None, "core", "none"])
    return {
        "type": kind,
        "insulation": draw(st.sampled_from(["pvc70", "xlpe90"])),
        "csa_mm2": draw(sizes),
        "cpc_by": draw(st.sampled_from(by)),
        "cores": draw(st.sampled_from([2, 3, 4, 5])),
        "alone": draw(st.sampled_from([None, "L", "N"])) if kind in ("single-core", "flat-single-and-earth") else None,
        "conduit": draw(st.sampled_from([None, "20-heavy"])),
        "conduit_milliohm_per_m": draw(st.sampled_from([None, 2.0])),
    }


@st.composite
def things_ahead(draw) -> dict:
    if draw(st.booleans()):
        return {"name": draw(names), "device": draw(devices())}
    length, method = draw(st.floats(0.5, 60)), draw(st.sampled_from(["C", "D", "D1", "E"]))
    current = draw(st.sampled_from([None, 10.0, 60.0]))
    return {"feed": draw(cables()), "length_m": round(length, 2), "method": method, "current_a": current}


@st.composite
def segments(draw) -> dict:
    length = draw(metres)
    ranged = length is not None and draw(st.booleans())
    together = draw(st.integers(1, 4))
    return {
        "length_m": length,
        "length_to_m": length + draw(st.floats(0, 20)) if ranged else None,
        "method": draw(st.sampled_from([None, None, "C", "A", "101", "D", "D2", "B"])),
        "ambient_c": draw(st.sampled_from([None, 25.0, 35.0])),
        "grouped_circuits": together,
        "lightly_loaded": draw(st.integers(0, together - 1)),
        "insulation_mm": draw(st.sampled_from([0, 0, 80])),
        "spacing": draw(st.sampled_from(["touching", "one-diameter", "0.25 m"])),
        "depth_m": draw(st.sampled_from([None, 0.5, 1.1])),
        "soil_km_w": draw(st.sampled_from([None, 1.0, 4.5])),
    }


@st.composite
def circuits(draw) -> dict:
    count = draw(st.integers(0, 6))
    ids = [f"P{index}" for index in range(1, count + 1)]
    ends = ["board", *ids]
    legs = []
    for index, point in enumerate(ids):
        start = draw(st.sampled_from(ends[: index + 1]))
        own = {"cable": draw(cables())} if draw(st.integers(0, 3)) == 0 else {}
        parts = draw(st.lists(segments(), min_size=1, max_size=2))
        legs.append({"id": f"L{index + 1}", "a": start, "b": point, "segments": parts, **own})
    if count and draw(st.booleans()):
        legs.append({"id": "L99", "a": ids[-1], "b": "board", "segments": [draw(segments())]})
    kinds = st.sampled_from(["socket-twin", "socket-twin", "fixed", *get_args(PointKind)])
    loads = st.lists(
        st.fixed_dictionaries(
            {
                "name": names,
                "current_a": amounts(16),
                "leakage_ma": amounts(4),
                "dc": st.sampled_from([None, *get_args(DcPart)]),
                "diversity": st.sampled_from([None, *get_args(DiversityClass)]),
            }
        ),
        max_size=2,
    )
    points = [
        {
            "id": point,
            "name": draw(names),
            "at": {"room": draw(st.sampled_from([None, "hall", "attic"])), "words": draw(names)},
            "kind": draw(kinds),
            "loads": draw(loads),
            "zone": draw(st.sampled_from([None, None, None, "0", "1", "2", "outside"])),
            "class_ii": draw(st.sampled_from([None, True, False])),
            "state": draw(st.sampled_from(["new", "as-found"])),
        }
        for point in ids
    ]
    quantity = st.sampled_from(
        [
            "r1",
            "rn",
            "r2",
            "cross-ln",
            "cross-le",
            "r1+r2",
            "insulation-ll",
            "polarity",
            "zs",
            "rcd-trip",
            "own-electrode",
        ]
    )
    readings = []
    for _ in range(draw(st.integers(0, 4))):
        what = draw(quantity)
        if what in AT_POINTS and not ids:
            continue
        readings.append(
            {
                "quantity": what,
                "point": draw(st.sampled_from(ids)) if what in AT_POINTS else None,
                "value": None if what in SEEN else draw(amounts(999)),
                "correct": draw(st.booleans()) if what in SEEN else None,
                "by": draw(names),
                "at": "2026-01-31T09:30:00Z",
            }
        )
    design = {
        "number": draw(st.integers(1, 40)),
        "name": draw(names) or "Circuit",
        "kind": draw(st.one_of(st.just("sockets"), kinds_of_circuit)),
        "device": draw(devices()),
        "ahead": draw(st.lists(things_ahead(), max_size=3)),
        "own_earth": draw(own_earths),
        "cable": draw(cables()),
        "drop_with_ct": draw(st.booleans()),
        "surroundings": draw(
            st.fixed_dictionaries(
                {
                    "concealed_shallow": perhaps,
                    "bath_room": perhaps,
                    "no_tray": perhaps,
                    "supplementary_bonding": perhaps,
                    "lost_neutral_guard": st.booleans(),
                }
            )
        ),
        "points": points,
        "legs": legs,
    }
    return {"design": design, "readings": readings}


@st.composite
def jobs(draw) -> Job:
    drawn = draw(st.lists(circuits(), max_size=3))
    for number, each in enumerate(drawn, start=1):
        each["design"]["number"] = number
    return make_job(
        {
            "format": "lumbek-job",
            "version": 2,
            "name": draw(names) or "Job",
            "client": draw(names),
            "rulebook": draw(st.sampled_from(["bs7671", "iec60364"])),
            "supply": {
                "earthing": draw(st.sampled_from([None, "TN-S", "TN-C-S", "TT"])),
                "ze_ohm": draw(st.one_of(st.none(), st.floats(0.01, 100))),
                "ze_origin": draw(st.sampled_from([None, "measured", "declared"])),
                "phases": draw(st.sampled_from([1, 1, 3])),
                "higher_risk": draw(st.booleans()),
                "fault_current_ka": draw(st.one_of(st.none(), st.floats(0.2, 9))),
            },
            "circuits": drawn,
        }
    )


designs = circuits().map(lambda each: Circuit.model_validate(each["design"]))
