import math
import risk.slope as slopes  #@def-import slopes
from risk.slope import Gully, Slope as Flank, steepest  #@use Gully @use Slope @use steepest
from risk.missing import nothing  #@outside nothing


class RiskModel:  #@def RiskModel
    def __init__(self, flank: Flank):  #@use Flank:Slope @def flank:param
        self.flank = flank  #@def flank:attr
        self.worst = Gully(40)  #@def worst @use Gully

    def estimate(self) -> float:  #@def estimate
        if self.flank.is_steep():  #@use flank:attr @use is_steep
            return slopes.STEEP * math.sqrt(2)  #@use STEEP @outside sqrt
        return self.worst.is_steep()  #@use worst @use is_steep:gully

    @staticmethod
    def total(values: list[Flank]):  #@def total @def values @use Flank:Slope
        return sum(v.angle for v in values if v)  #@outside sum @use angle @use v @def v#2 @use v#3 @use values

    def again(self):
        return self.total([self.estimate()])  #@use total @use estimate


def run(names):  #@def run
    model = RiskModel(Flank(3))  #@def model:run @use RiskModel @use Flank:Slope
    print(model.estimate())  #@use model:run @use estimate @outside print
    top = steepest([model.flank])  #@use steepest @use flank:attr
    top.is_steep()  #@use is_steep
    other.estimate()  #@byname estimate
    with open(names) as f:  #@def f
        lines = [line for line in f]  #@def line#2 @use line @use f
    try:
        pass
    except ValueError as e:  #@def e
        raise e  #@use e
