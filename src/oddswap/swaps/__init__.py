"""From a prescribed line and a place to ranked, loaded and explained equivalents."""
