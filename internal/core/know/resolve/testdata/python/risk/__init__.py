from .model import RiskModel  #@use RiskModel
from . import slope  #@use slope:pkg
