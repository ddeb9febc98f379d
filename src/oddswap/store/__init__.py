"""Clients, places, programs and taken swaps in SQLite; the only package that knows SQL."""
