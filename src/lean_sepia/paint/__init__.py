"""Matter: Kubelka–Munk paints, mixtures, films over an undercoat, surface gloss."""
