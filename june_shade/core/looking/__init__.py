"""What is seen and felt at a tree, and what it means: readings, learning from them, the check-up."""
