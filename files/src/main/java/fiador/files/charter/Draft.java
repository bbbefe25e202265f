package fiador.files.charter;

import fiador.changes.Wanted.Place;
import fiador.files.charter.Yaml.Scalar;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What the files say, before it is known whether all names lead somewhere. */
final class Draft {
  /** A role as written. */
  record RoleEntry(Scalar name, String purpose, List<Scalar> includes, List<Sentence> may) {}

  /** A user as written. */
  record UserEntry(Scalar name, String kind, List<Scalar> roles) {}

  Scalar estate;
  final Map<String, Charter.ServerEntry> servers = new LinkedHashMap<>();
  final Map<String, RoleEntry> roles = new LinkedHashMap<>();
  final Map<String, UserEntry> users = new LinkedHashMap<>();
  final List<Place> heads = new ArrayList<>();
}
