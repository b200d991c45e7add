"""Water: the ball-and-ring balance, how much, when and how long."""
