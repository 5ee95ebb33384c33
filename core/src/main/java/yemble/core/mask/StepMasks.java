package yemble.core.mask;

import yemble.core.crypto.Prf;
import yemble.core.project.MaskStep;

/** Makes the masks of steps that no kind has a part in. */
final class StepMasks {
  private StepMasks() {}

  /**
   * The mask of a step.
   *
   * @param shape of what a step is not for: a number's mask of what is none
   * @throws IllegalArgumentException for a step that reads more than the value
   */
  static Mask of(MaskStep step, Prf prf, Shape shape) {
    if (step instanceof MaskStep.Fixed fixed) {
      return new Constant(fixed.value());
    }
    if (step instanceof MaskStep.Clear) {
      return new Constant(null);
    }
    if (step instanceof MaskStep.Hidden hidden) {
      return new Hidden(hidden.first(), hidden.last(), hidden.with());
    }
    if (step instanceof MaskStep.Replace replace) {
      return new Replacing(replace.found());
    }
    if (step instanceof MaskStep.FromList list) {
      return new OwnList(prf, list.values(), list.weights(), list.differs());
    }
    if (step instanceof MaskStep.Filler) {
      return new Filler(prf);
    }
    if (step instanceof MaskStep.Password password) {
      return new PasswordHash(prf, password.word(), new Shape(prf));
    }
    if (step instanceof MaskStep.Patterned patterned) {
      return new Patterned(prf, patterned.patterns());
    }
    if (step instanceof MaskStep.Digest digest) {
      return new KeyedDigest(prf, digest.length());
    }
    if (step instanceof MaskStep.Noise noise) {
      return new NumberNoise(prf, noise.most(), noise.percent(), shape);
    }
    if (step instanceof MaskStep.Range range) {
      return new NumberRange(prf, range.from(), range.to());
    }
    if (step instanceof MaskStep.Shift shift) {
      return new DateShift(prf, shift.seconds(), shape);
    }
    if (step instanceof MaskStep.Own own) {
      return new OwnWork(own.mask(), own.mask().with(own.options()), prf);
    }
    throw new IllegalArgumentException("no mask of a value alone: " + step.words());
  }
}
