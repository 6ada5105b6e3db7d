package weft.store.find;

import java.util.Optional;

/** The records of one view, by one of the two ways of getting at them. */
interface Found {

    Optional<Placed> place(Goal goal);

    Page page(Optional<String> after, int limit);

    Page pageFrom(long from, int limit);
}
