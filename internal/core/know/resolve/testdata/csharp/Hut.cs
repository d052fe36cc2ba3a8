namespace Tarn.Huts;
public class Hut // @def Hut
{
    public Gauge Probe; // @def Probe @use Gauge
}
public class Gauge // @def Gauge
{
    public int Depth; // @def Depth
}
