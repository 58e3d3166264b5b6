"""What each segment carries, what the circuit is asked to carry, and how warm that makes it."""
