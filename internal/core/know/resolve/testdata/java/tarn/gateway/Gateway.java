package tarn.gateway;

import java.util.List;
import java.util.Map;
import tarn.huts.Hut;
import tarn.huts.*;
import static tarn.huts.Hut.HIGHEST;
import tarn.huts.Hut.Bed;

public class Gateway<T extends Hut> { //@def Gateway @def T @use Hut
    private final List<Hut> huts; //@def huts @outside List @use Hut
    private Map<String, Hut> byName; //@def byName @use Hut
    T best; //@def best @use T

    Gateway(List<Hut> huts) { this.huts = huts; } //@use huts#2 

    int highest() { //@def highest
        int top = 0; //@def top
        for (Hut h : huts) { //@use Hut @def h @use huts
            top = Math.max(top, h.above(h)); //@use top @outside Math @use top#2 @use h @use above @use h#2
        }
        var first = new Hut("Tarn", 3); //@def first @use Hut
        first.name(); //@use first @use name:method
        first.open(); //@use first @use open
        if (top > HIGHEST) { return best.above(first); } //@use top @use HIGHEST @use best @use above @use first
        huts.forEach(x -> x.above(first)); //@use huts @use first @def x
        Object o = first; //@def o @use first
        if (o instanceof Hut other) { return other.above(first); } //@use o @use Hut @def other:pattern
        Bed bed = null; //@use Bed @def bed
        return bed.number(); //@use bed
    }

    class Inner extends Hut { //@def Inner @use Hut
        Inner() { super("x", 1); }
        int twice() { return above(this) + highest(); } //@use above @use highest
        @Override public String name() { return super.name(); } //@def name:inner @use name:method#2
    }

    static Gateway<Hut> of(List<Hut> list) { return new Gateway<>(list); } //@def of @use Gateway @use Hut @def list @use list#2 @use Gateway#2
    String text(Hut hut) { return hut.toString(); } //@outside toString
    void chain() { of(null).best.above(null); Gateway.of(null).highest(); } //@use of @use best @use Gateway @use of#2 @use highest
    <R> R pick(R one, java.util.List<R> many) { return one; } //@def pick @def R @use R#2 @use R#3 @def one @use one#2
    tarn.huts.Hut full() { return pick(best, null); } //@use Hut @use pick @use best

    void ring() { ring(1, "x"); ring(2); ring(); ring(1, "a", "b"); } //@def ring:none @use ring:two#2 @use ring:one#3 @use ring:none#4 @use ring:many#5
    void ring(int times) { } //@def ring:one
    void ring(int times, String tune) { } //@def ring:two
    void ring(int times, String... tunes) { } //@def ring:many
}
