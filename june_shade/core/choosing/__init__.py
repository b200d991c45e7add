"""From what trees want to what a crew can do: patterns of visits, and the choice among them."""
