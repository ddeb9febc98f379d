"""Measuring what nobody prints: instruments behind one small protocol, and the guided runs that turn readings into figures."""
