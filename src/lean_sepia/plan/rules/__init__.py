"""What one step does to the others: rules as data, each with the function that finds its cases."""
