"""Words and rules over computed results: explanations, cautions, restrictions, remedies, calculators, the movement library."""
