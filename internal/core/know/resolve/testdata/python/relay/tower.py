class Mast:  #@def Mast
    height = 3  #@def height

    def __init__(self):
        self.lamp = Lamp()  #@def lamp

    def climb(self):  #@def climb
        return self


class Lamp:  #@def Lamp
    def blink(self):  #@def blink
        return self.blink()  #@use blink


class Tower(Mast):  #@def Tower
    def light(self):  #@def light
        self.lamp.blink()  #@use lamp #@use blink
        return self.climb()  #@use climb

    @property
    def top(self) -> Lamp:  #@def top
        return self.lamp

    @staticmethod
    def build():  #@def build
        return Tower()  #@use Tower


def beam(tower: Tower):  #@def beam
    tower.top.blink()  #@use top #@use blink
    tower.height  #@use height
    made = Tower.build()  #@use build
    made.light()  #@use light
    [t.light() for t in [tower]]
    return tower


level = 1  #@def level


def raise_level():
    global level
    level = 2  #@use level
    return level  #@use level


class Ladder:
    rungs = 3  #@def rungs
    steps = [(n, m) for n in range(rungs) for m in range(n)]  #@def steps #@use rungs
    broken = [rungs for n in steps]  #@byname rungs #@use steps
