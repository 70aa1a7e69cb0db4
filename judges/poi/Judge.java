import java.io.FileInputStream;
import java.util.ArrayList;
import java.util.Collection;
import org.apache.poi.xwpf.extractor.XWPFWordExtractor;
import org.apache.poi.xwpf.usermodel.XWPFDocument;
import org.apache.xmlbeans.XmlError;
import org.apache.xmlbeans.XmlObject;
import org.apache.xmlbeans.XmlOptions;

/** Opens word-processor files and holds their body, headers and footers against the schemas: a line a file, its faults and its words. */
public class Judge {
  public static void main(String[] files) throws Exception {
    for (String file : files) {
      try (XWPFDocument d = new XWPFDocument(new FileInputStream(file)); XWPFWordExtractor words = new XWPFWordExtractor(d)) {
        Collection<XmlError> faults = new ArrayList<>();
        validate(d.getDocument(), faults);
        d.getHeaderList().forEach(h -> validate(h._getHdrFtr(), faults));
        d.getFooterList().forEach(f -> validate(f._getHdrFtr(), faults));
        StringBuilder first = new StringBuilder();
        for (XmlError e : faults) {
          if (first.length() < 400) {
            first.append(e.getMessage()).append("; ");
          }
        }
        System.out.println(file + "\t" + faults.size() + "\t" + first.toString().replaceAll("\\s+", " ") + "\t"
            + words.getText().replaceAll("\\s+", " "));
      } catch (Exception e) {
        System.out.println(file + "\t-1\t" + e.toString().replaceAll("\\s+", " ") + "\t");
      }
    }
  }

  static void validate(XmlObject o, Collection<XmlError> faults) {
    Collection<XmlError> all = new ArrayList<>();
    o.validate(new XmlOptions().setErrorListener(all));
    for (XmlError e : all) { // ISO/IEC 29500-3 lets its attributes stand anywhere; the schemas of part 1 do not know them
      if (!e.getMessage().contains("openxmlformats.org/markup-compatibility")) {
        faults.add(e);
      }
    }
  }
}
