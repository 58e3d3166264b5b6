"""What readings prove of a circuit whose lengths nobody has drawn: bounds at each place, or that no cable explains."""
