package app.ironside.stack;

import java.util.List;

/** Lights that were all understood, and of which none can be kept. */
public final class NothingToStack extends RuntimeException {
    private final transient List<StackResult.Rejected> rejected;

    NothingToStack(String reason, List<StackResult.Rejected> rejected) {
        super(reason);
        this.rejected = List.copyOf(rejected);
    }

    /** Each light with its reason. */
    public List<StackResult.Rejected> rejected() {
        return rejected;
    }
}
