"""The practice house: exercises made from a seed, judged by the core, on houses of the simulator."""
