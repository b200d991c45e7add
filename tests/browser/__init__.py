"""The real interface in headless Chromium, over a real server and a real database."""
