package fiador.standin.house;

/**
 * What is needed on a container before anything in it can be used.
 *
 * @param container the kind of container
 * @param privilege what is needed there
 * @param login whether the roles decide that were on at login, and not those that are on now
 * @param own whether the container's own privileges need it too
 * @param sealed whether it stands at sealed containers alone, where no power gives what is needed
 */
public record Gate(
    String container, String privilege, boolean login, boolean own, boolean sealed) {}
