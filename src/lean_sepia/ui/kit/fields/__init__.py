"""What is filled in: numbers and choices, in the program's own dress."""
