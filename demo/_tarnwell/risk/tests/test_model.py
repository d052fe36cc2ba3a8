import unittest

from risk import Aspect, Level, RiskModel, Slope, SnowPack
from risk.weather import WeatherReport

GULLY = Slope("Long Gully", "tarn", 38, 1420, Aspect.NORTH)
MEADOW = Slope("Meadow Bank", "lowmere", 22, 640, Aspect.SOUTH)
STORM = WeatherReport(hut=3, temperature=-4, wind=20, new_snow=450)
CALM = WeatherReport(hut=3, temperature=-4, wind=1, new_snow=0)


class RiskModelTest(unittest.TestCase):
    def setUp(self) -> None:
        self.model = RiskModel()
        self.pack = SnowPack()
        self.pack.add_layer(500, strength=0.6)
        self.pack.add_layer(300)

    def test_flat_slope_is_low(self) -> None:
        self.assertEqual(Level.LOW, self.model.estimate(MEADOW, self.pack, STORM))

    def test_storm_closes_a_steep_slope(self) -> None:
        self.assertTrue(self.model.estimate(GULLY, self.pack, STORM).closed)

    def test_calm_is_safer_than_storm(self) -> None:
        calm = self.model.estimate(GULLY, self.pack, CALM)
        storm = self.model.estimate(GULLY, self.pack, STORM)
        self.assertLess(calm, storm)
        self.assertEqual(2, self.model.estimates)


if __name__ == "__main__":
    unittest.main()
