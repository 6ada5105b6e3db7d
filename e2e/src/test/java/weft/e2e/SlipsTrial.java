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
        return assessed(door, values)
                .valueStream()
                .anyMatch(finding -> finding.get("code").asString().equals(code));
    }

    private static JsonNode assessed(String door, Map<String, String> values) {
        return Running.api(
                        "/api/doors/" + door + "/assess",
                        JsonMapper.shared().writeValueAsString(Map.of("values", values)))
                .get("findings");
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
        // Whom the demo has in two spellings already is nobody else in either.
        var everybody =
                stored("volunteers").stream().map(each -> each.get("name")).toList();
        var names = everybody.stream().filter(name -> alike(name) == 1).toList();
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
            if (everybody.contains(name)) {
                i--;
            } else if (asked("volunteers", Map.of("name", name), "alike")) {
                falsely++;
            }
        }
        System.out.printf("Of %,d other people %d are asked about.%n", RIGHT, falsely);
    }

    /** How many stored volunteers a name is nearly the same as, itself among them. */
    private static int alike(String name) {
        return assessed("volunteers", Map.of("name", name))
                .valueStream()
                .filter(finding -> finding.get("code").asString().equals("alike"))
                .mapToInt(finding -> finding.at("/cause/records").size())
                .sum();
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
            var slip = one(List.of(Digits.values()));
            var typed = digits(slip, sample.get(column));
            if (typed.equals(sample.get(column)) || beyond(column, typed)) {
                continue;
            }
            sample.put(column, typed);
            var count = caught.computeIfAbsent(slip.words, _ -> new int[2]);
            count[0]++;
            i++;
            if (asked("samples", sample, "unusual")) {
                count[1]++;
            }
        }
        told("slips within bounds", caught);
        // The demo has a pH of 4.1 and less on purpose.
        var right = samples.stream()
                .filter(each -> new BigDecimal(each.get("ph")).doubleValue() > 4.1)
                .toList();
        long falsely =
                right.stream().filter(each -> asked("samples", each, "unusual")).count();
        System.out.printf(
                "Of %,d samples as they are stored %d are asked about, %.1f of 1,000.%n",
                right.size(), falsely, 1_000.0 * falsely / right.size());
    }

    private enum Digits {
        SWAPPED("two digits swapped"),
        LEFT_OUT("a digit left out"),
        DOUBLED("a digit doubled"),
        ANOTHER("another digit"),
        SIGN("the decimal sign elsewhere or left out");

        private final String words;

        Digits(String words) {
            this.words = words;
        }
    }

    private String digits(Digits slip, String number) {
        int at = random.nextInt(number.length());
        if (!Character.isDigit(number.charAt(at))) {
            return number;
        }
        var before = number.substring(0, at);
        var after = number.substring(at + 1);
        return switch (slip) {
            case SWAPPED -> {
                int other = after.startsWith(".") ? at + 2 : at + 1;
                yield other >= number.length()
                        ? number
                        : before
                                + number.charAt(other)
                                + number.substring(at + 1, other)
                                + number.charAt(at)
                                + number.substring(other + 1);
            }
            case LEFT_OUT -> before + after;
            case DOUBLED -> before + number.charAt(at) + number.substring(at);
            case ANOTHER -> before + random.nextInt(10) + after;
            case SIGN -> {
                var digits = number.replace(".", "");
                yield at == 0 || at >= digits.length() ? digits : digits.substring(0, at) + "." + digits.substring(at);
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
