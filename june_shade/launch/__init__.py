"""What `./june` runs once its environment stands: a private database cluster, the servers, tests and pictures."""
