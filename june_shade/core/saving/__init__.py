"""What would save most: one thing changed at a tree, what it takes to do and what it brings."""
