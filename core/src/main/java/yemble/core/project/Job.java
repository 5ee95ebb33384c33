package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.yaml.Place;

/**
 * A named piece of work.
 *
 * @param from the name of the source
 * @param fromAt where the source is named
 * @param into the name of the target, or an empty string
 * @param intoAt where the target is named, or where the job is
 * @param loading how the target is loaded
 * @param picks where the subset starts; none means everything, unless there is an amount
 * @param amount how much is taken where no pick says so
 * @param links link rules of this job alone, which go before those of the project
 * @param whole tables that are in with all their rows, as written
 * @param empty tables that stay without rows, as written
 * @param unfit what becomes of values that a column of the target cannot hold, as written
 * @param steps of the team's own, before and after the load
 */
public record Job(
    String name,
    String from,
    Place fromAt,
    String into,
    Place intoAt,
    Loading loading,
    List<Pick> picks,
    Optional<Amount> amount,
    List<LinkRule> links,
    List<Named> whole,
    List<Named> empty,
    Map<Named, Unfit> unfit,
    Step.Steps steps,
    Place place) {
  public Job {
    picks = List.copyOf(picks);
    links = List.copyOf(links);
    whole = List.copyOf(whole);
    empty = List.copyOf(empty);
    unfit = Map.copyOf(unfit);
  }

  /** The same with other picks, in place of its own and of its amount. */
  public Job picking(List<Pick> others) {
    return new Job(
        name,
        from,
        fromAt,
        into,
        intoAt,
        loading,
        others,
        Optional.empty(),
        links,
        whole,
        empty,
        unfit,
        steps,
        place);
  }

  /** The same with other steps. */
  public Job stepping(Step.Steps others) {
    return new Job(
        name, from, fromAt, into, intoAt, loading, picks, amount, links, whole, empty, unfit,
        others, place);
  }

  /** The same with link rules that go before its own. */
  Job linking(List<LinkRule> rules) {
    List<LinkRule> all = new ArrayList<>(rules);
    for (LinkRule own : links) {
      if (rules.stream().noneMatch(rule -> rule.link().equals(own.link()))) {
        all.add(own);
      }
    }
    return new Job(
        name, from, fromAt, into, intoAt, loading, picks, amount, all, whole, empty, unfit, steps,
        place);
  }

  /** A table's name as written, and where. */
  public record Named(String name, Place place) {}
}
