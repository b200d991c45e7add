"""The ground plan of a site: where everything lies, in metres east and north of the site's own place."""
