"""What work is made of and what it costs."""
