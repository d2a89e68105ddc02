"""From the coats of a document to the colours they give: one mechanism for strata, rooms and what would bring a finish nearer."""
