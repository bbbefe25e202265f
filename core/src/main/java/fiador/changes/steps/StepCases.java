package fiador.changes.steps;

/**
 * One answer for each kind of step. Whoever implements it has thought of every kind.
 *
 * @param <T> what comes of it; Void for nothing
 */
public interface StepCases<T> {
  /** Of {@link CreateRole}. */
  T createRole(CreateRole step);

  /** Of {@link DropRole}. */
  T dropRole(DropRole step);

  /** Of {@link CreateUser}. */
  T createUser(CreateUser step);

  /** Of {@link DropUser}. */
  T dropUser(DropUser step);

  /** Of {@link Rename}. */
  T rename(Rename step);

  /** Of {@link LetLogIn}. */
  T letLogIn(LetLogIn step);

  /** Of {@link LimitInTime}. */
  T limitInTime(LimitInTime step);

  /** Of {@link LimitAccount}. */
  T limitAccount(LimitAccount step);

  /** Of {@link SetPower}. */
  T setPower(SetPower step);

  /** Of {@link GiveRole}. */
  T giveRole(GiveRole step);

  /** Of {@link TakeRole}. */
  T takeRole(TakeRole step);

  /** Of {@link TakeOver}. */
  T takeOver(TakeOver step);

  /** Of {@link LetIn}. */
  T letIn(LetIn step);

  /** Of {@link DefaultRole}. */
  T defaultRole(DefaultRole step);

  /** Of {@link Grant}. */
  T grant(Grant step);

  /** Of {@link Revoke}. */
  T revoke(Revoke step);

  /** Of {@link AddOption}. */
  T addOption(AddOption step);

  /** Of {@link TakeOption}. */
  T takeOption(TakeOption step);

  /** Of {@link Deny}. */
  T deny(Deny step);

  /** Of {@link GrantLater}. */
  T grantLater(GrantLater step);

  /** Of {@link RevokeLater}. */
  T revokeLater(RevokeLater step);

  /** Of {@link ChangeOwner}. */
  T changeOwner(ChangeOwner step);

  /** Of all that is about rows and columns; {@link SightCases} tells those apart. */
  T sight(SightStep step);
}
