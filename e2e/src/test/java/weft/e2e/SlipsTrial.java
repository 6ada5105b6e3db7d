package weft.e2e;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * How many slips the demo's rules of what is nearly alike and of what is usual catch, and how often they ask about what is right:
 * {@code ./weft trial slips}. It prints what is told in {@code docs/rules.md}.
 */
@ExtendWith(Running.class)
class SlipsTrial {

    private static final int SLIPS = 100;
    private static final int RIGHT = 1_000;
    private static final List<String> READINGS = List.of("water_c", "ph", "oxygen_mg_l");

    private final Random random = new Random(31);

    @Test
    void slipsAreCaught() throws InterruptedException {
        rules();
        doubles();
        readings();
    }

    /** The demo's own, and two that the page of what is unusual offers. */
    private static void rules() throws InterruptedException {
        var form = (ObjectNode) Running.api("/api/forms/samples");
        var revision = Running.api("/api/forms/samples/bench").get("revision").asInt();
        form.get("rules").withArray("checks").addAll(List.of(usual("ph", ""), usual("oxygen_mg_l", """
                        {"column":"taken_on","of":"month"}""")));
        Running.put("/api/forms/samples", form.toString(), "\"" + revision + "\"");
        Running.api("/api/forms/samples/publish", "");
        while (!asked("samples", Map.of("ph", "14", "site_code", "QB-03"), "unusual")
                || !asked("samples", Map.of("oxygen_mg_l", "25", "taken_on", "2026-05-05"), "unusual")
                || !asked(
                        "samples",
                        Map.of("water_c", "35", "site_code", "QB-03", "taken_on", "2026-01-05"),
                        "unusual")) {
            Thread.sleep(200);
        }
    }

    private static JsonNode usual(String column, String by) {
        return JsonMapper.shared().readTree("""
                {"id":"usual-%s","asks":true,"stays":false,"message":"","rule":{"kind":"usual","column":"%s","by":[%s],"all":false}}""".formatted(column, column, by));
    }

    /** Whether an entry of those values is asked about in that way. */
    private static boolean asked(String door, Map<String, String> values, String code) {
        var findings = Running.api(
                        "/api/doors/" + door + "/assess",
                        JsonMapper.shared().writeValueAsString(Map.of("values", values)))
                .get("findings");
        return findings.valueStream()
                .anyMatch(finding -> finding.get("code").asString().equals(code));
    }

    private static List<Map<String, String>> stored(String door) {
        var rows = new ArrayList<Map<String, String>>();
        var next = "";
        do {
            var page = Running.api("/api/doors/" + door + "/records?limit=500" + next);
            page.get("records").forEach(record -> {
                var values = new TreeMap<String, String>();
                record.get("values").properties().stream()
                        .filter(each ->
                                each.getValue().isString() || each.getValue().isNumber())
                        .forEach(each ->
                                values.put(each.getKey(), each.getValue().asString()));
                rows.add(values);
            });
            next = page.get("next").isNull() ? "" : "&after=" + page.get("next").asString();
        } while (!next.isEmpty());
        return rows;
    }

    private <T> T one(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    /** Volunteers keyed a second time with a slip; and people who are nobody there, of the same names put together otherwise. */
    private void doubles() {
        var names = stored("volunteers").stream().map(each -> each.get("name")).toList();
        var caught = new TreeMap<String, int[]>();
        for (int i = 0; i < SLIPS; i++) {
            var slip = Slip.values()[i % Slip.values().length];
            var count = caught.computeIfAbsent(slip.words, _ -> new int[2]);
            count[0]++;
            if (asked("volunteers", Map.of("name", slipped(slip, one(names))), "alike")) {
                count[1]++;
            }
        }
        told("doubles of volunteers", caught);
        int falsely = 0;
        for (int i = 0; i < RIGHT; i++) {
            var name = one(names).split(" ")[0] + " " + last(one(names));
            if (names.contains(name)) {
                i--;
            } else if (asked("volunteers", Map.of("name", name), "alike")) {
                falsely++;
            }
        }
        System.out.printf("Of %,d other people %d are asked about.%n", RIGHT, falsely);
    }

    private static String last(String name) {
        return name.substring(name.lastIndexOf(' ') + 1);
    }

    private enum Slip {
        SWAPPED("two letters swapped"),
        LEFT_OUT("a letter left out"),
        DOUBLED("a letter doubled"),
        ANOTHER("another letter"),
        TURNED("the last name first"),
        CASE("no capitals, a blank too many"),
        SOUND("spelled as it sounds");

        private final String words;

        Slip(String words) {
            this.words = words;
        }
    }

    private String slipped(Slip slip, String name) {
        int at = random.nextInt(1, name.length() - 1);
        return switch (slip) {
            case SWAPPED ->
                name.charAt(at) == name.charAt(at + 1)
                                || name.substring(at, at + 2).contains(" ")
                        ? slipped(slip, name)
                        : name.substring(0, at) + name.charAt(at + 1) + name.charAt(at) + name.substring(at + 2);
            case LEFT_OUT ->
                name.charAt(at) == ' ' ? slipped(slip, name) : name.substring(0, at) + name.substring(at + 1);
            case DOUBLED -> name.substring(0, at) + name.charAt(at) + name.substring(at);
            case ANOTHER ->
                name.charAt(at) == ' '
                        ? slipped(slip, name)
                        : name.substring(0, at) + (char) ('a' + random.nextInt(26)) + name.substring(at + 1);
            case TURNED -> last(name) + ", " + name.substring(0, name.lastIndexOf(' '));
            case CASE -> name.toLowerCase().replace(" ", "  ");
            case SOUND ->
                Stream.of("ph:f", "ck:k", "ie:y", "y:ie", "f:ph", "c:k", "k:ck", "nn:n", "n:nn", "ll:l", "l:ll", "s:ss")
                        .map(each -> each.split(":"))
                        .filter(each -> name.contains(each[0]))
                        .findFirst()
                        .map(each -> name.replaceFirst(each[0], each[1]))
                        .orElse(name);
        };
    }

    /** Stored samples with a slip in one reading that its column takes all the same; and samples as they are. */
    private void readings() {
        var samples = stored("samples").stream()
                .filter(each -> READINGS.stream().allMatch(each::containsKey))
                .toList();
        var caught = new TreeMap<String, int[]>();
        for (int i = 0; i < SLIPS; ) {
            var sample = new TreeMap<>(one(samples));
            var column = READINGS.get(i % READINGS.size());
            var typed = digits(sample.get(column));
            if (typed.equals(sample.get(column)) || beyond(column, typed)) {
                continue;
            }
            sample.put(column, typed);
            var count = caught.computeIfAbsent(column, _ -> new int[2]);
            count[0]++;
            i++;
            if (asked("samples", sample, "unusual")) {
                count[1]++;
            }
        }
        told("slips within bounds", caught);
        int falsely = 0;
        for (int i = 0; i < RIGHT; i++) {
            if (asked("samples", one(samples), "unusual")) {
                falsely++;
            }
        }
        System.out.printf("Of %,d samples as they are stored %d are asked about.%n", RIGHT, falsely);
    }

    /** A digit swapped with the next, left out, doubled, or another one; or the decimal sign left out or elsewhere. */
    private String digits(String number) {
        var text = number;
        int at = random.nextInt(text.length());
        if (!Character.isDigit(text.charAt(at))) {
            return text;
        }
        return switch (random.nextInt(5)) {
            case 0 -> text.substring(0, at) + text.substring(at + 1);
            case 1 -> text.substring(0, at) + text.charAt(at) + text.substring(at);
            case 2 -> text.substring(0, at) + random.nextInt(10) + text.substring(at + 1);
            case 3 -> text.replace(".", "");
            default -> {
                int point = text.indexOf('.');
                yield point < 1
                        ? text
                        : text.substring(0, point - 1) + "." + text.charAt(point - 1) + text.substring(point + 1);
            }
        };
    }

    private static boolean beyond(String column, String typed) {
        try {
            var number = new BigDecimal(typed);
            var most = Map.of("water_c", 35, "ph", 14, "oxygen_mg_l", 25).get(column);
            var least = column.equals("water_c") ? -2 : 0;
            return number.scale() > 1
                    || number.compareTo(BigDecimal.valueOf(least)) < 0
                    || number.compareTo(BigDecimal.valueOf(most)) > 0;
        } catch (NumberFormatException unreadable) {
            return true;
        }
    }

    private static void told(String what, Map<String, int[]> caught) {
        int all = caught.values().stream().mapToInt(each -> each[0]).sum();
        int found = caught.values().stream().mapToInt(each -> each[1]).sum();
        System.out.printf(
                "Of %d %s %d are asked about: %s.%n",
                all,
                what,
                found,
                caught.entrySet().stream()
                        .map(each -> "%s %d of %d".formatted(each.getKey(), each.getValue()[1], each.getValue()[0]))
                        .collect(Collectors.joining(", ")));
    }
}
