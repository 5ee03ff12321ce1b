"""Tyres: what a designation says, and what it does not."""
