package yemble.core.store;

import java.util.Map;
import java.util.Optional;

/**
 * Which database rows come from, as values: what the guard compares a target with, even where the
 * database itself is out of reach. Without secrets.
 *
 * @param engine the name of its {@link Engine.Family}
 * @param facts what tells it from others, in the engine's own words
 * @param lock a lock in it, where it can be reached
 */
public record Origin(String engine, Map<String, String> facts, Optional<Lock> lock) {
  public Origin {
    facts = Map.copyOf(facts);
  }

  /** Of what no database holds: no target can be the same. */
  public static final Origin NONE = new Origin("", Map.of(), Optional.empty());

  /** A fact; empty if it is not known. */
  public String fact(String name) {
    return facts.getOrDefault(name, "");
  }

  /** The same as it is remembered: nothing can be asked any more. */
  public Origin remembered() {
    return new Origin(engine, facts, Optional.empty());
  }

  /** A lock that every session of the same server can see, and nobody else. */
  public interface Lock {
    /** Holds it while somebody looks. */
    void hold(String token, Runnable look);
  }
}
