"""Being told to stop, where Python would rather not hear it."""

import asyncio
import signal
import time
import unittest
import unittest.mock

from lumbek.ops.stopping import StoppedError, ignore, stoppable


class Stopping(unittest.TestCase):
    def test_each_way_of_telling_stops(self) -> None:
        for told in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            before = signal.getsignal(told)
            with self.assertRaises(StoppedError), stoppable():
                signal.raise_signal(told)
            self.assertIs(signal.getsignal(told), before)

    def test_an_event_loop_does_not_keep_it_to_itself(self) -> None:
        async def serve() -> None:
            asyncio.get_running_loop().call_soon(signal.raise_signal, signal.SIGHUP)
            await asyncio.sleep(20)

        with self.assertRaises(StoppedError), stoppable():
            asyncio.run(serve())

    def test_what_is_swallowed_is_said_again(self) -> None:
        class Careless:
            def __del__(self) -> None:
                signal.raise_signal(signal.SIGTERM)

        with self.assertRaises(StoppedError), stoppable(), unittest.mock.patch("sys.unraisablehook"):
            Careless()
            time.sleep(20)

    def test_what_is_being_stopped_is_left_to_finish(self) -> None:
        with stoppable():
            with self.assertRaises(StoppedError):
                signal.raise_signal(signal.SIGTERM)
            ignore()
            signal.raise_signal(signal.SIGHUP)
            time.sleep(1.2)
