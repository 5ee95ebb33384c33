package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** An e-mail address as its kind has it, at a domain of the user's. */
public record MailAt(String domain) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "email-at",
          "`email-at: DOMAIN`",
          "an e-mail address as its kind has it, at a domain of your own",
          "{\"type\": \"string\"}",
          List.of("test.orlisay.example"),
          StepSort.Takes.NO_BYTES,
          Set.of(),
          MailAt::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    String domain = value.word();
    if (!domain.matches("[a-z0-9]([a-z0-9-]*[a-z0-9])?(\\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)+")) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "this is no domain")
          .remedy("write one of your own in small letters: test.orlisay.example");
    }
    return new MailAt(domain);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return "email at " + domain;
  }

  @Override
  public Mask mask(Making making) {
    return making.masks().emailAt(domain);
  }
}
