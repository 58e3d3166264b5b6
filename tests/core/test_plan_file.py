"""A plan as a table: out and in again it is the same plan; tables of what a tape says; what is no plan is refused."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.model.places import Places
from lumbek.core.model.plan import LampSaid, WallFace
from lumbek.core.model.routes import RouteRules, RouteWeights
from lumbek.core.places.commands import AddStorey
from lumbek.core.plan.commands import AgreeHeight, PutLamps, PutWays, TickMark, TypeLine
from lumbek.exchange.job_file import read_job
from lumbek.exchange.plan_csv import PlanFileError, read_plan, write_plan
from tests.support.plans import after, plan
from tests.support.stack import ROOT

LINES = (
    "door 838 s left 100 hinge left",
    "window 1200 n left 1500 sill 900",
    "bed 1500 w middle",
    "units 600 600 450 n left 0",
    "shower 900 e left 0 no tray",
    "radiator 900 e right 100",
    "socket both sides of bed",
    "switch beside door",
    "2 sockets spread e",
    "light ceiling w 1.20 s 0.90",
    "6 spots grid 3x2 400lm 36deg cut 70 clear",
    "joists n pitch 400 wide 47 first 120",
    "wall n stud depth 60 tiled",
    "ceiling 2.45 lath void 200 insulated",
    "pipe e 1.20 wide 22",
    "socket above bed at 1200 single ip44 existing",
)


def read(text: str, places: Places | None = None) -> Places:
    """Places after a file is taken in."""
    places = places or Places()
    return after(places, *read_plan(text, places))


class Plans(unittest.TestCase):
    @settings(max_examples=25)
    @given(st.lists(st.sampled_from(LINES), unique=True, max_size=8))
    def test_out_and_in_again_is_the_same_plan(self, lines: list[str]) -> None:
        ordered = [each for each in LINES if each in lines or each.startswith(("bed", "door", "units"))]
        places = plan({"Bedroom 4.20 x 3.60": ordered, "Hall 2 x 1.80": ["socket n left 0.50"]})
        places = after(places, AddStorey(name="Ground, =1"), TypeLine(room="bedroom", typed="wall s against Hall n"))
        places = after(places, PutLamps(lamps=(LampSaid(name="Low", lumens=400, beam_deg=36),)))
        rules = RouteRules(weights=RouteWeights(bend=400), barred=(WallFace(room="hall", wall="w1"),), closed=("hall",))
        places = after(places, PutWays(ways=rules))
        self.assertEqual(read(write_plan(places)), places)

    def test_ticks_and_what_was_agreed_too(self) -> None:
        places = plan({"Hall 2 x 1.80": ["socket n left 0.50 at 200"]})
        moved = TickMark.model_validate({"mark": "socket-1", "moved": {"right_mm": -40}, "why": "a pipe; 22 mm"})
        agreed = AgreeHeight.model_validate(
            {"mark": "socket-1", "agreed": {"by": "the householder", "on": "2026-11-30"}}
        )
        places = after(places, moved, agreed)
        self.assertEqual(read(write_plan(places)), places)

    def test_the_demo_houses(self) -> None:
        for name in ("signal_box", "boathouse"):
            path = ROOT / "lumbek" / "services" / "demo_data" / f"{name}.json"
            places = read_job(path.read_bytes()).places
            self.assertEqual(read(write_plan(places)), places, name)

    def test_a_table_of_what_the_tape_says(self) -> None:
        text = "storey;room;typed\nDown;;Hall 3.60 x 1.80\n;;Bedroom 4.20 x 3.60 h 2.40\n;bedroom;bed 1500 w middle\n"
        places = read(text, after(Places(), AddStorey(name="Down")))
        self.assertEqual([(room.name, room.storey) for room in places.rooms], [("Hall", "down"), ("Bedroom", None)])
        outline = places.rooms[1].outline
        assert outline is not None
        self.assertEqual(outline.things[0].width_mm, 1500)

    def test_a_room_whose_name_ends_in_a_figure_is_found_by_it(self) -> None:
        places = read("room,typed\n,Bedroom 2 4.20 x 3.60\nBedroom 2,bed 1500 w middle\n")
        self.assertEqual([room.name for room in places.rooms], ["Bedroom 2"])
        assert places.rooms[0].outline is not None
        self.assertEqual(places.rooms[0].outline.things[0].id, "bed")

    def test_rooms_of_the_same_ids_are_replaced_and_others_stay(self) -> None:
        mine = plan({"Hall 3 x 2": [], "Loft 2 x 2": []})
        theirs = plan({"Hall 4 x 2": ["socket n middle"]})
        both = read(write_plan(theirs), mine)
        self.assertEqual([room.outline and room.outline.walls[1].length_mm for room in both.rooms], [4000, 2000])
        self.assertEqual(len(both.marks), 1)

    def test_a_table_of_lamps(self) -> None:
        places = read("name,lumens,beam_deg,cut_out_mm,is_fire_rated\nLow glare,450,38,68,true\nWide,800,60,75,\n")
        self.assertEqual([(each.name, each.lumens) for each in places.lamps], [("Low glare", 450), ("Wide", 800)])
        self.assertEqual([each.is_fire_rated for each in places.lamps], [True, None])

    def test_a_typed_room_goes_to_its_storey_by_name_or_id(self) -> None:
        row = "what,id,name,storey,typed\nstorey,ground,Ground floor,,\n"
        places = read(row)
        for said in ("Ground floor", "ground"):
            more = after(places, *read_plan(f"storey,typed\n{said},Cellar 3.60 x 2.00 h 2.40\n", places))
            self.assertEqual([each.storey for each in more.rooms], ["ground"])

    def test_what_is_no_plan_is_told_with_its_line(self) -> None:
        for text, why in (
            ("", "names the columns"),
            ("a,b\n1,2\n", "names the columns"),
            ("room,typed\n,Cellar 3.60\n", "Line 2: A room is typed as"),
            ("storey,typed\nloft,Cellar 3.60 x 2.00 h 2.40\n", "Line 2: no storey is called 'loft'"),
            ("room,typed\nCellar,bed 1500 w middle\n", "Line 2: no room is called 'Cellar'"),
            ("what,id,name\nroom,hall,Hall\nspoon,x,y\n", "Line 3: 'spoon'"),
            ("what,room,id,heading,length_mm\nwalls,hall,w1,0,3000\n", "Line 2: its room comes"),
            ("what,id,name,room,kind\nmarks,m1,,hall,unicorn\n", "Line 2: .*kind"),
            ("what,id,name,outline.height_mm\nroom,hall,Hall,2400\n", "walls"),
        ):
            with self.assertRaisesRegex(PlanFileError, why, msg=text):
                read(text)


if __name__ == "__main__":
    unittest.main()
