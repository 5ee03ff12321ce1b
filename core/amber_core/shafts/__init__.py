"""Tubes of propshafts: bending speed, mass, torque."""
