package weft.store.twice;

import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import weft.core.door.Door;
import weft.store.door.Doors;
import weft.store.event.Change;
import weft.store.event.Changes;

/** The doors of each form at which papers are keyed a second time: asked for at every save, and kept until one may be another. */
final class TwiceDoors {

    private final Doors doors;
    /** Put away whole at each change, so that what was fetched before it is never met after it. */
    private volatile Map<String, List<Door>> known = new ConcurrentHashMap<>();

    TwiceDoors(Doors doors, Changes changes) {
        this.doors = doors;
        changes.listenAtOnce(this::hear);
    }

    List<Door> of(String form) {
        var now = known;
        var there = now.get(form);
        if (there != null) {
            return there;
        }
        var found = doors.of(form).stream()
                .map(Doors.StoredDoor::door)
                .filter(door -> door.twice().isPresent())
                .toList();
        now.put(form, found);
        return found;
    }

    private void hear(Change change) {
        switch (change) {
            case Change.OfPublished _, Change.OfTable _, Change.Unheard _ -> known = new ConcurrentHashMap<>();
            case Change.OfRecord _, Change.OfRecords _, Change.OfWorkingCopy _ -> {
                // Doors stay as they are.
            }
        }
    }
}
