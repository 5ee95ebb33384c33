package yemble.core.store;

import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * Blocks of rows on their way to a thread that sends them, in the order in which they were handed
 * over, though some may still be in the making: so reading, masking and sending go on at the same
 * time. What fails there is thrown to whoever hands over the next block, or waits for the end.
 *
 * @param <B> a block
 * @param <X> what sending fails with
 */
public final class Conveyor<B, X extends Exception> {
  private static final int WAITING_BLOCKS = 8;

  private final Future<B> end = CompletableFuture.completedFuture(null);
  private final BlockingQueue<Future<B>> waiting = new ArrayBlockingQueue<>(WAITING_BLOCKS);
  private final String table;
  private final Sender<B, X> sender;
  private Thread thread;
  private volatile Throwable failure;

  /** Sends blocks, all that there are. */
  @FunctionalInterface
  public interface Sender<B, X extends Exception> {
    void send(Blocks<B> blocks) throws X;
  }

  /** What a sender takes blocks from. */
  @FunctionalInterface
  public interface Blocks<B> {
    /** The next block; null if there are no more, or one could not be made. */
    B next();
  }

  /**
   * @param table where the rows go, for messages
   */
  public Conveyor(String table, Sender<B, X> sender) {
    this.table = table;
    this.sender = sender;
  }

  /** Whether anything has been handed over. */
  public boolean isRunning() {
    return thread != null;
  }

  /**
   * Hands over rows that may still be in the making.
   *
   * @throws X if the sender has failed with it
   */
  public void hand(Future<B> rows) throws X {
    if (thread == null) {
      thread = new Thread(this::send, "yemble-send");
      thread.setDaemon(true);
      thread.start();
    }
    put(rows);
    check();
  }

  /**
   * Waits until all blocks are sent.
   *
   * @throws X if the sender has failed with it
   */
  public void finish() throws X {
    stop();
    check();
  }

  /** The same, whatever has failed. */
  public void stop() {
    if (thread == null) {
      return;
    }
    try {
      put(end);
      thread.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    thread = null;
  }

  private void put(Future<B> rows) {
    try {
      waiting.put(rows);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.of(Failure.INTERRUPTED, "writing was interrupted").at(table);
    }
  }

  private void check() throws X {
    if (failure instanceof RuntimeException problem) {
      throw problem;
    }
    if (failure instanceof Error error) {
      throw new IllegalStateException(error);
    }
    if (failure != null) {
      @SuppressWarnings("unchecked") // Nothing else that is checked comes out of a sender.
      X refused = (X) failure;
      throw refused;
    }
  }

  private void send() {
    Taken taken = new Taken();
    try {
      sender.send(taken);
    } catch (Exception | Error e) {
      failure = failure == null ? e : failure;
    }
    // After a failure blocks are taken and dropped, so that nobody waits for room forever.
    taken.drain();
  }

  private final class Taken implements Blocks<B> {
    private boolean ended;

    @Override
    public B next() {
      if (ended || failure != null) {
        return null;
      }
      try {
        Future<B> next = waiting.take();
        ended = next == end;
        return ended ? null : next.get();
      } catch (ExecutionException e) {
        failure = e.getCause();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        ended = true;
      }
      return null;
    }

    private void drain() {
      while (!ended) {
        try {
          ended = waiting.take() == end;
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          return;
        }
      }
    }
  }
}
