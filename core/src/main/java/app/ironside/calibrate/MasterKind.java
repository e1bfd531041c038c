package app.ironside.calibrate;

import app.ironside.device.Camera.FrameKind;

/** Kinds of master frames. */
public enum MasterKind {
    BIAS("bias", FrameKind.BIAS),
    DARK("dark", FrameKind.DARK),
    FLAT("flat", FrameKind.FLAT),
    FLAT_DARK("flat-dark", FrameKind.DARK);

    private final String word;
    private final FrameKind frames;

    MasterKind(String word, FrameKind frames) {
        this.word = word;
        this.frames = frames;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }

    /** The kind of the single frames. */
    public FrameKind frames() {
        return frames;
    }
}
