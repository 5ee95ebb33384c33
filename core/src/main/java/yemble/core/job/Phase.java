package yemble.core.job;

/** What a job is doing, as people see it. */
public enum Phase {
  SURVEYING("surveying"),
  LOOKING_FOR_LINKS("looking for links"),
  LOOKING_AT_LINKS("looking at links"),
  SELECTING_ROWS("selecting rows"),
  STAGING("staging"),
  COMPARING("comparing"),
  MERGING("merging"),
  PUTTING_BACK("putting back"),
  PACKING("packing"),
  VERIFYING("verifying"),
  WRITING("writing"),
  REWRITING("rewriting"),
  REMOVING_TRACES("removing traces"),
  KEEPING_ORIGINALS("keeping originals"),
  KEEPING_TOKENS("keeping tokens"),
  LOADING("loading"),
  COUNTING_CHANGES("counting changes"),
  /** A load is put in place: from its end on the target holds it. */
  COMMIT("putting it in place");

  private final String words;

  Phase(String words) {
    this.words = words;
  }

  @Override
  public String toString() {
    return words;
  }
}
