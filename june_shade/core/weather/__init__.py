"""Weather: reference evapotranspiration, gaps, leaves and snow."""
