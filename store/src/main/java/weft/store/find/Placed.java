package weft.store.find;

import weft.core.find.Position;
import weft.core.record.StoredRow;

/**
 * A record and where it stands among those in view.
 *
 * @param cursor its place, from which next and previous lead on
 * @param first whether none comes before it
 * @param last whether none comes after it
 */
public record Placed(StoredRow record, Cursor cursor, Position position, boolean first, boolean last) {}
