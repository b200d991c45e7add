"""What the record of trees adds up to."""
