"""Use cases: load, call the core, save; who may; what is remembered."""
