"""Where things are: the storeys and rooms of a house, and the commands that change them."""
