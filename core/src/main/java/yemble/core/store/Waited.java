package yemble.core.store;

import yemble.core.wording.Wording;

/** What can be wrong with rows that waited beside others, once they are in. */
public enum Waited implements Wording {
  ROWS_NOT("${rows} rows, not ${waited}"),
  OTHERS("${rows} rows are not what waited"),
  GONE("${rows} rows gone"),
  NOT_AS_THEY_CAME("${rows} rows not as they came"),
  ASTRAY("${rows} rows lead elsewhere");

  private final String words;

  Waited(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
