"""Documents as data: the schedule, the calculation sheet, and whether they are a draft."""
