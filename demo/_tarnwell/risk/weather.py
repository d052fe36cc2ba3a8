"""What the huts report, as far as the model needs it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass


@dataclass
class WeatherReport:
    """One hut's readings of the last day."""

    hut: int
    temperature: float
    wind: float
    new_snow: int


class Factor(ABC):
    """Something in the weather that makes an avalanche likelier."""

    weight: float = 1.0

    @abstractmethod
    def danger(self, report: WeatherReport) -> float:
        """From 0, harmless, to 1."""

    def weighted(self, report: WeatherReport) -> float:
        return self.weight * self.danger(report)


class NewSnow(Factor):
    """Much snow in a day does not have the time to settle."""

    weight = 2.0

    def danger(self, report: WeatherReport) -> float:
        return min(report.new_snow / 500, 1.0)


class Wind(Factor):
    """Wind carries snow into the lee and packs it into slabs."""

    weight = 1.5
    carries_from = 8.0

    def danger(self, report: WeatherReport) -> float:
        if report.wind < self.carries_from:
            return 0.0
        return min((report.wind - self.carries_from) / 12, 1.0)


class Thaw(Factor):
    """Water between the layers lets them slide."""

    def danger(self, report: WeatherReport) -> float:
        return 1.0 if report.temperature > 2 else 0.0


def all_factors() -> list[Factor]:
    """Every factor that the model reckons with."""
    return [NewSnow(), Wind(), Thaw()]
