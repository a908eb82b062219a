"""Weather: radiation, reference evapotranspiration, and the seeded daily generator."""
