package yemble.bench;

import java.time.LocalDate;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Level;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.ChainedOptionsBuilder;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.VerboseMode;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;

/**
 * How many values a second one core masks, and what each allocates. Values are made as a table
 * holds them: names come again and again, numbers and addresses hardly do.
 */
@State(Scope.Thread)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
public class MasksBench {
  private static final int VALUES = 1 << 16;

  @Param({
    "prf",
    "given-name",
    "family-name",
    "full-name",
    "birth-date",
    "email",
    "username",
    "phone",
    "card-number",
    "iban",
    "national-id",
    "street-address",
    "city",
    "postcode",
    "ip-address",
    "vehicle-plate",
    "shape",
    "note",
    "json"
  })
  String kind;

  private final String[] values = new String[VALUES];
  private Mask mask;
  private int next;

  @Setup(Level.Trial)
  public void made() {
    MaskValues made = new MaskValues(new Random(1));
    for (int i = 0; i < VALUES; i++) {
      values[i] = made.value(kind);
    }
    SecretKey key = SecretKey.random();
    Masks masks = new Masks(key, LocalDate.of(2026, 1, 1));
    if (kind.equals("prf")) {
      Prf prf = key.prf("bench");
      mask = new Asked(prf);
    } else {
      mask = masks.of(kind.equals("shape") ? "" : kind);
    }
  }

  /** Asks the function alone. */
  private record Asked(Prf prf) implements Mask {
    @Override
    public String apply(String text) {
      return prf.of(text).length == 16 ? text : "";
    }

    @Override
    public boolean keepsDifferent() {
      return true;
    }
  }

  @Benchmark
  public String masked() {
    return mask.apply(values[next++ & (VALUES - 1)]);
  }

  /** Runs it for all kinds, or for those that are named, and prints a line each. */
  public static void main(String[] args) throws RunnerException {
    ChainedOptionsBuilder options =
        new OptionsBuilder()
            .include(MasksBench.class.getSimpleName() + ".masked")
            .verbosity(VerboseMode.SILENT)
            .addProfiler("gc");
    if (args.length > 0) {
      options = options.param("kind", args[0].split(","));
    }
    System.out.printf("%-16s %14s %16s %12s%n", "kind", "values/s", "bytes/value", "MB/s of text");
    for (RunResult result : new Runner(options.build()).run()) {
      String kind = result.getParams().getParam("kind");
      double rate = result.getPrimaryResult().getScore();
      var allocated = result.getSecondaryResults().get("gc.alloc.rate.norm");
      MaskValues made = new MaskValues(new Random(1));
      long length = 0;
      for (int i = 0; i < 10_000; i++) {
        length += made.value(kind).length();
      }
      System.out.printf(
          "%-16s %,14.0f %,16.0f %,12.0f%n",
          kind,
          rate,
          allocated == null ? Double.NaN : allocated.getScore(),
          rate * length / 10_000 / 1e6);
    }
  }
}
