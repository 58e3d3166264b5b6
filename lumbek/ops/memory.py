"""Memory that a large job took is given back to the machine.

What Python frees, the C library keeps for later: a process that once worked on a house of a thousand circuits would
hold what that took for as long as it runs.
"""

import ctypes
import gc
import threading

# How often a process gives back what it does not use.
EVERY_S = 30.0


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
