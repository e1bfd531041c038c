package app.ironside.night;

/** What a night's own thread does from its beginning to its end. */
public interface NightWork {
    /**
     * Runs the night.
     *
     * @throws InterruptedException when it is stopped; what was told stands
     */
    void run() throws InterruptedException;
}
