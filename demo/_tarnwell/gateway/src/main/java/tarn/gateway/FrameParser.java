package tarn.gateway;

import java.nio.ByteBuffer;

/** Reads frames from bytes. */
public class FrameParser {
    private int parsed;
    private int refused;

    /** Reads the frame at the beginning of the bytes. */
    public Frame parse(byte[] bytes) throws FrameException {
        return parse(bytes, 0);
    }

    /**
     * Reads the frame that begins at an offset. A frame has {@link Frame#SIZE} bytes:
     * <ul>
     * <li>the byte {@code 0x7E}, the kind and the number of the hut</li>
     * <li>temperature and wind, in tenths, and the depth of the snow</li>
     * <li>a checksum over all of these</li>
     * </ul>
     * Several frames in a row are read by going on behind each:
     * <pre>{@code
     * for (int at = 0; at < bytes.length; at += Frame.SIZE) {
     *     board.show(parser.parse(bytes, at));
     * }
     * }</pre>
     *
     * @param bytes what came over the radio, which may begin with noise
     * @param offset where the frame begins, counted from 0
     * @return what the hut has measured
     * @throws FrameException if it is cut off, or the checksum does not fit
     */
    public Frame parse(byte[] bytes, int offset) throws FrameException {
        if (bytes.length - offset < Frame.SIZE) {
            throw refuse("frame too short");
        }
        ByteBuffer buffer = ByteBuffer.wrap(bytes, offset, Frame.SIZE);
        if ((buffer.get() & 0xFF) != Frame.START) {
            throw refuse("no start byte");
        }
        Frame.Kind kind = Frame.Kind.of(buffer.get());
        int hut = buffer.getShort() & 0xFFFF;
        double temperature = tenths(buffer.getShort());
        double wind = tenths(buffer.getShort());
        int snow = buffer.getShort() & 0xFFFF;
        if ((buffer.getShort() & 0xFFFF) != checksum(bytes, offset)) {
            throw refuse("wrong checksum");
        }
        parsed++;
        return new Frame(kind, hut, temperature, wind, snow);
    }

    /** Adds the bytes up, turning the sum by a bit before each. */
    static int checksum(byte[] bytes, int offset) {
        int sum = 0;
        for (int i = offset; i < offset + Frame.SIZE - 2; i++) {
            sum = (sum << 1 | sum >> 15) & 0xFFFF;
            sum = sum + (bytes[i] & 0xFF) & 0xFFFF;
        }
        return sum;
    }

    private static double tenths(short value) {
        return value / 10.0;
    }

    private FrameException refuse(String why) {
        refused++;
        return new FrameException(why);
    }

    /** The share of frames that could be read, from 0 to 1. */
    public double quality() {
        int all = parsed + refused;
        return all == 0 ? 1 : (double) parsed / all;
    }
}
