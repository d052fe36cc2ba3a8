package tarn.gateway;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Hands what comes over the radio to whoever listens. */
public class RadioGateway {
    private final Device device;
    private final FrameParser parser = new FrameParser();
    private final HutRegistry registry;
    private final List<Listener> listeners = new ArrayList<>();

    public RadioGateway(Device device, HutRegistry registry) {
        this.device = device;
        this.registry = registry;
    }

    public void add(Listener listener) {
        listeners.add(listener);
    }

    /** Listens until the device has no more to say. */
    public void run() throws IOException {
        device.open();
        try (device) {
            for (byte[] bytes = device.read(); bytes.length > 0; bytes = device.read()) {
                handle(bytes);
            }
        }
    }

    private void handle(byte[] bytes) {
        try {
            Frame frame = parser.parse(bytes);
            registry.heard(frame);
            if (frame.isReading()) {
                listeners.forEach(listener -> listener.received(frame));
            }
        } catch (FrameException why) {
            for (Listener listener : listeners) {
                listener.failed(why);
            }
        }
    }

    /** The share of frames that could be read. */
    public double quality() {
        return parser.quality();
    }
}
