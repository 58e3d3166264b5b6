"""The simulated tester in its own process, spoken to over its protocol."""

import json
import subprocess
import sys
import unittest
from contextlib import contextmanager

from websockets.exceptions import ConnectionClosed
from websockets.sync.client import connect

from lumbek.ops.cluster import free_port
from tests.support.stack import ROOT

CIRCUIT = {
    "name": "ring",
    "ring": ["L1", "L3"],
    "points": ["p1", "p2"],
    "legs": [
        {"id": f"L{at}", "a": a, "b": b, "length_m": 10, "line_mm2": 2.5, "cpc_mm2": 1.5}
        for at, (a, b) in enumerate((("board", "p1"), ("p1", "p2"), ("p2", "board")), start=1)
    ],
    "ze_ohm": 0.2,
}
ENDS = {
    "function": "ohms",
    "probes": [["L1", "L", "board"], ["L3", "L", "board"]],
    "out": [[leg, core, "board"] for leg in ("L1", "L3") for core in "LNE"],
}


@contextmanager
def tester(*arguments: str):
    port = free_port()
    command = [sys.executable, "-m", "lumbek.standins.tester", "--port", str(port), *arguments]
    process = subprocess.Popen(command, cwd=ROOT, stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout is not None
        process.stdout.readline()
        with connect(f"ws://127.0.0.1:{port}") as socket:

            def ask(**message: object) -> dict:
                socket.send(json.dumps(message))
                return json.loads(socket.recv(timeout=60))

            ask.socket = socket  # type: ignore[attr-defined]
            yield ask
    finally:
        process.terminate()
        assert process.wait(timeout=60) == 0
        process.stdout.close()


class Tester(unittest.TestCase):
    def test_it_says_what_it_is_and_measures_what_is_there(self) -> None:
        with tester("--seed", "3") as ask:
            hello = ask(say="hello", id="1")
            self.assertEqual((hello["protocol"], hello["simulated"], hello["id"]), (1, True, "1"))
            self.assertIn("not hooked up", ask(say="take", how=ENDS)["why"])
            self.assertEqual(ask(say="hook-up", circuit=CIRCUIT)["points"], 2)
            raw = ask(say="take", how=ENDS)["value"]
            ask(say="null-leads")
            value = ask(say="take", how=ENDS)
            self.assertAlmostEqual(value["value"], 30 * 0.00741, delta=0.06)
            self.assertGreater(raw, value["value"] - 0.02)
            self.assertLess(value["battery"], 1.0)
            loop = {
                "function": "loop",
                "probes": [["board", "L"], ["board", "E"]],
                "links": [[["p1", "L"], ["p1", "E"]]],
            }
            self.assertAlmostEqual(ask(say="take", how=loop)["value"], 0.2 + 0.13, delta=0.12)
            self.assertLess(ask(say="take", how={"function": "rcd"})["value"], 40)
            high = {"function": "insulation", "probes": [["board", "L"], ["board", "E"]]}
            self.assertGreater(ask(say="take", how=high)["value"], 50)

    def test_a_mishap_is_in_what_it_reads(self) -> None:
        with tester("--seed", "3", "--mishap", "rings mixed up") as ask:
            ask(say="hook-up", circuit=CIRCUIT)
            value = ask(say="take", how=ENDS)
            self.assertEqual((value["beyond"], value["value"]), (True, 1999.0))

    def test_it_streams_until_told_to_stop(self) -> None:
        with tester() as ask:
            ask(say="hook-up", circuit=CIRCUIT)
            first = ask(say="stream", how=ENDS, every_s=0.1, id="s")
            second = json.loads(ask.socket.recv(timeout=60))
            self.assertEqual(
                [(each["says"], each["streaming"], each["id"]) for each in (first, second)], [("value", True, "s")] * 2
            )
            self.assertEqual(ask(say="stop")["says"] in ("stopped", "value"), True)

    def test_a_low_battery_and_nonsense_are_refused_in_words(self) -> None:
        with tester("--battery", "0.04") as ask:
            ask(say="hook-up", circuit=CIRCUIT)
            self.assertIn("battery", ask(say="take", how=ENDS)["why"])
        with tester() as ask:
            for message in ({"say": "dance"}, {"say": "hook-up", "circuit": {"legs": 3}}, {}):
                self.assertEqual(ask(**message)["says"], "error", message)
            ask(say="hook-up", circuit=CIRCUIT)
            for how in ({"function": "ohms"}, {"function": "ohms", "probes": [["L1"], 3]}, {"function": "weigh"}):
                self.assertEqual(ask(say="take", how=how)["says"], "error", how)
            ask.socket.send("{")
            self.assertEqual(json.loads(ask.socket.recv())["says"], "error")
            ask.socket.send("x" * 3_000_000)
            with self.assertRaises(ConnectionClosed):
                ask.socket.recv(timeout=60)
