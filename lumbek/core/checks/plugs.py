"""What hangs on one outlet against what its plug is made for."""

from lumbek.core.checks.overload import plug_current_a
from lumbek.core.circuit.standing import is_plain_socket
from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question("plugs", "Load on one outlet", "Does any appliance take more than its plug is made for?", "plug")


def check_plugs(study: Study) -> Check:
    """Each appliance no more than a plug takes, a twin outlet together no more than it is made for, in A (BS 1363).

    By nameplate power and voltage: 3 kW at 240 V is 12.5 A.
    """
    rules = study.rulebook.data.plug
    found = []
    for point in study.circuit.points:
        if not is_plain_socket(point) or not point.loads:
            continue
        each = [plug_current_a(study, load) for load in point.loads]
        found.append((max(each) / rules.most_a, max(each), rules.most_a, "one appliance", point))
        together = rules.twin_a if point.kind == "socket-twin" else rules.most_a
        found.append((sum(each) / together, sum(each), together, "all that is plugged in", point))
    if not found:
        return QUESTION.not_applicable(study, "No load stated at a socket")
    _, current, limit, what, point = max(found, key=lambda one: one[0])
    return QUESTION.held(
        study,
        current,
        limit,
        "at most",
        f"{{value}} A at {point.title}, {{limit}} A for {what}",
        unit="A",
        decimals=1,
        place=study.point_place(point.id),
        steps=(
            Step(
                text=f"By nameplate, at {plain(rules.nameplate_v)} V where a power is stated: {what}",
                sum=f"{plain(round(current, 2))} A",
            ),
        ),
    )
