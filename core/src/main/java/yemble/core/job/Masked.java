package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import yemble.core.mask.Masks;
import yemble.core.plan.Limits;
import yemble.core.plan.Plan;
import yemble.core.plan.RowMasker;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;

/** The rows of a job's selection, and what they become. Belongs to one thread but where it says. */
public final class Masked {
  private final Reader source;
  private final Plan plan;
  private final Selection selection;
  private final Masks.Terms terms;
  private final Masks masks;
  private final List<Masks> furtherMasks = new ArrayList<>();

  public Masked(Reader source, Planned planned, Selection selection) {
    this.source = source;
    this.plan = planned.plan();
    this.selection = selection;
    this.terms = planned.masks();
    this.masks = new Masks(terms);
  }

  /** The masks of the thread that works on this job; always the same ones. */
  public Masks masks() {
    return masks;
  }

  /** What turns the rows of a table into those of the target; for one thread. */
  public RowMasker masker(TablePlan table) {
    return new RowMasker(source, plan, table, selection, masks);
  }

  /**
   * The same for one of several threads that work on a table at the same time.
   *
   * @param thread its number, from 0; 0 shares its masks with {@link #masker(TablePlan)}
   */
  public RowMasker masker(TablePlan table, int thread) {
    while (furtherMasks.size() < thread) {
      furtherMasks.add(new Masks(terms));
    }
    return new RowMasker(
        source, plan, table, selection, thread == 0 ? masks : furtherMasks.get(thread - 1));
  }

  /** Looks whether masked values meet the limits of their columns. */
  public Limits.Report look() {
    return Limits.of(source, plan, selection, masks);
  }

  /**
   * Whether masked values meet the limits of their columns.
   *
   * @param register the file whose decisions they follow
   * @throws Problem of type USAGE if they do not
   */
  Limits.Report limits(String register) {
    Limits.Report report = look();
    if (!report.own().isEmpty()) {
      throw Problem.of(
              Failure.PLUGIN_FAILED,
              report.own().size() == 1
                  ? "a mask of one's own does not keep its promise"
                  : report.own().size() + " masks of one's own do not keep their promise")
          .at(Project.FILE)
          .because(report.own())
          .remedy("mend it; yemble preview --check tries all of them on samples again");
    }
    if (!report.broken().isEmpty()) {
      throw Problem.of(
              Failure.MASKED_UNFIT,
              report.broken().size() == 1
                  ? "masked values would not fit their column"
                  : "masked values would not fit " + report.broken().size() + " columns")
          .at(Project.FILE)
          .because(report.broken())
          .remedy(
              "give the column a mask that fits, under columns: (for a key one that keeps values"
                  + " different: shape, pattern, digest); yemble preview --check looks again");
    }
    if (!report.unmasked().isEmpty()) {
      throw Problem.of(
              Failure.MASK_WITHOUT_EFFECT,
              report.unmasked().size() == 1
                  ? "a mask does not do what it is for"
                  : report.unmasked().size() + " masks do not do what they are for")
          .at(register)
          .because(report.unmasked())
          .remedy(
              "give the column another mask under columns:, like filler, fixed or clear, or, if"
                  + " nothing in it is personal, keep it with a reason");
    }
    return report;
  }
}
