"""The dated line: photos at their dates, and the liveries of those years."""
