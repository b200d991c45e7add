"""What is seen and felt at trees: what readings say of their thirst, check-ups and what comes of them."""
