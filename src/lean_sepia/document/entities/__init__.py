"""What the document is made of, besides photos, zones and coats."""
