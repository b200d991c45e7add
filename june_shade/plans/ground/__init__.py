"""The ground plan of a site: what is drawn, what people place, what comes in and goes out as GeoJSON."""
