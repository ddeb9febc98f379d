"""From a prescribed line and a place to equivalent set-ups: variants, the index, the search, the one pipeline."""
