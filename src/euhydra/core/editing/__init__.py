"""What changes a garden: every edit gives a whole new one."""
