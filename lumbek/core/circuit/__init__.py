"""The circuit as a graph: who is joined to whom, what shape that makes, and how it may be changed."""
