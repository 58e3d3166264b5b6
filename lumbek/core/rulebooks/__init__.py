"""Rulebooks: data packs behind one interface."""

from lumbek.core.rulebooks.pack import Rulebook, UnknownEditionError, load_rulebook, rulebook_of

__all__ = ["Rulebook", "UnknownEditionError", "load_rulebook", "rulebook_of"]
