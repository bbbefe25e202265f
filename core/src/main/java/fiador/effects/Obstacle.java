package fiador.effects;

import java.time.Instant;
import java.util.BitSet;
import java.util.List;

/** Why a privilege is not held, or does not work. */
public sealed interface Obstacle {
  /** Does what is to be done with this kind. */
  <T> T match(Cases<T> cases);

  /**
   * One answer for each kind of obstacle.
   *
   * @param <T> what comes of it
   */
  interface Cases<T> {
    /** Of {@link NothingGivesIt}. */
    T nothingGivesIt(NothingGivesIt obstacle);

    /** Of {@link OnlyColumns}. */
    T onlyColumns(OnlyColumns obstacle);

    /** Of {@link MissingGate}. */
    T missingGate(MissingGate obstacle);

    /** Of {@link ClosedDatabase}. */
    T closedDatabase(ClosedDatabase obstacle);

    /** Of {@link UnderView}. */
    T underView(UnderView obstacle);

    /** Of {@link OwnerGone}. */
    T ownerGone(OwnerGone obstacle);

    /** Of {@link Withheld}. */
    T withheld(Withheld obstacle);

    /** Of {@link Guarded}. */
    T guarded(Guarded obstacle);

    /** Of {@link Denied}. */
    T denied(Denied obstacle);

    /** Of {@link Ended}. */
    T ended(Ended obstacle);

    /** Of {@link Disabled}. */
    T disabled(Disabled obstacle);

    /** Of {@link Over}. */
    T over(Over obstacle);
  }

  /** Nothing gives it. */
  record NothingGivesIt() implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.nothingGivesIt(this);
    }
  }

  /**
   * It is held, but only on some columns.
   *
   * @param columns their ordinals
   */
  record OnlyColumns(BitSet columns) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.onlyColumns(this);
    }
  }

  /**
   * A gate is missing.
   *
   * @param container where
   * @param privilege what is needed there, a single bit
   * @param atLogin whether it is needed already to log in
   * @param who the user, or the role they would have to switch to, that lacks it
   */
  record MissingGate(int container, long privilege, boolean atLogin, int who) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.missingGate(this);
    }
  }

  /**
   * The database accepts no connections at all.
   *
   * @param database which
   */
  record ClosedDatabase(int database) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.closedDatabase(this);
    }
  }

  /**
   * The view may be selected from, but what lies under it cannot be read.
   *
   * @param under which node
   * @param who the principal on whose right the reading depends
   */
  record UnderView(int under, int who) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.underView(this);
    }
  }

  /**
   * A view reads as an account that is no longer there, so nobody can read it.
   *
   * @param view the view itself or one under it
   */
  record OwnerGone(int view) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.ownerGone(this);
    }
  }

  /**
   * The owner has taken the privilege away from themselves, and may give it back.
   *
   * @param owner who
   */
  record Withheld(int owner) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.withheld(this);
    }
  }

  /**
   * The server keeps it for superusers.
   *
   * @param node the catalog table
   */
  record Guarded(int node) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.guarded(this);
    }
  }

  /**
   * Denials take it away, all of it or some columns.
   *
   * @param rows which of the estate's denials
   */
  record Denied(List<Integer> rows) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.denied(this);
    }
  }

  /** A membership or grant it came through has ended. */
  record Ended() implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.ended(this);
    }
  }

  /**
   * The account cannot log in.
   *
   * @param user which
   */
  record Disabled(int user) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.disabled(this);
    }
  }

  /** The account, or its secret, ended. */
  record Over(int user, Instant since) implements Obstacle {
    @Override
    public <T> T match(Cases<T> cases) {
      return cases.over(this);
    }
  }
}
