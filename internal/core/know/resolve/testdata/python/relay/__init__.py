from .tower import Tower as Tower
from .tower import *
