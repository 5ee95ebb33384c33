package yemble.jdbc.rows;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.function.LongConsumer;
import yemble.core.store.InPlace.Part;

/** Tables that are worked on at the same time, each in one of a few sessions of its own. */
public final class Lanes {
  private static final int MOST = 4;

  private final Deque<Part> waiting;
  private RuntimeException failed;

  private Lanes(List<Part> parts) {
    this.waiting = new ArrayDeque<>(parts);
  }

  /** What one session does. */
  public interface Lane {
    /**
     * Works on one table.
     *
     * @param progress is told how many rows are done; may be asked from any thread
     */
    void work(Part part, LongConsumer progress);
  }

  /** How many sessions so many tables are worth. */
  public static int worth(List<Part> parts) {
    int processors = Math.max(2, Runtime.getRuntime().availableProcessors());
    return Math.max(1, Math.min(parts.size(), Math.min(MOST, processors)));
  }

  /**
   * Works on all tables; the first lane in this thread, each other one in its own. If one fails, no
   * further table is begun, and those that are under way are awaited.
   *
   * @throws RuntimeException what the first lane that failed has thrown
   */
  public static void run(List<Part> parts, List<Lane> lanes, LongConsumer progress) {
    Lanes all = new Lanes(parts);
    LongConsumer together =
        rows -> {
          synchronized (all) {
            progress.accept(rows);
          }
        };
    List<Thread> threads = new ArrayList<>();
    for (Lane lane : lanes.subList(1, lanes.size())) {
      Thread thread = new Thread(() -> all.drive(lane, together), "lane " + (threads.size() + 1));
      thread.setDaemon(true);
      thread.start();
      threads.add(thread);
    }
    all.drive(lanes.get(0), together);
    for (Thread thread : threads) {
      await(thread);
    }
    if (all.failed != null) {
      throw all.failed;
    }
  }

  private static void await(Thread thread) {
    boolean interrupted = false;
    while (thread.isAlive()) {
      try {
        thread.join();
      } catch (InterruptedException e) {
        interrupted = true;
      }
    }
    if (interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private void drive(Lane lane, LongConsumer progress) {
    try {
      for (Part part = next(); part != null; part = next()) {
        lane.work(part, progress);
      }
    } catch (RuntimeException e) {
      fail(e);
    }
  }

  private synchronized Part next() {
    return failed == null ? waiting.poll() : null;
  }

  private synchronized void fail(RuntimeException e) {
    failed = failed == null ? e : failed;
  }
}
