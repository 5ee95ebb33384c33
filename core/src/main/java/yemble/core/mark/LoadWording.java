package yemble.core.mark;

import yemble.core.wording.Wording;

/** What is remembered of a load, for people. */
enum LoadWording implements Wording {
  LOADED("${rows} rows loaded${way} by ${tool}, ${part}job ${job} from ${source}${parcel}${when}"),
  WAY(" (${way})"),
  PART("a part (${part}) of "),
  PARCEL(" by ${parcel}"),
  WHEN(", ${when}");

  private final String words;

  LoadWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
