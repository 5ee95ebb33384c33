package yemble.core.job;

/** Is told how far a job is; called from the thread that works. */
public interface Progress {
  /** The step in which a load is put in place: from its end on the target holds it. */
  String COMMIT = "putting it in place";

  /** Nobody listens. */
  Progress SILENT =
      new Progress() {
        @Override
        public void begin(String step, long total) {}

        @Override
        public void advance(long amount) {}

        @Override
        public void end() {}
      };

  /**
   * A step begins.
   *
   * @param total how much there is to do, in rows; 0 if that is not known
   */
  void begin(String step, long total);

  void advance(long amount);

  /** The step has ended. */
  void end();
}
