"""What is wrong in a garden, from what is seen and what is measured."""
