"""The installation as it is described: job, supply, circuits, readings."""
