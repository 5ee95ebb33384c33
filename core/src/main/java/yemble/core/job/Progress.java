package yemble.core.job;

/** Is told how far a job is; called from the thread that works. */
public interface Progress {
  /** Nobody listens. */
  Progress SILENT =
      new Progress() {
        @Override
        public void begin(Phase phase, long total) {}

        @Override
        public void advance(long amount) {}

        @Override
        public void end() {}
      };

  /**
   * A phase begins.
   *
   * @param total how much there is to do, in rows; 0 if that is not known
   */
  void begin(Phase phase, long total);

  void advance(long amount);

  /** The phase has ended. */
  void end();
}
