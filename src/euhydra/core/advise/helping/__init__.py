"""What would help most: changes that can be made, what each is worth, the sets that serve best."""
