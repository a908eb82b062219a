"""What plants drink, and what their ground holds."""
