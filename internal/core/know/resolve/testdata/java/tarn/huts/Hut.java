package tarn.huts;

/** A hut on a mountain. */
public class Hut extends Building implements Named { //@def Hut @use Building @use Named
    public static final int HIGHEST = 2400; //@def HIGHEST
    protected final String name; //@def name:hut
    private int height; //@def height

    public Hut(String name, int height) { //@def Hut:new @def name:param @def height:param
        super(); 
        this.name = name; //@use name:hut @use name:param#2
        this.height = height; //@use height @use height:param#2
    }

    @Override
    public String name() { return name; } //@def name:method @use name:hut#2 @outside String

    public int above(Hut other) { //@def above @use Hut @def other
        return height - other.height; //@use height @use other @use height#2
    }

    enum Kind { BIVOUAC, LODGE { int beds() { return 40; } }; int beds() { return 4; } } //@def Kind @def BIVOUAC @def LODGE @def beds:lodge @def beds:kind#2

    record Bed(int number, Hut in) { //@def Bed @def number @def in @use Hut
        boolean first() { return number == 1 && in.above(in) == 0; } //@use number @use in @use above @use in#2
    }
}

class Building { //@def Building
    int doors = 1; //@def doors
    void open() { doors++; } //@def open @use doors
}

interface Named { String name(); } //@def Named @def name:named
