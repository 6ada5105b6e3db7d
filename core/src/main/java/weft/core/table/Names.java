package weft.core.table;

import java.text.Normalizer;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Turns headings into titles for people and names for SQL. */
public final class Names {

    /** PostgreSQL cuts names at 63 bytes. */
    public static final int LONGEST_NAME = 63;
    /** Longer headings are cut, so that a label fits on a form. */
    public static final int LONGEST_TITLE = 120;

    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9_]{0,62}");

    /** Words of formulas (FEEL) that could be taken for more than a name there. */
    private static final Set<String> OF_FORMULAS = Set.of(
            "and between else every external false for function if in instance not null or return satisfies some then true"
                    .split(" "));

    /** Words that would need quotes in plain SQL: those reserved in PostgreSQL. */
    private static final Set<String> RESERVED =
            Set.of(("all analyse analyze and any array as asc asymmetric authorization binary both case cast"
                            + " check collate collation column concurrently constraint create cross current_catalog current_date"
                            + " current_role current_schema current_time current_timestamp current_user default deferrable desc"
                            + " distinct do else end except false fetch for foreign freeze from full grant group having ilike in"
                            + " initially inner intersect into is isnull join lateral leading left like limit localtime"
                            + " localtimestamp natural not notnull null offset on only or order outer overlaps placing primary"
                            + " references returning right select session_user similar some symmetric table tablesample then to"
                            + " trailing true union unique user using variadic verbose when where window with")
                    .split(" "));

    private Names() {}

    /** Whether formulas have a use of their own for the word, so that a column of that name stands in backticks there. */
    public static boolean ofFormulas(String word) {
        return OF_FORMULAS.contains(word);
    }

    /** Whether it can be a table's or a column's name: lower-case ASCII letters, digits and underscores, a letter first. */
    public static boolean isName(String name) {
        return NAME.matcher(name).matches();
    }

    /**
     * A heading as a title: underscores, dots and camelCase become words, blanks are put in order, the first letter is
     * a capital. A heading with nothing in it is called by its place, counted from 1.
     */
    public static String title(String heading, int place) {
        var words = heading.strip().replaceAll("[\\p{Cntrl}\\p{Z}]+", " ");
        if (!words.contains(" ")) {
            words = words.replaceAll(
                            "(?<=\\p{Ll}{2})(?=\\p{Lu})|(?<=\\p{Ll})(?=\\p{Lu}\\p{Ll})|(?<=[\\p{L}])\\.(?=[\\p{L}])",
                            " ")
                    .replace(". ", " ")
                    .replace('_', ' ');
            words = Arrays.stream(words.strip().split(" +"))
                    .map(Names::sentenceCase)
                    .collect(Collectors.joining(" "));
        }
        words = words.replaceAll("_+", " ").strip();
        if (words.isEmpty()) {
            return "Column " + place;
        }
        // "pH" is written so by those who know it.
        boolean asWritten = words.length() > 1 && Character.isUpperCase(words.charAt(1));
        var title = asWritten ? words : words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
        return title.length() <= LONGEST_TITLE
                ? title
                : title.substring(0, LONGEST_TITLE - 1).strip() + "…";
    }

    /** "Site" inside a title becomes "site"; "pH", "ID" and "EC2" stay as they are. */
    private static String sentenceCase(String word) {
        boolean plain = word.length() > 1
                && Character.isUpperCase(word.charAt(0))
                && word.substring(1).chars().allMatch(Character::isLowerCase);
        return plain ? word.toLowerCase(Locale.ROOT) : word;
    }

    /** Titles for all headings of a table, no two alike. */
    public static List<String> titles(List<String> headings) {
        var taken = new HashSet<String>();
        var titles = new java.util.ArrayList<String>();
        for (int i = 0; i < headings.size(); i++) {
            var title = title(headings.get(i), i + 1);
            var unique = title;
            for (int n = 2; !taken.add(unique.toLowerCase(Locale.ROOT)); n++) {
                unique = title + " " + n;
            }
            titles.add(unique);
        }
        return titles;
    }

    /**
     * A safe SQL name for a title: ASCII, no reserved word, at most 63 characters, none of those taken; it is added to
     * them. A title without Latin letters is called {@code column_N} by its place.
     */
    public static String name(String title, int place, Set<String> taken) {
        var latin = Normalizer.normalize(title.replace("ß", "ss").replace("°", " "), Normalizer.Form.NFKD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "_")
                .replaceAll("^_+|_+$", "");
        var base = latin.isEmpty() ? "column_" + place : Character.isDigit(latin.charAt(0)) ? "n" + latin : latin;
        base = cut(RESERVED.contains(base) || ofFormulas(base) ? base + "_" : base, LONGEST_NAME);
        var name = base;
        for (int n = 2; !taken.add(name); n++) {
            var ending = "_" + n;
            name = cut(base, LONGEST_NAME - ending.length()) + ending;
        }
        return name;
    }

    static String cut(String name, int length) {
        return name.length() <= length ? name : name.substring(0, length);
    }
}
