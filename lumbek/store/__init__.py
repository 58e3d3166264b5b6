"""What is kept, in PostgreSQL."""
