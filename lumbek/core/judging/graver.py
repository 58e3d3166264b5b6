"""Words by which an answer is another matter than usual: a check says them, the code of a departure hears them."""

# Of a fault loop: it is broken, or longer than known cable makes it.
OPEN_LOOP = "Open: "
UNEXPLAINED = "no cable that is known explains it"
# Of a board: live parts can be touched.
FINGER = "a finger reaches live parts"
