package weft.store.door;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import weft.core.door.Door;
import weft.store.event.Change;
import weft.store.event.Changes;

/** Doors that every request asks for, kept in memory until one may be another, on any server. */
public final class KnownDoors {

    /** Of more it begins anew. */
    private static final int MOST = 10_000;

    private final Doors doors;
    private volatile Remembered known = new Remembered();

    /** Put away whole at each change, so that what was fetched before it is never met after it. */
    private static final class Remembered {

        private final Map<String, Door> byId = new ConcurrentHashMap<>();
        private final Map<String, List<Door>> twice = new ConcurrentHashMap<>();
    }

    /** Keeps what that gives until it hears of a change. */
    public KnownDoors(Doors doors, Changes changes) {
        this.doors = doors;
        changes.listenAtOnce(this::hear);
    }

    /** The door of that id, or empty. */
    public Optional<Door> find(String id) {
        var now = known();
        return Optional.ofNullable(now.byId.get(id)).or(() -> {
            var found = doors.find(id).map(Doors.StoredDoor::door);
            found.ifPresent(door -> now.byId.put(id, door));
            return found;
        });
    }

    /** The doors of a form at which papers are keyed a second time. */
    public List<Door> twice(String form) {
        var now = known();
        var there = now.twice.get(form);
        if (there != null) {
            return there;
        }
        var found = doors.of(form).stream()
                .map(Doors.StoredDoor::door)
                .filter(door -> door.twice().isPresent())
                .toList();
        now.twice.put(form, found);
        return found;
    }

    private Remembered known() {
        if (known.byId.size() > MOST) {
            known = new Remembered();
        }
        return known;
    }

    private void hear(Change change) {
        switch (change) {
            case Change.OfPublished _, Change.OfTable _, Change.Unheard _ -> known = new Remembered();
            case Change.OfRecord _, Change.OfRecords _, Change.OfWorkingCopy _ -> {
                // Doors stay as they are.
            }
        }
    }
}
