"""The changes a circuit takes, by what they change: each says what it sets, and beside it how that is done."""
