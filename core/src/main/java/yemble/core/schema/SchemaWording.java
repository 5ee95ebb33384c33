package yemble.core.schema;

import yemble.core.wording.Wording;

/** What of a schema cannot be as it is. */
enum SchemaWording implements Wording {
  COLUMN_NAME("the name of column ${column}: it is ${other} there"),
  CHECKS("checks of ${table}");

  private final String words;

  SchemaWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
