package yemble.bench;

import java.time.LocalDate;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;

/** How many of a million different values of a kind meet once they are masked. */
public final class MeetingsBench {
  private MeetingsBench() {}

  /** Takes the number of values; a million if it is left out. */
  public static void main(String[] args) {
    int many = args.length == 0 ? 1_000_000 : Integer.parseInt(args[0]);
    System.out.printf("%-14s %12s %10s %s%n", "kind", "different", "meet", "the mask says");
    for (String kind :
        List.of("email", "username", "card-number", "national-id", "phone", "iban")) {
      MaskValues made = new MaskValues(new Random(1));
      Set<String> values = new HashSet<>(many * 2);
      while (values.size() < many) {
        values.add(made.value(kind));
      }
      Mask mask = new Masks(SecretKey.random(), LocalDate.of(2026, 1, 1)).of(kind);
      String[] masked = values.stream().map(mask::apply).toArray(String[]::new);
      Arrays.sort(masked);
      long meet = 0;
      for (int i = 1; i < masked.length; i++) {
        meet += masked[i].equals(masked[i - 1]) ? 1 : 0;
      }
      System.out.printf(
          "%-14s %,12d %,10d %s%n",
          kind,
          values.size(),
          meet,
          mask.mayMeet() ? "they may: a run looks before it loads" : "they cannot");
    }
  }
}
