package tarn.gateway;

/** What came over the radio is no frame. */
public class FrameException extends Exception {
    private static final long serialVersionUID = 1L;

    public FrameException(String what) {
        super(what);
    }
}
