"""Services outside: each a small Protocol and an HTTP client for it."""
