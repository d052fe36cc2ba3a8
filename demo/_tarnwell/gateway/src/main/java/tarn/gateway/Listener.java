package tarn.gateway;

/** Is told what the huts report. */
public interface Listener {
    void received(Frame frame);

    /** By default what cannot be read is not worth a word. */
    default void failed(FrameException why) {
    }
}
