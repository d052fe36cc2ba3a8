"""The model: from slope, snow and weather to a level."""

from __future__ import annotations

from enum import IntEnum

from .slope import Slope
from .snowpack import SnowPack
from .weather import Factor, WeatherReport, all_factors


class Level(IntEnum):
    """The levels of danger, as they are told to the public."""

    LOW = 1
    MODERATE = 2
    CONSIDERABLE = 3
    HIGH = 4
    VERY_HIGH = 5

    @property
    def closed(self) -> bool:
        """Whether a slope of this level is closed for everybody."""
        return self >= Level.HIGH


# The score from which on a level holds.
THRESHOLDS = {
    Level.MODERATE: 0.8,
    Level.CONSIDERABLE: 1.6,
    Level.HIGH: 2.6,
    Level.VERY_HIGH: 3.6,
}


class RiskModel:
    """Estimates the risk of slopes from one set of factors."""

    def __init__(self, factors: list[Factor] | None = None) -> None:
        self.factors = factors or all_factors()
        self.estimates = 0

    def estimate(self, slope: Slope, pack: SnowPack, report: WeatherReport) -> Level:
        """The level of a slope."""
        self.estimates += 1
        if not slope.can_slide or pack.depth == 0:
            return Level.LOW
        return self.level(self.score(slope, pack, report))

    def score(self, slope: Slope, pack: SnowPack, report: WeatherReport) -> float:
        """How dangerous the slope is, as a number without an upper end."""
        weather = sum(factor.weighted(report) for factor in self.factors)
        return (weather + self.slab(pack)) * (0.5 + slope.steepness()) * shade(slope)

    def slab(self, pack: SnowPack) -> float:
        """What the layers add: a heavy load on a weak one."""
        weak = pack.weakest_layer()
        if weak is None:
            return 0.0
        return (1 - weak.strength) * min(pack.load_on(weak) / 400, 2.0)

    def level(self, score: float) -> Level:
        found = Level.LOW
        for level, threshold in THRESHOLDS.items():
            if score >= threshold:
                found = level
        return found


def shade(slope: Slope) -> float:
    """Shaded slopes settle more slowly."""
    return 1.2 if slope.aspect.is_shaded() else 1.0
