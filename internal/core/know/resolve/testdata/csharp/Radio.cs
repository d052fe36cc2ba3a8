using Tarn.Huts;
namespace Tarn.Gateway
{
    public class Radio : Device // @def Radio @use Device
    {
        private int tries; // @def tries
        public Hut Home { get; set; } // @def Home @use Hut
        public Radio(int tries) { this.tries = tries; } // @use tries#2
        public int Listen(int times) // @def Listen
        {
            Ring(); // @use Ring
            return times + tries + Home.Probe.Depth; // @use tries @use Home @use Probe @use Depth
        }
        public void Twice() { Listen(1); this.Listen(2); base.Ring(); } // @use Listen @use Listen#2 @use Ring
    }
}
