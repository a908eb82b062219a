"""What a gardener's readings teach of the garden, against the tables, with ranges."""
