package yemble.core.subset;

import yemble.core.wording.Wording;

/** Why a link has not brought a row. */
enum ObstacleWording implements Wording {
  CUT("the link is cut"),
  NO_PARENT("it refers to no row of ${table}"),
  PARENT_OUT("the row of ${table} that it belongs to is out as well"),
  FOLLOW_NEVER("its parent is in, but follow: never brings no children"),
  PARENT_NEEDED("its parent is only needed, and needed rows bring no children"),
  WHERE("its parent is in, but the link's where leaves this row out"),
  AT_MOST("its parent is in, but at-most takes others of its children");

  private final String words;

  ObstacleWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
