"""Programs as coaches write them."""
