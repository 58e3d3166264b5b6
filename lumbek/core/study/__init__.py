"""One circuit in its job, lengths settled: the one way to a figure."""
