package relay

type Tower interface { //@def Tower
	Light(level int) Beam //@def Light
}

type Beam struct{ Colour string } //@def Beam //@def Colour

type lamp struct{ *base }     //@def lamp
type base struct{ beam Beam } //@def base:type //@def beam

func (b *base) Light(level int) Beam { return b.beam } //@def Light:base //@use beam

type List[T any] struct{ items []T } //@def List //@def items

func (l *List[T]) First() T { return l.items[0] } //@def First //@use items

func Map[T, R any](list []T, f func(T) R) []R { return nil } //@def Map

func use(t Tower, l lamp, list List[lamp]) {
	t.Light(1).Colour = "red"                                               //@use Light //@use Colour
	l.Light(2)                                                              //@use Light:base
	list.First().beam.Colour = ""                                           //@use First //@use beam //@use Colour
	for _, b := range Map([]lamp{l}, func(l lamp) Beam { return l.beam }) { //@use Map //@use beam
		_ = b.Colour //@use Colour
	}
	tests := []struct{ name string }{{name: "a"}} //@def name //@use name#2
	for _, c := range tests {
		_ = c.name //@use name
	}
	for _, c := range []struct{ want int }{{1}} { //@def want
		_ = c.want //@use want
	}
}
