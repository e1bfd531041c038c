package app.ironside.plan;

/** How a mount that needs balance is balanced, where practitioners differ. */
public enum BalanceBy {
    IN_STEPS("in three directions", "bar, tube and side by themselves, then at tonight's attitude", 12),
    AT_ATTITUDE("at tonight's attitude", "everything on, both axes free where the first target will stand", 4),
    ANYWHERE("in any attitude", "both clutches loose, moved to four attitudes: it stays in each", 8);

    private final String words;
    private final String how;
    private final int minutes;

    BalanceBy(String words, String how, int minutes) {
        this.words = words;
        this.how = how;
        this.minutes = minutes;
    }

    public String words() {
        return words;
    }

    /** What is done, in a clause. */
    public String how() {
        return how;
    }

    /** Usual minutes of it (common practice). */
    public int minutes() {
        return minutes;
    }
}
