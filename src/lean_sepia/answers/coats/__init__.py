"""What is asked of single coats: how one is laid by hand, whether it shows, and what it is mixed of."""
