"""What is kept: gardens and their changes, in one SQLite file."""
