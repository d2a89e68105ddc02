"""What Tone asks: fades, ageing, light and shade, panels."""
