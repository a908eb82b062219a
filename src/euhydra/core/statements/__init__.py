"""What can show how it came about: figures, phrases, findings."""
