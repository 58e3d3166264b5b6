"""A house as it was built, what went wrong in it, and the instruments it is read with: nothing shared with the core."""
