"""The report of verification to IEC 60364-6: initial of new work, periodic of what exists."""

from lumbek.core.documents.certificate import certificate
from lumbek.core.documents.condition import condition_report
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import Paper


def verification_paper(gathered: Gathered) -> Paper:
    """Return the report: extent, inspection and each test with its result, defects, the next date; signed."""
    if gathered.job.extent.state == "new" and all(each.design.state == "new" for each in gathered.job.circuits):
        return certificate(gathered, "verification", "Report of initial verification", ("constructor", "inspector"))
    return condition_report(gathered, "verification", "Report of periodic verification")
