namespace Tarn
{
    interface Pager // @is Pager @under Pager = Bell,Horn
    {
        void Page(int times); // @is Page @under Page = Page:bell,Page:horn
    }

    class Bell : Pager // @is Bell @over Bell = Pager
    {
        private int rings = 0; // @is rings @value rings
        public virtual void Page(int times) // @is Page:bell @over Page:bell = Page
        {
            this.rings += times; // @ref rings readwrite @value rings
        }
        public int Heard() { return rings; } // @is Heard @ref rings read @value rings @called Heard = Alert
    }

    class Horn : Bell // @is Horn @over Horn = Bell,Pager
    {
        public override void Page(int times) { base.Page(times); } // @is Page:horn @over Page:horn = Page:bell,Page
    }

    class Roster
    {
        static int Alert(Pager pager, int level) // @is Alert @is pager @is level @calls Alert = Quiet,Page,Heard,Horn
        {
            if (level > Quiet()) // @value level
            {
                pager.Page(level); // @type pager = Pager @ref pager read @value level
            }
            return new Horn().Heard();
        }
        static int Quiet() { return 1; } // @is Quiet @called Quiet = Alert
        private static void Forgotten() { } // @unused
        static void Main() { Alert(new Bell(), 3); } // @value level
    }
}
