"""Stand-ins for what is not at hand: processes of their own, spoken to over their own protocols."""
