package tarn.board;

import java.util.List;
import java.util.Map;

public class Watch { //@def Watch
    static final int LIMIT = 3; //@def LIMIT
    enum State { CALM, ALARM } //@def State //@def CALM //@def ALARM
    static class Siren { //@def Siren
        void howl() {} //@def howl
        int howl(int times) { return times; } //@def howl:int
    }
    interface Listener<T> { void heard(T what); } //@def Listener //@def heard
    @interface Every { int seconds() default 1; } //@def seconds

    void tell(int level) {} //@def tell:int
    void tell(long level) {} //@def tell:long
    void tell(String words) {} //@def tell:string
    void tell(Object thing) {} //@def tell:object
    void tell(String words, Object... more) {} //@def tell:more
    void tell(Siren siren) {} //@def tell:siren
    void tell(int[] levels) {} //@def tell:array

    void all(Siren siren, int[] levels, long when) { //@def all:many
        tell(1); //@use tell:int
        tell('c' + 1); //@use tell:int
        tell(when); //@use tell:long
        tell("a" + 1); //@use tell:string
        tell("a", 1, 2); //@use tell:more
        tell(siren); //@use tell:siren
        tell(levels); //@use tell:array
        tell(new Watch()); //@use tell:object
        tell(siren.howl(2)); //@use tell:int //@use howl:int
    }

    <T> void each(Box<T> box, Listener<T> listener) {} //@def each
    <T, R> R made(Box<T> box, Turn<T, R> turn) { return null; } //@def made
    interface Turn<A, B> { B turn(A from); }
    static class Box<T> { //@def Box
        T first; //@def first:box
        T get(int i) { return first; } //@def get
        Box<T> next() { return this; } //@def next:box
        <R> Box<R> as(Turn<T, R> turn) { return null; } //@def as
    }
    static class Sirens extends Box<Siren> {} //@def Sirens

    void generic(Box<Siren> box, Sirens sirens, Watch other) { //@def generic
        box.get(0).howl(); //@use howl
        box.next().get(1).howl(3); //@use howl:int //@use get
        sirens.get(0).howl(); //@use howl
        sirens.first.howl(); //@use howl
        each(box, s -> s.howl()); //@use howl
        var made = made(box, s -> other); //@def made:local //@use made#2
        made.generic(box, sirens, other); //@use made:local //@use generic
        box.as(s -> new Watch()).get(0).all(null, null, 1); //@use all:many
        Listener<Siren> named = new Listener<Siren>() {
            int count;
            public void heard(Siren what) { what.howl(); this.count++; inner(); } //@use howl
            void inner() { heard(null); }
        };
    }
    void listed(List<Siren> list, Map<String, Siren> huts) {
        list.get(0).howl(); //@use howl
        list.stream().filter(s -> s.howl(1) > 0).map(s -> this).toList().get(0).marked(); //@use howl:int //@use marked
        huts.get("a").howl(); //@use howl
        huts.forEach((name, siren) -> siren.howl()); //@use howl
        for (var s : huts.values()) s.howl(); //@use howl
    }
    void all(Siren a, int b, int c) {} //@def all:few

    int choose(State state, int level) { //@def choose:it
        int choose = choose(state, 1); //@use choose:it#2
        switch (state) {
            case CALM: int hour = 1; break; //@use CALM
            case ALARM: hour = 2; return hour; //@use ALARM
        }
        switch (level) {
            case LIMIT: return choose; //@use LIMIT
        }
        return Watch.this.choose(state, 2); //@use choose:it
    }

    @Every(seconds = 2) //@use seconds
    void marked() {} //@def marked
}
