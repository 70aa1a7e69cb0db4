import java.io.File;
import java.io.FileInputStream;
import org.verapdf.gf.foundry.VeraGreenfieldFoundryProvider;
import org.verapdf.pdfa.Foundries;
import org.verapdf.pdfa.PDFAParser;
import org.verapdf.pdfa.PDFAValidator;
import org.verapdf.pdfa.flavours.PDFAFlavour;
import org.verapdf.pdfa.results.TestAssertion;
import org.verapdf.pdfa.results.ValidationResult;

/**
 * Judges PDF files by veraPDF: each against the level of PDF/A that it declares, and against PDF/UA-1. Arguments are pairs of
 * a flavour (such as 2b or ua1) and a file. One line a failed rule; the last line counts.
 */
public class Judge {
  public static void main(String[] args) throws Exception {
    VeraGreenfieldFoundryProvider.initialise();
    int passed = 0, failed = 0;
    for (int i = 0; i + 1 < args.length; i += 2) {
      PDFAFlavour flavour = PDFAFlavour.fromString(args[i]);
      File file = new File(args[i + 1]);
      try (PDFAParser parser = Foundries.defaultInstance().createParser(new FileInputStream(file), flavour);
          PDFAValidator validator = Foundries.defaultInstance().createValidator(flavour, false)) {
        ValidationResult result = validator.validate(parser);
        if (result.isCompliant()) {
          passed++;
          continue;
        }
        failed++;
        result.getFailedChecks().forEach((rule, times) -> {
          String said = "";
          for (TestAssertion a : result.getTestAssertions()) {
            if (a.getRuleId().equals(rule)) {
              said = a.getMessage() + " " + a.getLocation().getContext();
            }
          }
          System.out.println(file.getName() + " " + flavour + ": " + rule.getClause() + "-" + rule.getTestNumber() + " failed " + times + " times: " + said);
        });
      }
    }
    System.out.println(passed + " passed, " + failed + " failed");
    System.exit(failed > 0 ? 1 : 0);
  }
}
