"""What a row of the table of kinds may say."""
