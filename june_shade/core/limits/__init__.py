"""What a plan has to keep to beside what trees want: orders of an authority or a client."""
