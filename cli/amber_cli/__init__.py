"""What ./amber runs."""
