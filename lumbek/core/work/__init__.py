"""The work on site: steps in their order, what comes to each box, days, and how far it has come."""
