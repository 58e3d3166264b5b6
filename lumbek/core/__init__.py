"""The pure core: rulebooks, circuits, the conductor network, every check. No web, database or clock."""
