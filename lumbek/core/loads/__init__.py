"""What a circuit is asked to carry."""
