"""What goes over the wire, one file a noun. SI units; each name ends in its unit."""
