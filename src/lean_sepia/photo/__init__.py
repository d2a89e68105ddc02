"""Evidence: reading pictures, taking the cast out, sampling areas with an honest range."""
