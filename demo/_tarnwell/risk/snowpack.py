"""The snow that lies, layer by layer."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass
class Layer:
    """Snow that fell in one go. Strength is from 0, loose, to 1, solid."""

    depth: int
    strength: float
    age_hours: float = 0.0

    def settle(self, hours: float) -> None:
        """Let time pass: snow grows firmer and sinks together."""
        self.age_hours += hours
        self.strength = min(1.0, self.strength + 0.01 * hours)
        self.depth = round(self.depth * (1 - 0.002 * hours))


@dataclass
class SnowPack:
    """All snow on a slope, the oldest layer first."""

    layers: list[Layer] = field(default_factory=list)

    @property
    def depth(self) -> int:
        """The depth of all layers, in millimetres."""
        return sum(layer.depth for layer in self.layers)

    def add_layer(self, depth: int, strength: float = 0.2) -> Layer:
        """Let snow fall."""
        layer = Layer(depth, strength)
        self.layers.append(layer)
        return layer

    def settle(self, hours: float) -> None:
        """Let time pass for every layer."""
        for layer in self.layers:
            layer.settle(hours)

    def weakest_layer(self) -> Layer | None:
        """The layer on which the rest would slide."""
        if not self.layers:
            return None
        return min(self.layers, key=lambda layer: layer.strength)

    def load_on(self, weak: Layer) -> int:
        """The depth of what lies on a layer, in millimetres."""
        above = self.layers[self.layers.index(weak) + 1 :]
        return sum(layer.depth for layer in above)
