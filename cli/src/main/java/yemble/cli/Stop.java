package yemble.cli;

import yemble.core.job.Phase;
import yemble.core.job.Progress;

/**
 * What is said when a person or the system stops the program: what state things are in, and what to
 * do. The exit code is Java's own for a signal, 130 or 143.
 */
final class Stop {
  private static final String AGAIN = "run the same command again";

  private static volatile boolean over;
  private static volatile String state = "nothing was written";
  private static volatile String remedy = AGAIN;

  private Stop() {}

  /** Waits for being stopped, until the program is {@link #over}. */
  static void watch() {
    Runtime.getRuntime().addShutdownHook(new Thread(Stop::say, "stop"));
  }

  private static void say() {
    if (!over) {
      System.err.println("\nyemble: stopped; " + state + ". Next: " + remedy);
      System.err.flush();
    }
  }

  /** The program ends by itself. */
  static void over() {
    over = true;
  }

  /** From now on a stop finds this state, and this is what to do then. */
  static void finds(String state, String remedy) {
    Stop.state = state;
    Stop.remedy = remedy;
  }

  /** The progress of a load into a target, by whose steps it is known what a stop finds. */
  static Progress loading(Progress progress, String target, String job) {
    unloaded(target);
    return new Progress() {
      @Override
      public void begin(Phase phase, long total) {
        if (phase == Phase.COMMIT) {
          finds(
              target + " is as it was, or holds the whole load",
              "yemble verify " + job + " tells which");
        } else {
          unloaded(target);
        }
        progress.begin(phase, total);
      }

      @Override
      public void advance(long amount) {
        progress.advance(amount);
      }

      @Override
      public void end() {
        progress.end();
      }
    };
  }

  private static void unloaded(String target) {
    finds(target + " is as it was", AGAIN + "; it removes what is left of this one");
  }

  /** The load is in place. */
  static void loaded(String target, String job) {
    finds(target + " holds the whole load", "yemble verify " + job);
  }
}
