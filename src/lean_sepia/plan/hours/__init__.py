"""Hours at the bench, and dates as people write them."""
