package tarn.gateway;

/** Run by hand, with assertions on: there is no test library on the gateway. */
public final class FrameParserTest {
    private static final byte[] HELLO = {0x7E, 3, 0, 7, 0, 0, 0, 0, 0, 0, 0, 0};

    public static void main(String[] args) throws FrameException {
        byte[] frame = HELLO.clone();
        int sum = FrameParser.checksum(frame, 0);
        frame[10] = (byte) (sum >> 8);
        frame[11] = (byte) sum;
        FrameParser parser = new FrameParser();
        assert parser.parse(frame).hut() == 7;
        frame[4]++;
        try {
            parser.parse(frame);
            assert false : "a broken frame was read";
        } catch (FrameException expected) {
            assert parser.quality() == 0.5;
        }
        System.out.println("ok");
    }
}
