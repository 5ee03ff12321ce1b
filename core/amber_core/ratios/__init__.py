"""Final drive ratios: speeds, forces, mismatch, and the choice among them."""
