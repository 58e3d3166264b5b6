"""Verification: what is tested in what order, what the tester should read, and what a reading means."""
