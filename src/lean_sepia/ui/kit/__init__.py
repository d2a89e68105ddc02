"""What every room is made of: panels, theme, swatches, plots, forms."""
