"""The checks of a final circuit, a file each."""
