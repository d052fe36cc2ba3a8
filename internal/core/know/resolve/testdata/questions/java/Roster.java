package tarn;

interface Pager { // @is Pager @under Pager = Bell,Horn
    void page(int times); // @is page @under page = page:bell,page:horn
}

class Bell implements Pager { // @is Bell @over Bell = Pager
    private int rings = 0; // @is rings @value rings
    public void page(int times) { // @is page:bell @over page:bell = page
        this.rings += times; // @ref rings readwrite @value rings
    }
    int heard() { return rings; } // @is heard @ref rings read @value rings @called heard = alert
}

class Horn extends Bell { // @is Horn @over Horn = Bell,Pager
    @Override public void page(int times) { super.page(times); } // @is page:horn @over page:horn = page:bell,page
}

class Roster {
    static int alert(Pager pager, int level) { // @is alert @is pager @is level @calls alert = page,quiet,heard,Horn
        if (level > quiet()) { // @value level
            pager.page(level); // @type pager = Pager @ref pager read @value level
        }
        return new Horn().heard();
    }
    static int quiet() { return 1; } // @is quiet @called quiet = alert
    private static void forgotten() {} // @unused
    public static void main(String[] args) { // @is main
        alert(new Bell(), 3); // @value level
    }
}
