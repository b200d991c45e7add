"""Use cases: load, call the core, save. Each owns its transaction and knows neither HTTP nor SQL text."""
