"""What comes in kinds is complete: a kind that is missing in one of its places is named here with the place.

`docs/contributing.md` lists for each what is to be added where.
"""

import ast
import json
import re
import unittest
from importlib.resources import files
from pathlib import Path
from typing import get_args

from lumbek.core.board.changes import CHANGES
from lumbek.core.board.commands import BoardCommand
from lumbek.core.checks import cpc
from lumbek.core.choices import choices
from lumbek.core.circuit.presets import POINT_NAMES
from lumbek.core.circuit.ready_points import READY
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.registry import KINDS as PAPERS
from lumbek.core.documents.registry import make_paper
from lumbek.core.missing import code_of
from lumbek.core.model.device import Standard
from lumbek.core.model.point import PASSIVE_KINDS, PointKind
from lumbek.core.model.reading import INSTALLATION, Quantity
from lumbek.core.places.changes import CHANGES as PLACES_CHANGES
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.testing.kinds import KINDS as READINGS
from lumbek.core.testing.stages import STAGES
from lumbek.exchange.job_file import read_job
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.paper_pdf import paper_html
from lumbek.exchange.typed_run import _TOGETHER, _WORDS
from lumbek.services.roles import _RIGHTS, WHO_MAY, Right, Role
from tests.support.houses import BS, IEC

ROOT = Path(cpc.__file__).resolve().parents[3]
WEB = ROOT / "web" / "src"
CONTRIBUTING = (ROOT / "docs" / "contributing.md").read_text(encoding="utf-8")


def page(name: str) -> str:
    return (WEB / name).read_text(encoding="utf-8")


class Complete(unittest.TestCase):
    def each_in(self, kinds: object, place: str, there: object) -> None:
        """Hold that every kind is in its place; the message names what is missing where."""
        missing = set(kinds) - set(there)
        self.assertEqual(missing, set(), f"missing in {place}")

    def test_kinds_of_point(self) -> None:
        kinds = get_args(PointKind)
        self.each_in(kinds, "POINT_NAMES of core/circuit/presets.py", POINT_NAMES)
        for book in (BS, IEC):
            self.each_in(kinds, "what the pages are offered", {each.id for each in choices(book, ()).point_kinds})
        drawn = set(re.findall(r'case "([a-z-]+)":', page("drawing/symbols.tsx")))
        # What is fixed is drawn as the plain box that everything else is.
        self.each_in(set(kinds) - {"fixed", "unknown-end"}, "web/src/drawing/symbols.tsx", drawn)
        self.each_in(set(kinds) - {"unknown-end"}, "the words of a typed run", (*_WORDS.values(), *_TOGETHER.values()))
        self.each_in(PASSIVE_KINDS, "the kinds themselves", kinds)
        self.each_in({each.kind for each in READY.values()}, "the kinds themselves", kinds)

    def test_standards_of_devices(self) -> None:
        for book in (BS, IEC):
            self.each_in(book.devices, "Standard of core/model/device.py", get_args(Standard))
        both = {*BS.devices, *IEC.devices}
        self.each_in(get_args(Standard), "devices.json, in one rulebook at least", both)
        for book in (BS, IEC):
            self.each_in(book.devices, "what the pages are offered", {each.id for each in choices(book, ()).devices})

    def test_quantities_of_readings(self) -> None:
        quantities = set(get_args(Quantity))
        of_circuits = quantities - set(INSTALLATION) - {"trace"}
        self.each_in(of_circuits, "KINDS of core/testing/kinds", READINGS)
        asked = {each for stage in STAGES for each in (*stage.quantities, *stage.beside)}
        self.each_in(of_circuits - {"live-reason"}, "core/testing/stages.py", asked)
        self.each_in(asked, "Quantity of core/model/reading.py", quantities)

    def test_clauses(self) -> None:
        """Every clause that a check names is in both rulebooks, and every clause there is named."""
        code = "\n".join(each.read_text(encoding="utf-8") for each in (ROOT / "lumbek" / "core").rglob("*.py"))
        words = set(re.findall(r'"([a-z0-9-]+)"', code))
        for book in (BS, IEC):
            self.each_in(book.data.clauses, f"any check: a clause of {book.id} that nobody asks for", words)
        for name in ("bs7671", "iec60364"):
            rules = files("lumbek.core.rulebooks") / "data" / name / "rules.json"
            raw = json.loads(rules.read_text(encoding="utf-8"))
            self.each_in(BS.data.clauses, f"clauses of {name}", raw["clauses"])

    def test_checks_stand_in_the_judgement(self) -> None:
        judged = (ROOT / "lumbek" / "core" / "judging" / "judgement.py").read_text(encoding="utf-8")
        for file in (ROOT / "lumbek" / "core" / "checks").glob("*.py"):
            tree = ast.parse(file.read_text(encoding="utf-8"))
            functions = [node.name for node in tree.body if isinstance(node, ast.FunctionDef)]
            names = [name for name in functions if name.startswith("check_")]
            self.each_in(names, f"core/judging/judgement.py, of {file.name}", re.findall(r"\bcheck_\w+", judged))

    def test_roles_and_rights(self) -> None:
        self.each_in(Role, "_RIGHTS of services/roles.py", _RIGHTS)
        self.each_in(Right, "WHO_MAY of services/roles.py", WHO_MAY)
        named = re.findall(r'role: "([a-z]+)"', page("people/roles.ts"))
        self.each_in(set(Role) - {Role.READER}, "web/src/people/roles.ts", named)
        walked = (ROOT / "tests" / "api" / "test_access.py").read_text(encoding="utf-8")
        self.each_in(Role, "the walk of tests/api/test_access.py", re.findall(r'"([a-z]+)"', walked))

    def test_stages(self) -> None:
        stages = re.findall(r'\["([a-z]+)", "[A-Z]', page("jobs/JobPage.tsx"))
        routes = re.findall(r'\["([a-z-]+)[/":?\w]*, \w+Page\]', page("main.tsx"))
        self.each_in(stages, "STAGES of web/src/main.tsx", routes)
        gist = (ROOT / "lumbek" / "services" / "gist.py").read_text(encoding="utf-8")
        self.each_in(re.findall(r'stage="([a-z]+)"', gist), "the stages of web/src/jobs/JobPage.tsx", stages)
        accessible = (ROOT / "tests" / "browser" / "test_accessible.py").read_text(encoding="utf-8")
        self.each_in(stages, "the walk of tests/browser/test_accessible.py", re.findall(r'"([a-z]+)": "', accessible))

    def test_documents(self) -> None:
        folder = files("lumbek.services") / "demo_data"
        jobs = [read_job((folder / f"{name}.json").read_bytes()) for name in ("signal_box", "signal_box_found")]
        light = next(each.key for each in jobs[0].circuits if each.design.kind == "lighting")
        issuing = (ROOT / "tests" / "api" / "test_issuing.py").read_text(encoding="utf-8")
        for kind in PAPERS:
            whole = [make_paper(kind, gather(job)) for job in jobs] if kind.of == "job" else []
            papers = whole or [make_paper(kind, gather(jobs[0], light))]
            self.assertEqual({paper.kind for paper in papers}, {kind.id})
            self.assertIn(papers[0].title, paper_html(papers[0]))
            self.assertIn(f"/papers/{kind.id}.pdf", issuing, "missing among the kinds by role of test_issuing.py")
            if "csv" in kind.forms:
                self.assertGreater(max(paper_csv(paper).count("\r\n") for paper in papers), 2, kind.id)

    def test_commands_of_the_boards(self) -> None:
        besides = {"NumberCircuit", "NumberByWay"}
        named = {each.__name__ for each in get_args(BoardCommand)} - besides
        self.each_in(named, "CHANGES of core/board/changes.py", {each.__name__ for each in CHANGES})

    def test_commands_of_the_rooms(self) -> None:
        named = {each.__name__ for each in get_args(get_args(PlacesCommand)[0])}
        self.each_in(named, "CHANGES of core/places/changes.py", {each.__name__ for each in PLACES_CHANGES})

    def test_kinds_of_fault_have_words(self) -> None:
        self.assertTrue(NO_FAULT)
        self.assertEqual(code_of("main fuse of the supply"), "main-fuse")

    def test_no_two_classes_have_one_name(self) -> None:
        named: dict[str, list[str]] = {}
        for file in (ROOT / "lumbek").rglob("*.py"):
            for node in ast.parse(file.read_text(encoding="utf-8")).body:
                if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                    named.setdefault(node.name, []).append(file.name)
        self.assertEqual({name: where for name, where in named.items() if len(where) > 1}, {})

    def test_each_is_in_the_guide_with_its_files(self) -> None:
        for what in (
            "a check",
            "a kind of point",
            "a device standard",
            "a kind of reading",
            "a clause",
            "a role",
            "a stage",
            "a document",
        ):
            self.assertIn(f"- **{what}**:", CONTRIBUTING, "missing in docs/contributing.md")
