"""The HTTP interface. Routers are thin; OpenAPI is the contract."""

import gc

# What is loaded stays for good, and much is kept: going through it for the little rubbish there is would take a seventh
# of the time to start, and hold everybody up for a moment later on.
gc.set_threshold(20_000, 50, 100)
