"""Slopes."""

STEEP = 30  #@def STEEP


class Slope:  #@def Slope
    """A piece of a mountain."""

    angle: float = 0.0  #@def angle

    def __init__(self, angle):  #@def angle:param
        self.angle = angle  #@use angle @use angle:param#2
        self.layers = []  #@def layers

    def is_steep(self):  #@def is_steep
        limit = STEEP  #@def limit @use STEEP
        return self.angle > limit  #@use angle @use limit


class Gully(Slope):  #@def Gully @use Slope
    def is_steep(self):  #@def is_steep:gully
        return super().is_steep() or bool(self.layers)  #@use layers @outside bool


def steepest(slopes: list[Slope]) -> Slope:  #@def steepest @use Slope @use Slope#2 @def slopes
    best = slopes[0]  #@def best @use slopes
    for s in slopes:  #@def s:loop @use slopes
        if s.angle > best.angle:  #@use angle#2
            best = s  #@use best @use s:loop
    return best
