"""The boards of a house: what is ahead of a circuit, what it shares, and what goes dark with it."""
