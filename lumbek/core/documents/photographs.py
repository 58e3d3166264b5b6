"""Photographs of findings, set at the end of the papers that tell of them."""

from collections.abc import Iterable

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.inspected import where_of
from lumbek.core.documents.paper import Photo, Photos, Section, Words
from lumbek.core.inspection.standing import StandingFinding

# So many are set into a paper; the rest stay with the job, and the paper says so.
_MOST = 24
_SEEN = 80


def photographs(gathered: Gathered, findings: Iterable[StandingFinding]) -> tuple[Section, ...]:
    """Return a section of the photographs of some findings, each with what it shows; none where there are none."""
    by_id = {each.said.finding: each.said for each in findings if each.said.status != "outside"}
    mine = [each for each in gathered.photos if each.finding in by_id]
    if not mine:
        return ()
    shown = tuple(
        Photo(
            id=each.id,
            caption=f"{where_of(gathered, by_id[each.finding].spot)}: {by_id[each.finding].seen[:_SEEN]}",
            taken=f"{each.by}, {each.on}",
        )
        for each in mine[:_MOST]
    )
    more = len(mine) - len(shown)
    rest = (Words(lines=(f"{more} more are kept with the job, and can be asked for.",)),) if more else ()
    return (Section(title="Photographs", blocks=(Photos(photos=shown), *rest)),)
