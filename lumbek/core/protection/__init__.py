"""What protects: the device that clears a fault, the greatest Zs it allows, what it lets through, who trips first."""
