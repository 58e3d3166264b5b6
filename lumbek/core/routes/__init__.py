"""The ways that cable takes through a house: a graph of the lines where it may lie, and the least-cost way on it."""
