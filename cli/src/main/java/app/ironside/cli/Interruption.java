package app.ironside.cli;

import app.ironside.image.AtomicFile;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/** Lets a call that is interrupted (Ctrl C, a polite kill) put away what it has half done before the process ends. */
final class Interruption {
    private static final long PATIENCE_SECONDS = 10;

    private final CountDownLatch done = new CountDownLatch(1);

    /** Watches over the calling thread from here on. */
    static Interruption ofThisThread() {
        Interruption interruption = new Interruption();
        Thread work = Thread.currentThread();
        Runtime.getRuntime().addShutdownHook(new Thread(() -> interruption.end(work), "interrupted"));
        return interruption;
    }

    private void end(Thread work) {
        if (done.getCount() > 0) {
            work.interrupt();
            try {
                done.await(PATIENCE_SECONDS, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
        AtomicFile.endOfProcess();
    }

    /** The call has ended by itself. */
    void over() {
        done.countDown();
    }
}
