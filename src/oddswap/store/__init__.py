"""Clients, places, programs and accepted swaps in SQLite; the only package that knows SQL."""
