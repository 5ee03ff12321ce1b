"""What turns how fast, what is felt or recorded, and which part makes it."""
