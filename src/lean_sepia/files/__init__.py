"""Everything that comes in from files or goes out to them."""
