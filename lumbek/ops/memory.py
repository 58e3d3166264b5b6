"""Memory: what is soon used again is kept, what a large job took is given back to the machine.

What Python frees, the C library keeps for later, but for large blocks: those it asks the machine for each time, and
fills anew page by page. A process that once worked on a house of a thousand circuits would hold what that took for as
long as it runs.
"""

import ctypes
import gc
import threading

# Greater than any table that a proposal is worked out from, in bytes.
_LARGE = 2**27
# What glibc's malloc.h calls them.
_M_TRIM_THRESHOLD, _M_MMAP_THRESHOLD = -1, -3
# How often a process gives back what it does not use.
EVERY_S = 30.0


def keep_tables() -> bool:
    """Let one table be made where the last one was; whether the C library can (glibc's mallopt).

    For this process and what is forked from it. Asking for memory took a tenth of the time of finding faults, and more.
    """
    choose = getattr(ctypes.CDLL(None), "mallopt", None)
    return choose is not None and all(choose(what, _LARGE) for what in (_M_MMAP_THRESHOLD, _M_TRIM_THRESHOLD))


def give_back() -> bool:
    """Give back what is not used; whether there was anything, where the C library can (glibc's malloc_trim)."""
    gc.collect()
    trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
    return bool(trim is not None and trim(0))


def keep_giving_back(every_s: float = EVERY_S) -> threading.Event:
    """Do so now and then, beside everything else, until what is returned is set."""
    over = threading.Event()

    def work() -> None:
        while not over.wait(every_s):
            give_back()

    threading.Thread(target=work, name="memory", daemon=True).start()
    return over
