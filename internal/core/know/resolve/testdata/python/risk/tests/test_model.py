import risk
from risk import RiskModel  #@use RiskModel
from ..slope import Slope  #@use Slope


def test_estimate():
    assert RiskModel(Slope(2)).estimate() == 0  #@use RiskModel @use Slope @use estimate
    assert risk.slope.STEEP == 30  #@use STEEP
