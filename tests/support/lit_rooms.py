"""Lit rooms as they are built: a bath with its fan, a porch with a sensor, alarms, a yard, a kiln room."""

import random

from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import Control, Link, Output
from lumbek.core.switching.moves import with_ends
from lumbek.core.switching.quick import Layout
from tests.support.lighting import control, light, lit, switch, ways, wired


def bath() -> Circuit:
    """A light from its switch, and a fan with a run-on behind a fused unit and a three-pole isolator."""
    fan = Point(id="F", name="Fan", kind="fixed", loads=(Load(name="Motor", power_w=20), Load(power_w=0, line="S")))
    isolator = Point(id="I", name="Isolator", kind="switch", accessories=(Accessory(kind="isolator-3"),))
    fused = Point(id="U", name="Fuse", kind="fused-spur", fuse_a=3, accessories=(Accessory(kind="fused-unit"),))
    outputs = (Output(point="Z"), Output(point="F", line="S"))
    both = control("Bath", "Z", "H").model_copy(update={"outputs": outputs})
    always = control("Fan", "F").model_copy(update={"id": "fan"})
    routes = ways("U-H 1", "H-Z 3", "Z-I 2", "I-F 1")
    return wired(lit("U", [fused, switch("H"), light("Z"), isolator, fan], [both, always], routes))


def porch() -> Circuit:
    points = [switch("H"), switch("S"), light("Z")]
    return wired(lit("H", points, [control("Porch", "Z", "H", "S")], ways("H-S 3", "S-Z 1")))


def alarms() -> Circuit:
    circuit = lit("A", [light(each) for each in "ABC"], [control("Alarms", "A B C")], ways("A-B 4", "B-C 4"))
    link = Link(id="I", name="interlink", ends=tuple(Output(point=each, line="I") for each in "ABC"))
    assert circuit.scheme is not None
    return wired(circuit.model_copy(update={"scheme": circuit.scheme.model_copy(update={"links": (link,)})}))


def yard(which: Control) -> Circuit:
    """A yard light beyond a row of places for switches and sensors."""
    lights = [output.point for output in which.outputs]
    points = [*(switch(each) for each in "ABPQ"), *(light(each) for each in lights)]
    return lit("A", points, [which], ways("A-B 4", "B-P 3", "P-Q 5", "Q-Y 2", *(["Y-Z 2"] if "Z" in lights else [])))


YARDS = {
    "two sensors": control("Yard", "Y Z", sensor="P Q"),
    "a switch beside two sensors": control("Yard", "Y", "A", sensor="P Q"),
    "two-way beside a sensor": control("Yard", "Y", "A B", sensor="P"),
    "a switch before a sensor": control("Yard", "Y", "A", sensor="P", sensors_behind=True),
    "two-way before two sensors": control("Yard", "Y Z", "A B", sensor="P Q", sensors_behind=True),
}


def kiln_room(**more: object) -> Circuit:
    """Two lights, each from its own switch, one master before both and one switch that holds the first on.

    Board to M, M to A and B: line; from A and B to the lights; H holds Y on from the line behind the master.
    """

    def leg(name: str, a: str, b: str) -> dict[str, object]:
        return {"id": name, "a": a, "b": b, "segments": [{"length_m": 3.0}]}

    def join(terminals: str, *ends: str) -> dict[str, object]:
        cores = (end.split(":") for end in ends)
        return {"terminals": terminals.split(), "ends": [{"leg": leg, "core": core} for leg, core in cores]}

    def plate(name: str, *joins: dict[str, object]) -> dict[str, object]:
        return {"id": name, "kind": "switch", "accessories": [{"kind": "one-way"}], "joins": list(joins)}

    lights = [
        {"id": each, "kind": "light", "loads": [{"power_w": 10}], "joins": joins}
        for each, joins in (
            ("Y", [join("L", "L3:L", "L5:L"), join("N", "L3:N", "L5:N"), join("E", "L3:E", "L5:E")]),
            ("Z", [join("L", "L4:L"), join("N", "L4:N"), join("E", "L4:E")]),
        )
    ]
    points = [
        plate(
            "M",
            join("1.COM", "L1:L"),
            join("1.L1", "L2:L", "L6:L"),
            join("", "L1:N", "L2:N", "L6:N"),
            join("E", "L1:E", "L2:E", "L6:E"),
        ),
        plate(
            "A",
            join("1.COM", "L2:L", "L7:L"),
            join("1.L1", "L3:L"),
            join("", "L2:N", "L3:N", "L7:N"),
            join("E", "L2:E", "L3:E", "L7:E"),
        ),
        plate("B", join("1.COM", "L7:L"), join("1.L1", "L4:L"), join("", "L7:N", "L4:N"), join("E", "L4:E", "L7:E")),
        plate("H", join("1.COM", "L6:L"), join("1.L1", "L5:L"), join("", "L6:N", "L5:N"), join("E", "L5:E", "L6:E")),
        *lights,
    ]
    ends = ("board M", "M A", "A Y", "B Z", "H Y", "M H", "A B")
    master = {"point": "M", "gang": 1}
    controls = [
        control("First", "Y", "A", master=master, holds=[{"point": "H", "gang": 1}]).model_dump(),
        control("Second", "Z", "B", master=master).model_dump(),
    ]
    given = {
        "number": 3,
        "kind": "lighting",
        "cable": {"csa_mm2": 1.0, "cpc_by": "core"},
        "points": points,
        "legs": [leg(f"L{at}", *pair.split()) for at, pair in enumerate(ends, start=1)],
        "scheme": {"controls": controls},
    }
    return Circuit.model_validate({**given, **more})


def cores_moved(circuit: Circuit, pick: random.Random, count: int) -> tuple[Circuit, list[int]]:
    """The circuit with some core ends in other terminals of their boxes."""
    layout = Layout(circuit)
    at = list(layout.at)
    ends = pick.sample([end for end in range(len(at)) if layout.options(end)], count)
    for end in ends:
        at[end] = pick.choice(layout.options(end))
    return with_ends(circuit, layout, at, {}), ends
