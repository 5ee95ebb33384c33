package yemble.core.links;

import yemble.core.wording.Wording;

/** What the name of a column says of a link. */
enum LinkWording implements Wording {
  NOTHING(""),
  RELATION("\"${words}\" of the same table"),
  NAMES_TABLE("\"${column}\" names the table"),
  KEY_COLUMNS("the columns of the key"),
  KEYS_NAME("the key's own name"),
  LIKE_KEY("ends like the key"),
  ACTOR("who does something"),
  TABLES_NAME("named after the table"),
  ENDS_WITH_TABLE("ends with the table's name"),
  END_OF_TABLE("the end of the table's name"),
  BEGINNING_OF_TABLE("the beginning of the table's name");

  private final String words;

  LinkWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
