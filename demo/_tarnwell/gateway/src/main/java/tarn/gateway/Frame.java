package tarn.gateway;

/** One report of a hut, as docs/radio-protocol.md describes it. */
public record Frame(Kind kind, int hut, double temperature, double wind, int snow) {

    /** How many bytes a frame takes. */
    public static final int SIZE = 12;

    static final int START = 0x7E;

    /** What a frame reports. */
    public enum Kind {
        WEATHER(1), SNOW(2), HELLO(3);

        private final int code;

        Kind(int code) {
            this.code = code;
        }

        int code() {
            return code;
        }

        static Kind of(int code) throws FrameException {
            for (Kind kind : values()) {
                if (kind.code == code) {
                    return kind;
                }
            }
            throw new FrameException("unknown kind " + code);
        }
    }

    /** Says whether the hut has anything to report. */
    public boolean isReading() {
        return kind != Kind.HELLO;
    }
}
