namespace Tarn.Gateway
{
    using Huts;
    public class Board // @def Board
    {
        public Hut First; // @def First @use Hut
    }
}
