"""What can be read off a document: frozen questions and frozen answers for rooms, command line and card."""
