"""Finding a design rather than judging one: sizes, repairs, protection, reach. Everything proposed is computed."""
