"""The page of Wear on which a zone is planned."""
