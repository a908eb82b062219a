"""Lines, rows and outlets, laid for zones; the ground they wet."""
