package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One thing to do on a server, by names as the server stores them. Each kind says what it is about,
 * and whoever treats each kind its own way does so with {@link StepCases}, so that the compiler
 * asks everybody about a new one.
 */
public sealed interface Step
    permits CreateRole,
        DropRole,
        CreateUser,
        DropUser,
        Rename,
        LetLogIn,
        LimitInTime,
        LimitAccount,
        SetPower,
        GiveRole,
        TakeRole,
        TakeOver,
        LetIn,
        DefaultRole,
        Grant,
        Revoke,
        AddOption,
        TakeOption,
        Deny,
        GrantLater,
        RevokeLater,
        ChangeOwner,
        SightStep {

  /** What takes this step back. */
  Step inverse();

  /** What it is on, whom it concerns, in which database, and what it does there. */
  About about();

  /** Does what is to be done with this kind of step. */
  <T> T match(StepCases<T> cases);

  /** Whether it leaves everybody what they have, so that there is nothing to take back. */
  default boolean takesOver() {
    return about().turn() == Turn.TAKES_OVER;
  }

  /** The users and roles that have to be there. */
  default List<String> principals() {
    return about().principals();
  }

  /** The thing that has to be there; null for none. */
  default @Nullable On on() {
    return about().on();
  }

  /** The columns of it that have to be there. */
  default List<String> columnNames() {
    return about().columns();
  }
}
