"""The conductor network: every core of every leg a resistance, and the one solver over it."""
