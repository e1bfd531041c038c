package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.plan.Program;
import java.util.function.Function;

/** The program by which a night goes: the one it began with, until a person puts another in its place. */
public final class ProgramInForce {
    private final Function<String, Program> reader;
    private volatile Program program;

    /**
     * @param reader reads a changed night file; throws {@link BadInputException} for one that does not fit this night
     */
    public ProgramInForce(Program program, Function<String, Program> reader) {
        this.program = program;
        this.reader = reader;
    }

    /** One that nobody changes. */
    public ProgramInForce(Program program) {
        this(program, document -> {
            throw new BadInputException("program", "cannot be changed here", "a night that runs");
        });
    }

    Program program() {
        return program;
    }

    /** Puts another program in force. */
    void revise(String document) {
        program = reader.apply(document);
    }
}
