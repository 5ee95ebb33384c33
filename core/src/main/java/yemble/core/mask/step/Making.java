package yemble.core.mask.step;

import yemble.core.crypto.Prf;
import yemble.core.mask.Masks;
import yemble.core.mask.Settings;
import yemble.core.mask.shape.Shape;

/** What the mask of a step is made of. */
public interface Making {
  /** The kind of the column; empty for none. */
  String kind();

  /** The function in the step's scope. */
  Prf prf();

  /** The mask of what a step is not for: what is no number, for a mask of numbers. */
  Shape shape();

  /** What the rule says beside its steps. */
  Settings settings();

  /** All other masks. */
  Masks masks();
}
