package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.name.LinkName;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads what is said of links. */
final class LinkReader {
  private static final Set<String> LINK =
      Set.of("follow", "where", "if", "at-most", "cut", "broken");

  private LinkReader() {}

  /** The rules of a section; none without one. */
  static List<LinkRule> read(YamlValue section) {
    List<LinkRule> links = new ArrayList<>();
    if (section == null) {
      return links;
    }
    for (var entry : section.entries()) {
      links.add(link(entry.getKey(), entry.getValue()));
    }
    return links;
  }

  private static LinkRule link(YamlValue name, YamlValue body) {
    LinkName link =
        LinkName.parse(name.word())
            .orElseThrow(
                () ->
                    name.place()
                        .problem(
                            Failure.LINK_UNKNOWN, "this is not a link: \"" + name.word() + "\"")
                        .remedy(
                            "write child.column -> parent.column, or"
                                + " child.(a, b) -> parent.(c, d)"));
    Map<String, YamlValue> fields = body.fields(LINK);
    YamlValue follow = fields.get("follow");
    YamlValue broken = fields.get("broken");
    return new LinkRule(
        link,
        follow == null ? LinkRule.Follow.CHOSEN : follow.oneOf(LinkRule.Follow.class),
        fields.containsKey("where")
            ? new Condition(fields.get("where").word(), name.place())
            : Condition.NONE,
        fields.containsKey("if") ? fields.get("if").word() : "",
        fields.containsKey("at-most") ? fields.get("at-most").number(1) : LinkRule.ALL,
        fields.containsKey("cut") && fields.get("cut").flag(),
        broken == null ? null : broken.oneOf(LinkRule.Broken.class),
        name.place());
  }
}
