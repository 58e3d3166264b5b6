"""Being told to stop: by Ctrl-C, by a terminal that hangs up, by the system. What was started is stopped in order."""

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType

_TOLD = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


class StoppedError(BaseException):
    """Somebody wants this process to end."""


@contextmanager
def stoppable() -> Iterator[None]:
    """Raise StoppedError inside when told to stop, once; what is done about it afterwards is not interrupted."""

    def told(_: int, __: FrameType | None) -> None:
        ignore()
        raise StoppedError

    before = {each: signal.signal(each, told) for each in _TOLD}
    try:
        yield
    finally:
        for each, handler in before.items():
            signal.signal(each, handler)


def ignore() -> None:
    """Let what is being stopped finish stopping."""
    for each in _TOLD:
        signal.signal(each, signal.SIG_IGN)
