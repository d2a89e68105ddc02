"""What leaves: paper and files, one row each in the table of exports."""
