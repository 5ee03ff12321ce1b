"""A set-up bench as it stands, and every verdict on it at once."""
