"""Lumbek: design and verification of domestic final circuits."""

__version__ = "0.1.0"
