package ferry;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.own.OwnMask;

/** A berth becomes another one of the same deck: B-104 becomes B-371. */
public final class BerthCode implements OwnMask {
  @Override
  public String name() {
    return "berth-code";
  }

  @Override
  public String says() {
    return "another berth of the same deck";
  }

  @Override
  public List<String> samples() {
    return List.of("B-104", "C-017");
  }

  @Override
  public Set<String> options() {
    return Set.of("berths");
  }

  @Override
  public Work with(Map<String, String> options) {
    int berths = Integer.parseInt(options.getOrDefault("berths", "400"));
    return (value, bytes) -> {
      String deck = value.substring(0, value.indexOf('-') + 1);
      return deck + String.format("%03d", 1 + bytes.below(value, berths));
    };
  }
}
