"""What a client's records say over time."""
