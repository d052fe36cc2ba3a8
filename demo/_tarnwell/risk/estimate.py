"""Print the risk of all slopes, as a table."""

import sys

from .model import Level, RiskModel
from .slope import Slope, load_slopes
from .snowpack import SnowPack
from .weather import WeatherReport


def winter_pack() -> SnowPack:
    """The snow of an ordinary February."""
    pack = SnowPack()
    pack.add_layer(600, strength=0.7)
    pack.add_layer(120, strength=0.1)
    pack.settle(36)
    pack.add_layer(280)
    return pack


def row(slope: Slope, level: Level) -> str:
    mark = "closed" if level.closed else ""
    return f"{slope.name:<14} {slope.valley:<10} {level.value} {level.name.lower():<13} {mark}"


def main(path: str) -> None:
    model = RiskModel()
    report = WeatherReport(hut=3, temperature=-4.0, wind=14.0, new_snow=280)
    for slope in load_slopes(path):
        print(row(slope, model.estimate(slope, winter_pack(), report)))


if __name__ == "__main__":
    main(sys.argv[1])
