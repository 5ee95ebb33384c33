package yemble.demo;

import java.util.Random;

/** Writes the notes of the crew, and the sessions of the web site. */
final class Prose {
  private static final String[] ABOUT = {
    "%g %f called from %p about a lost umbrella.",
    "Refund promised to %f, answer to %e by Friday.",
    "%G %F is hard of hearing, speak up at boarding.",
    "Spoke with Mr %f, he prefers the upper deck.",
    "Please seat %g next to the aisle.",
    "Mrs %f asked for a wheelchair; call %p on arrival.",
    "Travels with a dog. Mail %e before the next sailing.",
    "Confirmed by e-mail: %e.",
    "No special wishes.",
    "Card was refused, paid in cash.",
    "%g %f and %h %k share a cabin; %h is at %q.",
    "Forwarded the complaint of %h %k (%d) to the office."
  };
  private static final String[] EVENTS = {
    "A suitcase fell near the bar, nobody hurt.",
    "Passenger %g %f slipped on deck two.",
    "Engine stopped for six minutes off Gullness.",
    "%f reported a missing bag, phone %p.",
    "Two vehicles touched on the car deck."
  };
  private static final String[] AGENTS = {"Webglider/4.1", "Pocketsurf/2.0", "Webglider/4.2"};

  private Prose() {}

  /** A note about a person that may mention another one. */
  static String note(Random random, Folk.Person person, Folk.Person other) {
    return filled(Folk.pick(random, ABOUT), person, other);
  }

  static String event(Random random, Folk.Person person) {
    return filled(Folk.pick(random, EVENTS), person, person);
  }

  private static String filled(String template, Folk.Person person, Folk.Person other) {
    return template
        .replace("%g", person.given())
        .replace("%f", person.family())
        .replace("%G", person.given().toUpperCase())
        .replace("%F", person.family().toUpperCase())
        .replace("%p", person.phone())
        .replace("%e", person.email())
        .replace("%h", other.given())
        .replace("%k", other.family())
        .replace("%q", other.phone())
        .replace("%d", other.email());
  }

  /** What the web site remembers of a visit, as JSON; some paths are rare. */
  static String session(Random random, Folk.Person person) {
    StringBuilder json = new StringBuilder(300);
    json.append("{\"user\":{\"name\":\"")
        .append(person.given())
        .append(' ')
        .append(person.family());
    json.append("\",\"email\":\"").append(person.email()).append("\"},");
    json.append("\"client\":{\"agent\":\"").append(Folk.pick(random, AGENTS));
    json.append("\",\"width\":").append(800 + 10 * random.nextInt(80)).append("},");
    json.append("\"cart\":[");
    for (int i = 0, items = random.nextInt(3); i < items; i++) {
      json.append(i == 0 ? "" : ",").append("{\"route\":").append(1 + random.nextInt(9));
      json.append(",\"seats\":").append(1 + random.nextInt(4)).append('}');
    }
    json.append(']');
    if (random.nextInt(30) == 0) {
      json.append(",\"support\":{\"callback\":\"").append(person.phone()).append("\"}");
    }
    if (random.nextInt(60) == 0) {
      json.append(",\"gift\":{\"to\":\"").append(person.family()).append(" family\"}");
    }
    return json.append(",\"beta\":").append(random.nextBoolean()).append('}').toString();
  }
}
