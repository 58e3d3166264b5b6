"""The tests."""

import os

from hypothesis import HealthCheck, settings

# Where a change is let through or not, the same examples are tried each time; at the desk new ones are. No example
# is timed, nor what it takes to make one: how fast things are is for the bench, not for a busy machine to decide.
settings.register_profile(
    "here",
    deadline=None,
    derandomize=bool(os.environ.get("CI")),
    suppress_health_check=(HealthCheck.too_slow,),
)
settings.load_profile("here")
