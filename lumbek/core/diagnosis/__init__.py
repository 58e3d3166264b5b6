"""Finding faults: what the readings leave under suspicion, and the next measurement that tells most."""
