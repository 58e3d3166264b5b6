"""Jobs of every shape for properties: whatever the model allows."""

from hypothesis import strategies as st

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job
from lumbek.core.model.reading import AT_POINTS, SEEN

names = st.text(st.characters(blacklist_categories=("Cs", "Cc")), max_size=20).map(str.strip)
metres = st.one_of(st.none(), st.floats(0.1, 80).map(lambda length: round(length, 2)))
sizes = st.sampled_from([1.0, 1.5, 2.5, 4.0, 6.0, 10.0])


@st.composite
def segments(draw) -> dict:
    length = draw(metres)
    ranged = length is not None and draw(st.booleans())
    return {
        "length_m": length,
        "length_to_m": length + draw(st.floats(0, 20)) if ranged else None,
        "method": draw(st.sampled_from([None, "C", "A", "101"])),
        "ambient_c": draw(st.sampled_from([None, 25.0, 35.0])),
        "grouped_circuits": draw(st.integers(1, 4)),
    }


@st.composite
def circuits(draw) -> dict:
    count = draw(st.integers(0, 6))
    ids = [f"P{index}" for index in range(1, count + 1)]
    ends = ["board", *ids]
    legs = []
    for index, point in enumerate(ids):
        start = draw(st.sampled_from(ends[: index + 1]))
        legs.append({"id": f"L{index + 1}", "a": start, "b": point, "segments": [draw(segments())]})
    if count and draw(st.booleans()):
        legs.append({"id": "L99", "a": ids[-1], "b": "board", "segments": [draw(segments())]})
    kinds = st.sampled_from(["socket-twin", "socket-single", "fused-spur", "fixed", "light", "switch", "joint"])
    loads = st.lists(
        st.fixed_dictionaries({"name": names, "current_a": st.floats(0, 16), "leakage_ma": st.floats(0, 4)}), max_size=2
    )
    points = [
        {"id": point, "name": draw(names), "room": draw(names), "kind": draw(kinds), "loads": draw(loads)}
        for point in ids
    ]
    quantity = st.sampled_from(
        ["r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "insulation-ll", "polarity", "zs", "rcd-trip"]
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
                "value": None if what in SEEN else draw(st.floats(0, 999)),
                "correct": draw(st.booleans()) if what in SEEN else None,
                "by": draw(names),
                "at": "2026-01-31T09:30:00Z",
            }
        )
    design = {
        "number": draw(st.integers(1, 40)),
        "name": draw(names) or "Circuit",
        "kind": draw(st.sampled_from(["sockets", "lighting", "cooker", "shower", "outdoor", "vehicle-charging"])),
        "device": {"rating_a": draw(st.sampled_from([6, 16, 20, 32, 45])), "curve": draw(st.sampled_from(["B", "C"]))},
        "cable": {"csa_mm2": draw(sizes)},
        "points": points,
        "legs": legs,
    }
    return {"design": design, "readings": readings}


@st.composite
def jobs(draw) -> Job:
    return Job.model_validate(
        {
            "name": draw(names) or "Job",
            "client": draw(names),
            "rulebook": draw(st.sampled_from(["bs7671", "iec60364"])),
            "supply": {
                "earthing": draw(st.sampled_from([None, "TN-S", "TN-C-S", "TT"])),
                "ze_ohm": draw(st.one_of(st.none(), st.floats(0.01, 100))),
                "fault_current_ka": draw(st.one_of(st.none(), st.floats(0.2, 9))),
            },
            "circuits": draw(st.lists(circuits(), max_size=3)),
        }
    )


designs = circuits().map(lambda each: Circuit.model_validate(each["design"]))
