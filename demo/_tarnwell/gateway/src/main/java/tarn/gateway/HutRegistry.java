package tarn.gateway;

import java.util.HashMap;
import java.util.Map;
import java.util.OptionalInt;

/** Knows which huts are on the air. */
public class HutRegistry {
    private final Map<Integer, Frame> last = new HashMap<>();

    /** Notes that a hut was heard. */
    public void heard(Frame frame) {
        last.put(frame.hut(), frame);
    }

    public boolean knows(int hut) {
        return last.containsKey(hut);
    }

    /** The deepest snow that was reported lately, if anything was. */
    public OptionalInt deepestSnow() {
        return last.values().stream().filter(Frame::isReading).mapToInt(Frame::snow).max();
    }
}
