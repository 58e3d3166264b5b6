"""The survey of the supply: what each finding decides."""
