package fiador.files.charter;

import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.estate.Power;
import fiador.files.yaml.Yaml.Scalar;
import fiador.findings.check.Limits;
import fiador.findings.check.Waiver;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What the files say, before it is known whether all names lead somewhere. */
final class Draft {
  /** A role as written. */
  record RoleEntry(
      Scalar name,
      String purpose,
      List<Scalar> includes,
      List<Sentence> may,
      List<Sentence> mayNot,
      List<Scalar> owns) {}

  /** A user as written. */
  record UserEntry(
      Scalar name, String kind, List<Scalar> roles, List<Sentence> may, Wanted.LoginTerms login) {}

  Scalar estate;
  final Map<String, Charter.ServerEntry> servers = new LinkedHashMap<>();
  Charter.LedgerEntry ledger = Charter.LedgerEntry.USUAL;
  final Map<String, RoleEntry> roles = new LinkedHashMap<>();
  final Map<String, UserEntry> users = new LinkedHashMap<>();
  final Map<String, String> knownIn = new LinkedHashMap<>();
  final Map<String, Set<Power>> powers = new LinkedHashMap<>();
  final Map<String, Scalar> was = new LinkedHashMap<>();

  /** What users are called, by server. */
  final Map<String, Map<Scalar, List<Scalar>>> accounts = new LinkedHashMap<>();

  final List<Scalar> governedSchemas = new ArrayList<>();
  final List<Scalar> governedRoles = new ArrayList<>();
  final List<Scalar> governedUsers = new ArrayList<>();
  boolean governsEverybody;
  final List<Scalar> everybodysRoles = new ArrayList<>();
  final List<Sentence> everybodyMay = new ArrayList<>();
  Scalar umbrella;
  final Map<String, Scalar> namePatterns = new LinkedHashMap<>();
  final Map<Scalar, List<Scalar>> dutyConflicts = new LinkedHashMap<>();
  final List<Scalar> proofs = new ArrayList<>();
  boolean decidesSight;
  final Map<String, Map<String, List<Scalar>>> attributes = new LinkedHashMap<>();
  final Map<Scalar, List<Scalar>> labels = new LinkedHashMap<>();
  final Map<String, SightSections.LookupEntry> lookups = new LinkedHashMap<>();
  final Map<String, SightSections.RowsEntry> rowPolicies = new LinkedHashMap<>();
  final Map<String, SightSections.MaskEntry> maskPolicies = new LinkedHashMap<>();
  final Map<String, SightSections.SealEntry> seals = new LinkedHashMap<>();
  final List<Waiver> waivers = new ArrayList<>();
  final Map<String, String> reviewKeys = new LinkedHashMap<>();
  Limits limits = Limits.USUAL;
  final List<Place> heads = new ArrayList<>();
}
