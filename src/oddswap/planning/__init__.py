"""What follows from records over time: trends, and later schedules and weeks."""
