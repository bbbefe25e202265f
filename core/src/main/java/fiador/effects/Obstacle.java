package fiador.effects;

import java.time.Instant;
import java.util.BitSet;

/** Why a privilege is not held, or does not work. */
public sealed interface Obstacle {
  /** Nothing gives it. */
  record NothingGivesIt() implements Obstacle {}

  /**
   * It is held, but only on some columns.
   *
   * @param columns their ordinals
   */
  record OnlyColumns(BitSet columns) implements Obstacle {}

  /**
   * A gate is missing.
   *
   * @param container where
   * @param privilege what is needed there, a single bit
   * @param atLogin whether it is needed already to log in
   * @param who the user, or the role he would have to switch to, that lacks it
   */
  record MissingGate(int container, long privilege, boolean atLogin, int who) implements Obstacle {}

  /**
   * The database accepts no connections at all.
   *
   * @param database which
   */
  record ClosedDatabase(int database) implements Obstacle {}

  /**
   * The view may be selected from, but what lies under it cannot be read.
   *
   * @param under which node
   * @param who the principal on whose right the reading depends
   */
  record UnderView(int under, int who) implements Obstacle {}

  /**
   * A view reads as an account that is no longer there, so nobody can read it.
   *
   * @param view the view itself or one under it
   */
  record OwnerGone(int view) implements Obstacle {}

  /**
   * The owner has taken the privilege away from himself, and may give it back.
   *
   * @param owner who
   */
  record Withheld(int owner) implements Obstacle {}

  /**
   * The server keeps it for superusers.
   *
   * @param node the catalog table
   */
  record Guarded(int node) implements Obstacle {}

  /** A denial takes it away. */
  record Denied() implements Obstacle {}

  /** A membership or grant it came through has ended. */
  record Ended() implements Obstacle {}

  /**
   * The account cannot log in.
   *
   * @param user which
   */
  record Disabled(int user) implements Obstacle {}

  /** The account, or its secret, ended. */
  record Over(int user, Instant since) implements Obstacle {}
}
