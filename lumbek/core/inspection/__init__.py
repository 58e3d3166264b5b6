"""What an inspector records of something that exists: the usual code of a departure, and what it turns on."""
