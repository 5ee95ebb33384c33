package yemble.core.project;

/** What a database is. Only {@link #TEST} is ever written to by {@code run} and {@code load}. */
public enum Environment {
  PRODUCTION,
  COPY,
  TEST;

  @Override
  public String toString() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
