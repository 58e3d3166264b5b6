"""What is asked of lighting in every state of its switches; one file a question."""
