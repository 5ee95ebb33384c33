package yemble.core.store;

import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.function.Function;
import java.util.function.Supplier;
import yemble.core.row.CellChange;

/** As many threads as there are processors, each with changes of its own, that mask blocks. */
public final class Maskers implements AutoCloseable {
  private final BlockingQueue<CellChange[]> idle = new LinkedBlockingQueue<>();
  private final ExecutorService threads;

  /**
   * @param changes makes the changes, for one thread each time
   */
  public Maskers(Supplier<List<CellChange>> changes) {
    int count = Math.max(1, Runtime.getRuntime().availableProcessors());
    for (int i = 0; i < count; i++) {
      idle.add(changes.get().toArray(new CellChange[0]));
    }
    threads =
        Executors.newFixedThreadPool(
            count,
            task -> {
              Thread thread = new Thread(task, "yemble-mask");
              thread.setDaemon(true);
              return thread;
            });
  }

  /** Makes a block with some thread's changes. */
  public <B> Future<B> mask(Function<CellChange[], B> block) {
    return threads.submit(
        () -> {
          CellChange[] own = idle.take();
          try {
            return block.apply(own);
          } finally {
            idle.add(own);
          }
        });
  }

  /** Takes no more; what was asked for is still made. */
  @Override
  public void close() {
    threads.shutdown();
  }
}
