"""How likely an avalanche is, slope by slope."""

from .model import Level, RiskModel
from .slope import Aspect, Slope
from .snowpack import Layer, SnowPack

__all__ = ["Aspect", "Layer", "Level", "RiskModel", "Slope", "SnowPack"]
