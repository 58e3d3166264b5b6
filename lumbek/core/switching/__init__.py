"""What switches what: the least cable and every termination, a proof over all states, and what is wrong as found."""
