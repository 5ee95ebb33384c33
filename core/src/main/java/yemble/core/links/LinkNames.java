package yemble.core.links;

import java.util.Set;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/** How much the names of two columns say for a link from one to the other. */
final class LinkNames {
  /** Who does something to a row. */
  private static final Set<String> ACTORS =
      Set.of(
          "by",
          "owner",
          "creator",
          "author",
          "user",
          "editor",
          "assignee",
          "requestor",
          "sender",
          "reporter",
          "manager",
          "boss",
          "master",
          "captain",
          "person",
          "operator",
          "agent");

  /** Tables of those who do something. */
  private static final Set<String> PEOPLE =
      Set.of(
          "user",
          "person",
          "people",
          "employee",
          "staff",
          "crew",
          "account",
          "operator",
          "agent",
          "member");

  /** What a row is to another one of its table. */
  private static final Set<String> RELATIONS =
      Set.of(
          "parent",
          "guardian",
          "boss",
          "manager",
          "superior",
          "previous",
          "prev",
          "next",
          "root",
          "original",
          "replaces",
          "supervisor",
          "predecessor",
          "successor");

  private LinkNames() {}

  /** What speaks for it, from 0 to 1, and in which words. */
  record Said(double strength, Sentence why) {
    static final Said NOTHING = new Said(0, LinkWording.NOTHING);

    Said(double strength, LinkWording why) {
      this(strength, why.of());
    }
  }

  /**
   * What the names say.
   *
   * @param child a column's name
   * @param key the name of the parent's column
   */
  static Said of(Table childTable, String child, Table parentTable, String key) {
    NameParts column = NameParts.of(child);
    NameParts role = column.role();
    NameParts keyName = NameParts.of(key);
    NameParts parent = NameParts.of(parentTable.name().name()).bare();
    boolean own = childTable.name().equals(parentTable.name());
    if (own && relates(role, parent)) {
      return new Said(0.8, LinkWording.RELATION.of(String.join(" ", role.words())));
    }
    Said ofActor = ofActor(role, parent);
    if (own) {
      return ofActor;
    }
    NameParts related = RELATIONS.contains(role.last()) ? role.lead() : role;
    Said ofTable = ofTable(column, related.isEmpty() ? role : related, parent, keyName);
    if (ofTable.strength() > 0) {
      return ofTable;
    }
    if (!keyName.isOfKeysAlone() && column.equals(keyName)) {
      return new Said(0.8, LinkWording.KEYS_NAME);
    }
    if (!keyName.isOfKeysAlone() && column.endsWith(keyName)) {
      return new Said(0.55, LinkWording.LIKE_KEY);
    }
    return ofActor;
  }

  /** Whether a row of the same table is meant: its parent, the parent feed of a feed. */
  private static boolean relates(NameParts role, NameParts parent) {
    if (role.words().size() < 2) {
      return RELATIONS.contains(role.last());
    }
    return RELATIONS.contains(role.first()) && isMeant(role.rest(), parent)
        || RELATIONS.contains(role.last()) && isMeant(role.lead(), parent);
  }

  private static boolean isMeant(NameParts name, NameParts table) {
    boolean begins =
        name.words().size() == 1
            && name.last().length() > 2
            && table.last().startsWith(name.last());
    return begins || table.endsWith(name);
  }

  private static Said ofActor(NameParts role, NameParts parent) {
    boolean actor = ACTORS.contains(role.last()) || role.joined().endsWith("by");
    return actor && PEOPLE.contains(parent.last())
        ? new Said(parent.last().equals("user") ? 0.6 : 0.55, LinkWording.ACTOR)
        : Said.NOTHING;
  }

  private static Said ofTable(
      NameParts column, NameParts role, NameParts parent, NameParts keyName) {
    if (role.isEmpty() || parent.isEmpty()) {
      return Said.NOTHING;
    }
    if (role.equals(parent) || column.joined().equals(parent.joined() + keyName.joined())) {
      return new Said(0.95, LinkWording.TABLES_NAME);
    }
    if (role.endsWith(parent)) {
      // Without a word for a key it may be a number of them, or whether they are shown.
      return new Said(column.equals(role) ? 0.6 : 0.85, LinkWording.ENDS_WITH_TABLE);
    }
    if (parent.endsWith(role) && role.last().length() > 2) {
      return new Said(0.7, LinkWording.END_OF_TABLE);
    }
    String joined = parent.joined();
    if (joined.length() > 3 && role.joined().endsWith(joined)) {
      return new Said(0.75, LinkWording.ENDS_WITH_TABLE);
    }
    String last = role.last();
    if (last.length() > 2 && parent.last().startsWith(last) && role.words().size() == 1) {
      return new Said(0.6, LinkWording.BEGINNING_OF_TABLE);
    }
    return Said.NOTHING;
  }
}
