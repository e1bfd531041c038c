package app.ironside.document;

import java.util.Optional;

/**
 * A step of bringing a kit up.
 *
 * @param subject what it is about: "mount"; names the step
 * @param what is to be true afterwards
 * @param measured whether a device's reading proves it; else a person confirms it
 * @param after the subject of a step that must come before, with the reason
 * @param remedy what to do if it is not so; empty if that goes without saying
 */
public record ReadyStep(String subject, String what, boolean measured, Optional<Order> after, Optional<String> remedy) {
    /** What must come before, and why. */
    public record Order(String subject, String reason) {}

    static ReadyStep measured(String subject, String what) {
        return new ReadyStep(subject, what, true, Optional.empty(), Optional.empty());
    }

    static ReadyStep byHand(String subject, String what) {
        return new ReadyStep(subject, what, false, Optional.empty(), Optional.empty());
    }

    ReadyStep after(String other, String reason) {
        return new ReadyStep(subject, what, measured, Optional.of(new Order(other, reason)), remedy);
    }

    ReadyStep ifNot(String remedy) {
        return new ReadyStep(subject, what, measured, after, Optional.of(remedy));
    }

    /** The question by which a person confirms it. */
    public String question() {
        return subject + ": " + what;
    }
}
