"""Slopes: how steep they are, and where they face."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from enum import Enum

# Below this angle snow does not slide, above the other it does not stay.
GENTLE = 25.0
TOO_STEEP = 55.0


class Aspect(Enum):
    """Where a slope faces."""

    NORTH = "north"
    EAST = "east"
    SOUTH = "south"
    WEST = "west"

    def is_shaded(self) -> bool:
        """Whether the sun hardly reaches it in winter."""
        return self in (Aspect.NORTH, Aspect.EAST)


@dataclass(frozen=True)
class Slope:
    """A piece of a mountain that slides, or does not, as a whole."""

    name: str
    valley: str
    angle: float
    height: int
    aspect: Aspect

    @property
    def can_slide(self) -> bool:
        """Whether snow both stays on it and can come down."""
        return GENTLE <= self.angle <= TOO_STEEP

    def steepness(self) -> float:
        """From 0 for a gentle slope to 1 for the steepest that holds snow."""
        if not self.can_slide:
            return 0.0
        return (self.angle - GENTLE) / (TOO_STEEP - GENTLE)


def load_slopes(path: str) -> list[Slope]:
    """Read the slopes from a table with a heading."""
    with open(path, newline="") as table:
        return [_slope(row) for row in csv.DictReader(table)]


def _slope(row: dict[str, str]) -> Slope:
    return Slope(
        name=row["name"],
        valley=row["valley"],
        angle=float(row["angle"]),
        height=int(row["height"]),
        aspect=Aspect(row["aspect"]),
    )
