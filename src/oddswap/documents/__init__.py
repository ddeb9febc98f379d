"""Documents that go in and out, and faults in words."""
