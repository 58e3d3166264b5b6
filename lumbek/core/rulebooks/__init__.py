"""Rulebooks: data packs behind one interface."""

from lumbek.core.rulebooks.pack import Rulebook, load_rulebook

__all__ = ["Rulebook", "load_rulebook"]
