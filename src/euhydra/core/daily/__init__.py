"""One year of a garden by its days: how it stands on each, what ran, and what there is to say."""
