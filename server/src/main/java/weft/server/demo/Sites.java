package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;
import static weft.server.demo.Columns.unique;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** The places where samples are taken. */
final class Sites {

    static final List<String> RIVERS = List.of("Quill Beck", "Marrow Burn", "Tessel");

    /** A place: its code, its name and the river it lies on. */
    record Site(String code, String name, String river) {}

    static final List<Site> ALL = all();

    private Sites() {}

    private static List<Site> all() {
        var names = List.of(
                List.of(
                        "Mill tail",
                        "Long weir",
                        "Stepping stones",
                        "Ash bend",
                        "Sheepwash",
                        "Old ford",
                        "Tannery",
                        "Heron pool"),
                List.of(
                        "Spring head",
                        "Kirk bridge",
                        "Peat cut",
                        "Lower fall",
                        "Smithy",
                        "Drovers' gate",
                        "Alder carr",
                        "Sluice"),
                List.of(
                        "Ferry ramp",
                        "Island head",
                        "Boatyard",
                        "Poplar row",
                        "Railway arch",
                        "Osier bed",
                        "Ferry ramp east",
                        "Tide mark"));
        var codes = List.of("QB", "MB", "TS");
        var sites = new ArrayList<Site>();
        for (int river = 0; river < 3; river++) {
            for (int i = 0; i < 8; i++) {
                sites.add(new Site(
                        "%s-%02d".formatted(codes.get(river), i + 1),
                        names.get(river).get(i),
                        RIVERS.get(river)));
            }
        }
        return List.copyOf(sites);
    }

    static Table table() {
        return Columns.table(
                "sites",
                "Sites",
                required(unique(text("code", "Code", 6))),
                required(text("name", "Name", 30)),
                choice("river", "River", RIVERS),
                choice("bank", "Bank", List.of("left", "right", "both")),
                text("grid_reference", "Grid reference", 12),
                column("access_note", "Access note", ColumnType.LONGTEXT),
                column("in_use", "In use", ColumnType.YESNO));
    }

    static List<List<String>> rows(Random random) {
        var notes = List.of(
                "Park at the chapel; the gate is on the latch.",
                "Ask at the farm first.\nDogs.",
                "Slippery after rain; take the rope.",
                "Ten minutes on foot from the road.");
        return ALL.stream()
                .map(site -> List.of(
                        site.code(),
                        site.name(),
                        site.river(),
                        Columns.oneOf(random, List.of("left", "right", "both")),
                        "WQ %04d %04d".formatted(1000 + random.nextInt(9000), 1000 + random.nextInt(9000)),
                        Columns.gap(random, 40, Columns.oneOf(random, notes)),
                        random.nextInt(12) == 0 ? "no" : "yes"))
                .toList();
    }
}
