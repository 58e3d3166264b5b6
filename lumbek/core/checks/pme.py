"""May the earth of a PME supply be taken outdoors to this circuit?"""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

QUESTION = Question(
    "pme",
    "PME earth outdoors",
    "What if the supply loses its neutral while someone outdoors touches this circuit?",
    "pme",
)


# What is answered, and what is to be thought of.
_GUARDED = ("Cut off at a lost neutral", "")
_TAKEN_OUT = (
    "PME earth taken outdoors",
    "Think before taking PME outdoors: an electrode of its own behind 30 mA is the other way.",
)


def check_pme(study: Study) -> Check:
    """Charging equipment on PME cuts off at a lost neutral or has its own electrode (722.411.4.1)."""
    outdoors = "vehicle" if study.standing.chargers else study.rulebook.kinds[study.circuit.kind].outdoors
    if outdoors is None:
        return QUESTION.not_applicable(study, "Nothing outdoors")
    if not study.rulebook.data.pme.guard_outdoors:
        return QUESTION.not_applicable(study, "No rule")
    if study.ahead.earthing is None:
        return QUESTION.cannot_tell(study, ("earthing system of the supply",))
    if study.ahead.earthing != "TN-C-S":
        return QUESTION.not_applicable(study, f"{study.ahead.earthing}: no neutral in the earth")
    guarded = study.circuit.surroundings.lost_neutral_guard
    if outdoors == "vehicle" and not guarded:
        missing = ("guard against a lost neutral: in the charging equipment, or an electrode of its own",)
        return QUESTION.cannot_tell(study, missing)
    answer, caution = _GUARDED if guarded else _TAKEN_OUT
    step = Step(text="The supply's earth is its neutral (TN-C-S): broken, it lifts all earthed metal to line")
    return QUESTION.check(study, Verdict.PASS, answer, place=study.whole, steps=(step,), caution=caution)
