package weft.core.alike;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Made-up names, and how people slip when they key one again. */
final class Slips {

    private static final List<String> BEGINNINGS = List.of(
            "Mar", "Jo", "An", "El", "Ka", "Ste", "Phi", "Ro", "Li", "Be", "Th", "Sa", "Wil", "Chris", "Da", "Fre",
            "Gre", "Hen", "Is", "Ju");
    private static final List<String> MIDDLES =
            List.of("ia", "han", "na", "is", "ri", "ven", "lip", "ber", "nda", "o", "le", "tt", "ra", "ü", "ne");
    private static final List<String> ENDS =
            List.of("ne", "s", "a", "th", "n", "rt", "e", "lla", "der", "ck", "son", "mann", "ley", "é", "ova");

    private final Random random;

    /** From that source of chance. */
    Slips(Random random) {
        this.random = random;
    }

    private String word() {
        var word = one(BEGINNINGS) + (random.nextInt(3) == 0 ? "" : one(MIDDLES)) + one(MIDDLES) + one(ENDS);
        return Character.toUpperCase(word.charAt(0)) + word.substring(1).toLowerCase();
    }

    private <T> T one(List<T> all) {
        return all.get(random.nextInt(all.size()));
    }

    /** A name of two or three words. */
    String name() {
        return IntStream.range(0, 2 + random.nextInt(2)).mapToObj(_ -> word()).collect(Collectors.joining(" "));
    }

    /** A name keyed again, with one of the slips that people make. */
    String again(String name) {
        return switch (random.nextInt(7)) {
            case 0 -> letter(name, (before, at) -> before.deleteCharAt(at));
            case 1 -> letter(name, (before, at) -> before.insert(at, before.charAt(at)));
            case 2 -> letter(name, (before, at) -> before.setCharAt(at, (char) ('a' + random.nextInt(26))));
            case 3 ->
                letter(name, (before, at) -> {
                    char turned = before.charAt(at);
                    before.setCharAt(at, before.charAt(at - 1));
                    before.setCharAt(at - 1, turned);
                });
            case 4 -> reversed(name);
            case 5 -> name.toUpperCase().replace(' ', random.nextBoolean() ? '-' : '.');
            default -> name.replace("ü", "u").replace("é", "e") + ".";
        };
    }

    private static String reversed(String name) {
        return String.join(", ", new ArrayList<>(List.of(name.split(" "))).reversed());
    }

    private interface Slip {
        void in(StringBuilder name, int at);
    }

    /** At a letter that has one before it in its word. */
    private String letter(String name, Slip slip) {
        var slipped = new StringBuilder(name);
        int at;
        do {
            at = 1 + random.nextInt(name.length() - 1);
        } while (name.charAt(at) == ' ' || name.charAt(at - 1) == ' ');
        slip.in(slipped, at);
        return slipped.toString();
    }
}
