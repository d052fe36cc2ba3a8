import unittest

from risk import SnowPack


class SnowPackTest(unittest.TestCase):
    def test_weakest_layer_and_its_load(self) -> None:
        pack = SnowPack()
        pack.add_layer(600, strength=0.7)
        weak = pack.add_layer(100, strength=0.1)
        pack.add_layer(200)
        self.assertIs(weak, pack.weakest_layer())
        self.assertEqual(200, pack.load_on(weak))

    def test_snow_settles(self) -> None:
        pack = SnowPack()
        layer = pack.add_layer(100)
        pack.settle(24)
        self.assertLess(layer.depth, 100)
        self.assertAlmostEqual(0.44, layer.strength)


if __name__ == "__main__":
    unittest.main()
