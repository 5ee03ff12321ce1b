"""Joints, angles, phasing, length and slip of a driveline."""
