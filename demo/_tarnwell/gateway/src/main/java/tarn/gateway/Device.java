package tarn.gateway;

import java.io.IOException;

/** Something that frames come from. */
public abstract class Device implements AutoCloseable {
    protected final String name;
    private boolean open;

    protected Device(String name) {
        this.name = name;
    }

    /** Waits for the next bytes; an empty array is the end. */
    protected abstract byte[] read() throws IOException;

    public void open() throws IOException {
        open = true;
    }

    public boolean isOpen() {
        return open;
    }

    @Override
    public void close() throws IOException {
        open = false;
    }
}
