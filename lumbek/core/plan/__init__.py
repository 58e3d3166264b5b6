"""A house by the tape: rooms, what stands in them, marks by rule, what conflicts, light, zones and alarms."""
