"""Odd Swap: equivalent set-ups for prescribed exercises on the kit a client has."""

__version__ = "0.1.0"
