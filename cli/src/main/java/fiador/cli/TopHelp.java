package fiador.cli;

import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import java.util.List;

/** What is shown to one who has not said a command: all of them, in the order of the job. */
final class TopHelp {
  /** A command and what it is for, in one sentence. */
  private record Entry(String name, String says) {}

  private record Group(String title, List<Entry> entries) {}

  private static final List<Group> GROUPS =
      List.of(
          new Group(
              "Begin",
              List.of(
                  new Entry("tour", "Walks through the whole job on a made-up estate."),
                  new Entry("stand-in", "Runs a small warehouse server to try things on."),
                  new Entry("new", "Writes a commented charter to start from."),
                  new Entry("survey", "Reads a live server into a survey file."),
                  new Entry("adopt", "Drafts a charter from a survey of what is there."))),
          new Group(
              "Ask",
              List.of(
                  new Entry("holdings", "Lists all that a user holds, and whether it works."),
                  new Entry("holders", "Lists everybody who holds something on an object."),
                  new Entry("trace", "Says why a user may do something, or why not."),
                  new Entry("list", "Lists users, roles, members, grants, powers, policies."),
                  new Entry("draw", "Pictures: roles, a user, a thing, a matrix, a change."),
                  new Entry("page", "A page to explore an estate with, in one file."),
                  new Entry("preview", "Shows the rows and values of a table as a user gets them."),
                  new Entry("bypass", "Finds who gets round row and mask policies."),
                  new Entry("climb", "Finds what a user could gain by their own means."),
                  new Entry("history", "Tells who held what when, and what changed."))),
          new Group(
              "Say what there should be",
              List.of(
                  new Entry("check", "Finds all mistakes in a charter."),
                  new Entry("prove", "Tries whether the proofs of a charter hold."),
                  new Entry(
                      "gap", "Shows what a server lacks or has too much, and who is affected."),
                  new Entry("settle", "Makes a server what the charter says; can be undone."),
                  new Entry("secret", "Sets new secrets for accounts; ends old ones."))),
          new Group(
              "Tidy up",
              List.of(
                  new Entry("findings", "Finds what is wrong with an estate, and what mends it."),
                  new Entry("trim", "Finds roles and grants that nobody would miss."),
                  new Entry("sever", "Takes one privilege away with the least damage."))),
          new Group(
              "Many servers",
              List.of(
                  new Entry("sweep", "Works out hundreds of surveys into tables."),
                  new Entry("sweep who", "Tells who on all of them may do something."),
                  new Entry("sweep person", "Lists all that a person holds anywhere."),
                  new Entry("sweep changed", "Tells what was opened and closed anywhere."))),
          new Group(
              "Ask the owners",
              List.of(
                  new Entry("review open", "Opens a review of who has what."),
                  new Entry("review sheets", "Writes what each reviewer is asked."),
                  new Entry("review decide", "Takes the decisions in."),
                  new Entry("review status", "Says how far a review has come."),
                  new Entry("review refresh", "Asks again with the newest facts."),
                  new Entry("review close", "Writes the revocations and the evidence."),
                  new Entry("review verify", "Tries whether evidence is as it was written."),
                  new Entry("review key", "Makes a key that evidence is signed with."))),
          new Group(
              "For the shell",
              List.of(new Entry("completion", "Prints a script that completes commands."))));

  private TopHelp() {}

  /** The names of all commands, in the order of the job. */
  static List<String> names() {
    return GROUPS.stream().flatMap(group -> group.entries().stream()).map(Entry::name).toList();
  }

  /** The whole page. */
  static String text(int width) {
    StringBuilder text = new StringBuilder();
    text.append("Usage: fiador COMMAND [OPTIONS] [ARGUMENTS]\n\n");
    text.append(Tone.STRONG.of(Commands.PURPOSE)).append('\n');
    int longest = names().stream().mapToInt(String::length).max().orElse(0);
    for (Group group : GROUPS) {
      Columns lines = new Columns(width);
      for (Entry entry : group.entries()) {
        lines.line(entry.name() + " ".repeat(longest - entry.name().length()), entry.says());
      }
      text.append('\n').append(Tone.FAINT.of(group.title())).append('\n').append(lines.text());
    }
    return text.append(
            "\nfiador COMMAND --help says more, with examples; fiador --version which this is.\n")
        .append("Begin with: fiador tour\n")
        .toString();
  }
}
