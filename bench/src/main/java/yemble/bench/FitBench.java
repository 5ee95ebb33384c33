package yemble.bench;

import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.math3.optim.InitialGuess;
import org.apache.commons.math3.optim.MaxEval;
import org.apache.commons.math3.optim.MaxIter;
import org.apache.commons.math3.optim.SimpleValueChecker;
import org.apache.commons.math3.optim.nonlinear.scalar.GoalType;
import org.apache.commons.math3.optim.nonlinear.scalar.ObjectiveFunction;
import org.apache.commons.math3.optim.nonlinear.scalar.ObjectiveFunctionGradient;
import org.apache.commons.math3.optim.nonlinear.scalar.gradient.NonLinearConjugateGradientOptimizer;
import yemble.core.survey.Evidence;

/**
 * Whether weights that are fitted do better than those set by hand: a logistic regression with an
 * L2 penalty over the figures of {@link Evidence}, weights shared by all kinds, with an offset of
 * its own for each kind. Fitted on all applications but one, measured on that one, for each of
 * them. Arguments: a database of strangers and its labels, or none for what the corpus holds alone.
 *
 * <p>Where survey goes by another rule than the weights (formats, what repeats other columns, what
 * lies between signs) both go by it.
 */
final class FitBench {
  private static final double PENALTY = 0.002;
  private static final double CLIP = 0.01;
  private static final double NAMED = 0.4;
  private static final List<String> FIGURES =
      List.of(
          "always",
          "name: log odds",
          "values: log odds",
          "name and values",
          "figures: log",
          "table around",
          "of people",
          "share known",
          "share possible",
          "doubts",
          "another kind likelier");

  /** A kind that was considered for a column, with whether it is right. */
  private record Case(double[] figures, String kind, boolean right) {}

  private FitBench() {}

  public static void main(String[] args) throws IOException, SQLException {
    List<Labelled> columns = new ArrayList<>();
    Set<String> tested = new LinkedHashSet<>();
    if (args.length > 1) {
      columns.addAll(Labelled.ofFile(Path.of(args[0]), Path.of(args[1])));
    }
    for (String domain : Corpus.APPLICATIONS) {
      columns.addAll(Labelled.ofCorpus(domain));
    }
    columns.forEach(column -> tested.add(column.application()));
    for (List<String> domains : List.of(Corpus.TUNED, Corpus.MEASURED, Corpus.FRESH)) {
      for (String domain : domains) {
        columns.addAll(Labelled.ofCorpus(domain));
      }
    }
    Map<Labelled, Optional<String>> byHand = new LinkedHashMap<>();
    Map<Labelled, Optional<String>> fitted = new LinkedHashMap<>();
    Reliability hand = new Reliability();
    Reliability fit = new Reliability();
    for (String left : tested) {
      Weights weights =
          fit(columns.stream().filter(column -> !column.application().equals(left)).toList());
      for (Labelled column : columns) {
        if (column.application().equals(left)) {
          byHand.put(column, hand(column, hand));
          fitted.put(column, fitted(column, weights, fit));
        }
      }
    }
    System.out.printf(
        "%d columns of %d applications, each left out of its fit%n", byHand.size(), tested.size());
    print("weights by hand", byHand);
    hand.print();
    print("fitted weights", fitted);
    fit.print();
    byHand.keySet().removeIf(column -> !Corpus.LEFT_OUT.contains(column.application()));
    fitted.keySet().retainAll(byHand.keySet());
    System.out.printf("of them %d columns that no rule was made for%n", byHand.size());
    print("weights by hand", byHand);
    print("fitted weights", fitted);
    Weights all = fit(columns);
    System.out.println("\nfitted on all of them:");
    for (int i = 0; i < FIGURES.size(); i++) {
      System.out.printf(Locale.ROOT, "  %-22s %6.2f%n", FIGURES.get(i), all.shared()[i]);
    }
    all.offsets()
        .forEach((kind, offset) -> System.out.printf(Locale.ROOT, "  %-22s %6.2f%n", kind, offset));
  }

  /** How often what is said with some confidence is right. */
  private static final class Reliability {
    private final int[] named = new int[10];
    private final int[] right = new int[10];

    private void add(double confidence, boolean isRight) {
      int bucket = (int) Math.min(9, 10 * confidence);
      named[bucket]++;
      right[bucket] += isRight ? 1 : 0;
    }

    private void print() {
      System.out.print("                 right of those named at");
      for (int i = 4; i < 10; i++) {
        System.out.printf("  %d%%: %d of %d", 10 * i, right[i], named[i]);
      }
      System.out.println();
    }
  }

  private record Weights(double[] shared, Map<String, Double> offsets) {
    double confidence(double[] figures, String kind) {
      double sum = offsets.getOrDefault(kind, 0.0);
      for (int i = 0; i < figures.length; i++) {
        sum += shared[i] * figures[i];
      }
      return 1 / (1 + Math.exp(-sum));
    }
  }

  private static double odds(double share) {
    double clipped = Math.max(CLIP, Math.min(1 - CLIP, share));
    return Math.log(clipped / (1 - clipped));
  }

  private static double[] figures(Evidence evidence, List<Evidence> all) {
    double other =
        all.stream().filter(e -> e != evidence).mapToDouble(Evidence::confidence).max().orElse(0);
    return new double[] {
      1,
      odds(evidence.byName()),
      odds(evidence.byValues()),
      evidence.byName() * evidence.byValues(),
      Math.log(Math.max(CLIP, evidence.figures())),
      evidence.around(),
      evidence.ofPeople() ? 1 : 0,
      evidence.seen().known(),
      evidence.seen().possible(),
      evidence.seen().doubts(),
      Math.max(0, other - evidence.confidence())
    };
  }

  private static Weights fit(List<Labelled> columns) {
    List<Case> cases = new ArrayList<>();
    for (Labelled column : columns) {
      if (!column.isDebatable()) {
        for (Evidence evidence : column.evidence()) {
          cases.add(
              new Case(
                  figures(evidence, column.evidence()),
                  evidence.kind(),
                  column.kinds().contains(evidence.kind())));
        }
      }
    }
    List<String> kinds = cases.stream().map(Case::kind).distinct().sorted().toList();
    int shared = FIGURES.size();
    double[] start = new double[shared + kinds.size()];
    double[] found =
        new NonLinearConjugateGradientOptimizer(
                NonLinearConjugateGradientOptimizer.Formula.POLAK_RIBIERE,
                new SimpleValueChecker(1e-7, 1e-7))
            .optimize(
                new ObjectiveFunction(w -> loss(w, cases, kinds)),
                new ObjectiveFunctionGradient(w -> gradient(w, cases, kinds)),
                GoalType.MINIMIZE,
                new InitialGuess(start),
                new MaxEval(100_000),
                new MaxIter(10_000))
            .getPoint();
    Map<String, Double> offsets = new LinkedHashMap<>();
    for (int i = 0; i < kinds.size(); i++) {
      offsets.put(kinds.get(i), found[shared + i]);
    }
    return new Weights(Arrays.copyOf(found, shared), offsets);
  }

  private static double sum(double[] w, Case one, List<String> kinds) {
    double sum = w[FIGURES.size() + kinds.indexOf(one.kind())];
    for (int i = 0; i < one.figures().length; i++) {
      sum += w[i] * one.figures()[i];
    }
    return sum;
  }

  private static double loss(double[] w, List<Case> cases, List<String> kinds) {
    double loss = 0;
    for (Case one : cases) {
      double sum = sum(w, one, kinds) * (one.right() ? -1 : 1);
      loss += sum > 30 ? sum : Math.log1p(Math.exp(sum));
    }
    loss /= cases.size();
    for (int i = 1; i < w.length; i++) {
      loss += PENALTY / 2 * w[i] * w[i] / (i < FIGURES.size() ? 20 : 2);
    }
    return loss;
  }

  private static double[] gradient(double[] w, List<Case> cases, List<String> kinds) {
    double[] gradient = new double[w.length];
    for (Case one : cases) {
      double share = 1 / (1 + Math.exp(-sum(w, one, kinds))) - (one.right() ? 1 : 0);
      for (int i = 0; i < one.figures().length; i++) {
        gradient[i] += share * one.figures()[i] / cases.size();
      }
      gradient[FIGURES.size() + kinds.indexOf(one.kind())] += share / cases.size();
    }
    for (int i = 1; i < w.length; i++) {
      gradient[i] += PENALTY * w[i] / (i < FIGURES.size() ? 20 : 2);
    }
    return gradient;
  }

  private static Optional<String> hand(Labelled column, Reliability reliability) {
    if (column.finding().isPersonal()) {
      reliability.add(
          column.finding().confidence(), column.kinds().contains(column.finding().kind()));
      return Optional.of(column.finding().kind());
    }
    return Optional.empty();
  }

  private static Optional<String> fitted(
      Labelled column, Weights weights, Reliability reliability) {
    boolean byWeights =
        !column.evidence().isEmpty()
            && (column.finding().kind().equals(column.evidence().get(0).kind())
                || !column.finding().isPersonal() && column.evidence().get(0).confidence() < NAMED);
    if (!byWeights) {
      return hand(column, reliability);
    }
    double best = 0;
    String kind = "";
    for (Evidence evidence : column.evidence()) {
      double confidence = weights.confidence(figures(evidence, column.evidence()), evidence.kind());
      if (confidence > best) {
        best = confidence;
        kind = evidence.kind();
      }
    }
    if (best < NAMED) {
      return Optional.empty();
    }
    reliability.add(best, column.kinds().contains(kind));
    return Optional.of(kind);
  }

  private static void print(String what, Map<Labelled, Optional<String>> said) {
    int[] personal = new int[3];
    int[] exact = new int[3];
    said.forEach(
        (column, kind) -> {
          boolean found = kind.isPresent();
          if (column.isDebatable() && !(found && column.isPersonal())) {
            return;
          }
          boolean is = column.isPersonal();
          boolean same = found && column.kinds().contains(kind.get());
          personal[0] += is && found ? 1 : 0;
          personal[1] += found && !is ? 1 : 0;
          personal[2] += is && !found ? 1 : 0;
          exact[0] += is && same ? 1 : 0;
          exact[1] += found && !same ? 1 : 0;
          exact[2] += is && !same ? 1 : 0;
        });
    System.out.printf(
        Locale.ROOT,
        "%-16s personal or not: F1 %.3f (%d wrong, %d missed)   exact kind: F1 %.3f (%d wrong, %d missed)%n",
        what,
        f1(personal),
        personal[1],
        personal[2],
        f1(exact),
        exact[1],
        exact[2]);
  }

  private static double f1(int[] score) {
    double precision = (double) score[0] / Math.max(1, score[0] + score[1]);
    double recall = (double) score[0] / Math.max(1, score[0] + score[2]);
    return 2 * precision * recall / Math.max(1e-9, precision + recall);
  }
}
