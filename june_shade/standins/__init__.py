"""Stand-ins: small servers that answer the Protocols of `outside`, shipped with the program, used by the demo."""
