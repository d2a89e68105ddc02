"""What Glaze asks: filters, washes, oil dots."""
