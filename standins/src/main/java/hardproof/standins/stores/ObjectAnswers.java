package hardproof.standins.stores;

import hardproof.standins.stores.ObjectShelf.Version;
import java.io.StringWriter;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/** What an object store answers in XML. */
final class ObjectAnswers {
  private static final String SPACE = "http://s3.amazonaws.com/doc/2006-03-01/";

  private final StringWriter text = new StringWriter();
  private final XMLStreamWriter xml;

  private ObjectAnswers() throws XMLStreamException {
    xml = XMLOutputFactory.newInstance().createXMLStreamWriter(text);
    xml.writeStartDocument("UTF-8", "1.0");
  }

  /** What is to be written into it. */
  private interface Content {
    void write(ObjectAnswers a) throws XMLStreamException;
  }

  private static String of(String root, Content content) {
    try {
      ObjectAnswers a = new ObjectAnswers();
      a.xml.writeStartElement(root);
      a.xml.writeDefaultNamespace(SPACE);
      content.write(a);
      a.xml.writeEndElement();
      a.xml.writeEndDocument();
      a.xml.flush();
      return a.text.toString();
    } catch (XMLStreamException e) {
      throw new IllegalStateException(e);
    }
  }

  private void put(String name, Object value) throws XMLStreamException {
    xml.writeStartElement(name);
    xml.writeCharacters(String.valueOf(value));
    xml.writeEndElement();
  }

  static String error(String code) {
    return of("Error", a -> {
      a.put("Code", code);
      a.put("Message", code);
    });
  }

  static String versioning(boolean enabled) {
    return of("VersioningConfiguration", a -> {
      if (enabled) {
        a.put("Status", "Enabled");
      }
    });
  }

  static String retention(ObjectShelf.Lock lock) {
    return of("Retention", a -> {
      a.put("Mode", lock.mode());
      a.put("RetainUntilDate", lock.until());
    });
  }

  static String legalHold(boolean on) {
    return of("LegalHold", a -> a.put("Status", on ? "ON" : "OFF"));
  }

  /** One page of the newest versions of all keys that begin so, after a key. */
  static String list(
      NavigableMap<String, List<Version>> all, String prefix, String after, int most) {
    return of("ListBucketResult", a -> {
      a.put("EncodingType", "url");
      a.put("Prefix", SignedRequest.encoded(prefix));
      a.put("MaxKeys", most);
      int count = 0;
      String last = null;
      boolean more = false;
      for (Map.Entry<String, List<Version>> e : below(all, prefix, after)) {
        if (!e.getKey().startsWith(prefix)) {
          break;
        } else if (e.getValue().get(0).deleted()) {
          continue;
        } else if (count == most) {
          more = true;
          break;
        }
        a.object("Contents", e.getKey(), e.getValue().get(0));
        a.xml.writeEndElement();
        last = e.getKey();
        count++;
      }
      a.put("KeyCount", count);
      a.put("IsTruncated", more);
      if (more) {
        a.put("NextContinuationToken", SignedRequest.encoded(last));
      }
    });
  }

  private static Iterable<Map.Entry<String, List<Version>>> below(
      NavigableMap<String, List<Version>> all, String prefix, String after) {
    return (after == null || after.compareTo(prefix) < 0
            ? all.tailMap(prefix, true)
            : all.tailMap(after, false))
        .entrySet();
  }

  private void object(String element, String key, Version version) throws XMLStreamException {
    xml.writeStartElement(element);
    put("Key", SignedRequest.encoded(key));
    put("LastModified", at(version.modified()));
    if (!version.deleted()) {
      put("ETag", '"' + version.tag() + '"');
      put("Size", version.size());
      put("StorageClass", version.storageClass());
    }
  }

  /** One page of every version; the pages end between two keys. */
  static String versions(
      NavigableMap<String, List<Version>> all, String prefix, String after, int most) {
    return of("ListVersionsResult", a -> {
      a.put("EncodingType", "url");
      int count = 0;
      String last = null;
      boolean more = false;
      for (Map.Entry<String, List<Version>> e : below(all, prefix, after)) {
        if (!e.getKey().startsWith(prefix)) {
          break;
        } else if (count > 0 && count + e.getValue().size() > most) {
          more = true;
          break;
        }
        boolean latest = true;
        for (Version v : e.getValue()) {
          a.object(v.deleted() ? "DeleteMarker" : "Version", e.getKey(), v);
          a.put("VersionId", v.id());
          a.put("IsLatest", latest);
          a.xml.writeEndElement();
          latest = false;
          count++;
        }
        last = e.getKey();
      }
      a.put("IsTruncated", more);
      if (more) {
        a.put("NextKeyMarker", SignedRequest.encoded(last));
        a.put("NextVersionIdMarker", "last");
      }
    });
  }

  private static String at(Instant instant) {
    return instant.truncatedTo(ChronoUnit.MILLIS).toString();
  }
}
