package fiador.report.text;

import fiador.effects.State;
import fiador.report.shown.Tone;

/** States as they are seen at a glance: a sign, the word, and a tone where there are colours. */
final class States {
  private States() {}

  static String of(State state) {
    return tone(state).of(sign(state) + " " + state.text());
  }

  static Tone tone(State state) {
    return switch (state) {
      case LIVE -> Tone.GOOD;
      case ON_REQUEST -> Tone.PARTLY;
      case BLOCKED, DENIED -> Tone.BAD;
      case LAPSED -> Tone.FAINT;
    };
  }

  private static char sign(State state) {
    return switch (state) {
      case LIVE -> '+';
      case ON_REQUEST -> '~';
      case BLOCKED -> '!';
      case DENIED -> 'x';
      case LAPSED -> '-';
    };
  }
}
