namespace Tarn.Gateway
{
    public class Device // @def Device
    {
        public void Ring() { } // @def Ring
    }
}
