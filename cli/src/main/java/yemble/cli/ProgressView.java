package yemble.cli;

import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarConsumer;
import me.tongfei.progressbar.ProgressBarStyle;
import yemble.core.job.Progress;

/** Progress as a bar on standard error; nothing where that is not a terminal. */
final class ProgressView implements Progress {
  private ProgressBar bar;

  private ProgressView() {}

  static Progress of(Output output) {
    output.flush();
    return output.terminal().errors() ? new ProgressView() : Progress.SILENT;
  }

  @Override
  public void begin(String step, long total) {
    bar =
        new ProgressBarBuilder()
            .setTaskName("  " + step)
            .setInitialMax(total == 0 ? -1 : total)
            .setStyle(ProgressBarStyle.UNICODE_BLOCK)
            .setUpdateIntervalMillis(200)
            .setConsumer(new Line())
            .build();
  }

  @Override
  public void advance(long amount) {
    bar.stepBy(amount);
  }

  @Override
  public void end() {
    bar.close();
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
