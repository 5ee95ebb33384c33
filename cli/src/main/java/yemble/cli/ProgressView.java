package yemble.cli;

import java.io.PrintStream;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.LongAdder;
import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarConsumer;
import me.tongfei.progressbar.ProgressBarStyle;
import yemble.core.job.Phase;
import yemble.core.job.Progress;

/** Progress as a bar on standard error; where that is no terminal, as a line every ten seconds. */
final class ProgressView implements Progress {
  private static final Duration PAUSE = Duration.ofSeconds(10);

  private ProgressBar bar;

  private ProgressView() {}

  static Progress of(Output output) {
    output.flush();
    return output.terminal().errors() ? new ProgressView() : new Lines(System.err, PAUSE);
  }

  @Override
  public void begin(Phase phase, long total) {
    end();
    bar =
        new ProgressBarBuilder()
            .setTaskName("  " + phase)
            .setInitialMax(total == 0 ? -1 : total)
            .setStyle(ProgressBarStyle.UNICODE_BLOCK)
            .setUpdateIntervalMillis(200)
            .setConsumer(new Line())
            .build();
  }

  @Override
  public void advance(long amount) {
    if (bar != null) {
      bar.stepBy(amount);
    }
  }

  /** A phase may fail before it has begun, or end with the one that it is part of. */
  @Override
  public void end() {
    if (bar != null) {
      bar.close();
      bar = null;
    }
  }

  /** A line of standard error from time to time. */
  static final class Lines implements Progress {
    private final PrintStream to;
    private final Duration pause;
    private final LongAdder done = new LongAdder();
    private ScheduledExecutorService clock;
    private volatile String phase = "";
    private volatile long total;
    private volatile long start;

    Lines(PrintStream to, Duration pause) {
      this.to = to;
      this.pause = pause;
    }

    @Override
    public void begin(Phase phase, long total) {
      end();
      this.phase = phase.toString();
      this.total = total;
      this.start = System.nanoTime();
      done.reset();
      clock =
          Executors.newSingleThreadScheduledExecutor(
              work -> {
                Thread thread = new Thread(work, "progress");
                thread.setDaemon(true);
                return thread;
              });
      clock.scheduleAtFixedRate(
          this::say, pause.toMillis(), pause.toMillis(), TimeUnit.MILLISECONDS);
    }

    private void say() {
      long ended = done.sum();
      String count = total == 0 ? "" : Output.number(ended) + " of " + Output.number(total) + ", ";
      Duration took = Duration.ofNanos(System.nanoTime() - start);
      to.println("  " + phase + ": " + count + Output.duration(took));
    }

    @Override
    public void advance(long amount) {
      done.add(amount);
    }

    @Override
    public void end() {
      if (clock != null) {
        clock.shutdownNow();
        clock = null;
      }
    }
  }

  /** One line of standard error that is written over and over, and gone at the end. */
  private static final class Line implements ProgressBarConsumer {
    private static final int LENGTH = 90;

    @Override
    public int getMaxRenderedLength() {
      return LENGTH;
    }

    @Override
    public void accept(String text) {
      System.err.print("\r" + text); // Words of ours and numbers alone.
    }

    @Override
    public void clear() {
      System.err.print("\r" + " ".repeat(LENGTH) + "\r");
    }

    @Override
    public void close() {
      clear();
      System.err.flush();
    }
  }
}
