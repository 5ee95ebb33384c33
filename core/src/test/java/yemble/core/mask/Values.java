package yemble.core.mask;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import yemble.core.kind.Kind;

/** Values that look like the samples of a kind: other letters and digits. */
final class Values {
  private Values() {}

  /** So many different values, or fewer where the kind has no more; the same ones for one seed. */
  static List<String> of(Kind kind, int many, long seed) {
    Random random = new Random(seed);
    Set<String> values = new LinkedHashSet<>(kind.samples());
    for (int tries = 0; tries < many * 4 && values.size() < many; tries++) {
      String sample = kind.samples().get(random.nextInt(kind.samples().size()));
      if (kind.name().equals("password-hash") || kind.name().equals("json")) {
        values.add(digits(sample, random));
      } else {
        values.add(other(sample, random, 1 + random.nextInt(4)));
      }
    }
    return new ArrayList<>(values);
  }

  private static String digits(String sample, Random random) {
    int from = sample.startsWith("$") ? sample.indexOf('$', 4) + 1 : 0;
    char[] out = sample.toCharArray();
    for (int i = from; i < out.length; i++) {
      if (out[i] >= '1' && out[i] <= '9') {
        out[i] = (char) ('1' + random.nextInt(9));
      }
    }
    return new String(out);
  }

  /** Another text of the shape; every so often a letter stays. */
  private static String other(String sample, Random random, int keepsOneIn) {
    char[] out = sample.toCharArray();
    for (int i = 0; i < out.length; i++) {
      char c = out[i];
      if (random.nextInt(keepsOneIn + 1) == 0) {
        continue;
      }
      if (c >= '0' && c <= '9') {
        out[i] = (char) ('0' + random.nextInt(10));
      } else if (c >= 'a' && c <= 'z') {
        out[i] = (char) ('a' + random.nextInt(26));
      } else if (c >= 'A' && c <= 'Z') {
        out[i] = (char) ('A' + random.nextInt(26));
      }
    }
    return new String(out);
  }
}
