"""Who may come in, what they may do, and what they did to settings."""
