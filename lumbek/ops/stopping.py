"""Being told to stop: by Ctrl-C, by a terminal that hangs up, by the system. What was started is stopped in order."""

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType

_TOLD = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)
_AGAIN_S = 1.0


class StoppedError(KeyboardInterrupt):
    """Somebody wants this process to end. A keyboard interrupt, for an event loop lets no other through."""


@contextmanager
def stoppable() -> Iterator[None]:
    """Raise StoppedError inside when told to stop, and again each second until `ignore` says that it was heard.

    Python swallows what is raised in some places, such as the callbacks of weak references.
    """

    def told(_: int, __: FrameType | None) -> None:
        signal.setitimer(signal.ITIMER_REAL, _AGAIN_S)
        raise StoppedError

    before = {each: signal.signal(each, told) for each in (*_TOLD, signal.SIGALRM)}
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        for each, handler in before.items():
            signal.signal(each, handler)


def end_when_told() -> None:
    """Let each of these signals end this process at once again: it was forked from one that they only interrupt."""
    for each in (*_TOLD, signal.SIGALRM):
        signal.signal(each, signal.SIG_DFL)


def ignore() -> None:
    """Let what is being stopped finish stopping."""
    signal.setitimer(signal.ITIMER_REAL, 0)
    for each in (*_TOLD, signal.SIGALRM):
        signal.signal(each, signal.SIG_IGN)
