"""What would save most, over the whole contract: tried by the balance, ranked, made into tasks."""
