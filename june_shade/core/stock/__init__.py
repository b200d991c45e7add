"""Stock: balls, containers, crowns and the plants in them."""
