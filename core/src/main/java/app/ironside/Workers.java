package app.ironside;

import java.util.function.IntConsumer;
import java.util.stream.IntStream;

/** Who does independent pieces of a computation; handed to kernels so that they own no threads. */
public interface Workers {
    /** The calling thread does everything, in order. */
    Workers SERIAL = (count, piece) -> {
        for (int i = 0; i < count; i++) {
            piece.accept(i);
        }
    };

    /** All cores of the machine. */
    Workers ALL_CORES = (count, piece) -> IntStream.range(0, count).parallel().forEach(piece);

    /** Runs {@code piece} for 0 up to {@code count}, in any order, and returns when all are done. */
    void forEach(int count, IntConsumer piece);
}
