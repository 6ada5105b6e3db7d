package weft.store.form;

import static weft.store.form.Wire.constant;
import static weft.store.form.Wire.list;
import static weft.store.form.Wire.object;
import static weft.store.form.Wire.texts;
import static weft.store.form.Wire.wire;

import java.util.LinkedHashMap;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.rule.Step.Steps;
import weft.core.table.Constraint;
import weft.core.table.Faults;

/** The rules of a form in JSON: a member for each part of a rule, and {@code kind} where there are several of one sort. */
public final class RulesJson {

    private RulesJson() {}

    /** The rules as a tree. */
    static ObjectNode write(Rules rules) {
        var object = object();
        object.set("checks", list(rules.checks(), RulesJson::write));
        object.set("fills", list(rules.fills(), RulesJson::write));
        object.set("formulas", list(rules.formulas(), RulesJson::write));
        object.set("choices", list(rules.choices(), RulesJson::write));
        object.set("numbers", list(rules.numbers(), RulesJson::write));
        object.set("steps", list(rules.steps(), RulesJson::write));
        object.set("practice", list(rules.practice(), RulesJson::write));
        return object;
    }

    /** A single rule as it stands in a form document; what holds between records, as it is asked of its table. */
    public static ObjectNode write(Declaration rule) {
        return switch (rule) {
            case Check check -> write(check);
            case Fill fill -> write(fill);
            case Derived derived -> write(derived);
            case Choices choices -> write(choices);
            case Numbering numbering -> write(numbering);
            case Placed placed -> StepsJson.write(placed.step());
            case Between(var constraint) -> write(constraint);
        };
    }

    private static ObjectNode write(Constraint constraint) {
        return switch (constraint) {
            case Constraint.Unique(var _, var columns, var message) -> {
                var object = object().put("kind", "unique");
                object.set("columns", texts(columns));
                yield object.put("message", message);
            }
            case Constraint.NoOverlap(var _, var same, var from, var to, var message) -> {
                var object = object().put("kind", "overlap");
                object.set("columns", texts(same));
                yield object.put("from", from).put("to", to).put("message", message);
            }
        };
    }

    private static ObjectNode write(Derived derived) {
        return object().put("target", derived.target())
                .put("what", wire(derived.what()))
                .put("formula", derived.formula());
    }

    private static ObjectNode write(Numbering numbering) {
        return object().put("column", numbering.column()).put("pattern", numbering.pattern());
    }

    private static ObjectNode write(Check check) {
        var object = object().put("id", check.id());
        object.set("rule", write(check.rule()));
        return object.put("asks", check.asks()).put("stays", check.stays()).put("message", check.message());
    }

    private static ObjectNode write(Check.Rule rule) {
        var object = object();
        switch (rule) {
            case Check.AnyOf(var columns) -> object.put("kind", "any-of").set("columns", texts(columns));
            case Check.Range(var column, var from, var to) ->
                object.put("kind", "range")
                        .put("column", column)
                        .put("from", from)
                        .put("to", to);
            case Check.Length(var column, int from, int to) ->
                object.put("kind", "length")
                        .put("column", column)
                        .put("from", from)
                        .put("to", to);
            case Check.Matches(var column, var pattern) ->
                object.put("kind", "matches").put("column", column).put("pattern", pattern);
            case Check.OneOf(var column, var list) ->
                object.put("kind", "one-of").put("column", column).set("list", texts(list));
            case Check.Needs(var column, var other) ->
                object.put("kind", "needs").put("column", column).put("other", other);
            case Check.Holds(var formula, var column) ->
                object.put("kind", "holds").put("formula", formula).put("column", column);
            case Check.Complete(var columns) -> object.put("kind", "complete").set("columns", texts(columns));
        }
        return object;
    }

    private static ObjectNode write(Fill fill) {
        var object = object().put("id", fill.id()).put("table", fill.table());
        object.set("keys", list(fill.keys(), RulesJson::write));
        object.set("brings", list(fill.brings(), RulesJson::write));
        return object.put("none", wire(fill.none()))
                .put("several", wire(fill.several()))
                .put("writesBack", fill.writesBack());
    }

    private static ObjectNode write(Fill.Tie tie) {
        return object().put("column", tie.column()).put("source", tie.source());
    }

    private static ObjectNode write(Choices choices) {
        var object = object().put("column", choices.column())
                .put("table", choices.table())
                .put("source", choices.source())
                .put("shown", choices.shown());
        object.set("when", list(choices.when(), RulesJson::write));
        return object.put("open", choices.open());
    }

    private static ObjectNode write(Steps steps) {
        var object = object().put("when", steps.when());
        object.set("steps", list(steps.steps(), StepsJson::write));
        return object;
    }

    private static ObjectNode write(Practice practice) {
        var object = object().put("id", practice.id()).put("name", practice.name());
        object.set("typed", write(practice.typed()));
        object.set("answers", write(practice.answers()));
        object.put("outcome", wire(practice.outcome())).put("code", practice.code());
        object.set("values", write(practice.values()));
        return object;
    }

    private static ObjectNode write(Map<String, String> texts) {
        var object = object();
        texts.forEach(object::put);
        return object;
    }

    /** The rules of a tree that the JSON Schema of forms has passed; none where there is none. */
    static Rules read(JsonNode rules) {
        return rules.isMissingNode()
                ? Rules.NONE
                : new Rules(
                        list(rules.get("checks"), RulesJson::check),
                        list(rules.get("fills"), RulesJson::fill),
                        list(rules.get("formulas"), RulesJson::derived),
                        list(rules.get("choices"), RulesJson::choices),
                        list(rules.get("numbers"), RulesJson::numbering),
                        list(
                                rules.get("steps"),
                                each -> new Steps(
                                        each.get("when").asString(), list(each.get("steps"), StepsJson::step))),
                        list(rules.get("practice"), RulesJson::practice));
    }

    /**
     * A check that somebody sent alone.
     *
     * @throws Faults naming each place where it is none
     */
    public static Check readCheck(JsonNode check) {
        return check(sound("check", check));
    }

    /**
     * A rule that somebody sent alone.
     *
     * @param part the member of a form's rules that it belongs in, or "between" for what a table keeps
     * @param when for a step, the place of it
     * @throws Faults naming each place where it is none
     */
    public static Declaration read(String part, String when, JsonNode rule) {
        return switch (part) {
            case "checks" -> readCheck(rule);
            case "fills" -> fill(sound("fill", rule));
            case "formulas" -> derived(sound("derived", rule));
            case "choices" -> choices(sound("choices", rule));
            case "numbers" -> numbering(sound("numbering", rule));
            case "steps" -> new Placed(when, StepsJson.step(sound("step", rule)));
            case "between" -> new Between(readConstraint(rule));
            default ->
                throw new Faults(
                        "part", "Rules are checks, fills, formulas, choices, numbers, steps, or between records.");
        };
    }

    private static JsonNode sound(String part, JsonNode rule) {
        FormSchema.checkPart(part, rule);
        return rule;
    }

    private static Derived derived(JsonNode derived) {
        return new Derived(
                derived.get("target").asString(),
                constant(Derived.What.class, derived.get("what")),
                derived.get("formula").asString());
    }

    private static Numbering numbering(JsonNode numbering) {
        return new Numbering(
                numbering.get("column").asString(), numbering.get("pattern").asString());
    }

    /**
     * What is to hold between records, as it is asked of a table.
     *
     * @throws Faults when it is no such thing
     */
    public static Constraint readConstraint(JsonNode constraint) {
        var columns = texts(constraint.path("columns"));
        var message = constraint.path("message").asString("").strip();
        return switch (constraint.path("kind").asString("")) {
            case "unique" -> new Constraint.Unique("", columns, message);
            case "overlap" ->
                new Constraint.NoOverlap(
                        "",
                        columns,
                        constraint.path("from").asString(""),
                        constraint.path("to").asString(""),
                        message);
            default -> throw new Faults("kind", "A check between records is unique or overlap.");
        };
    }

    private static Check check(JsonNode check) {
        return new Check(
                check.get("id").asString(),
                rule(check.get("rule")),
                check.get("asks").asBoolean(),
                check.get("stays").asBoolean(),
                check.get("message").asString());
    }

    private static Check.Rule rule(JsonNode rule) {
        var column = rule.path("column").asString("");
        return switch (rule.get("kind").asString()) {
            case "any-of" -> new Check.AnyOf(texts(rule.get("columns")));
            case "range" ->
                new Check.Range(
                        column, rule.get("from").asString(), rule.get("to").asString());
            case "length" ->
                new Check.Length(
                        column, rule.get("from").asInt(), rule.get("to").asInt());
            case "matches" -> new Check.Matches(column, rule.get("pattern").asString());
            case "one-of" -> new Check.OneOf(column, texts(rule.get("list")));
            case "needs" -> new Check.Needs(column, rule.get("other").asString());
            case "holds" -> new Check.Holds(rule.get("formula").asString(), column);
            case "complete" -> new Check.Complete(texts(rule.get("columns")));
            case String other -> throw new IllegalStateException(other);
        };
    }

    private static Fill fill(JsonNode fill) {
        return new Fill(
                fill.get("id").asString(),
                fill.get("table").asString(),
                list(fill.get("keys"), RulesJson::tie),
                list(fill.get("brings"), RulesJson::tie),
                constant(Fill.None.class, fill.get("none")),
                constant(Fill.Several.class, fill.get("several")),
                fill.get("writesBack").asBoolean());
    }

    private static Fill.Tie tie(JsonNode tie) {
        return new Fill.Tie(tie.get("column").asString(), tie.get("source").asString());
    }

    private static Choices choices(JsonNode choices) {
        return new Choices(
                choices.get("column").asString(),
                choices.get("table").asString(),
                choices.get("source").asString(),
                choices.get("shown").asString(),
                list(choices.get("when"), RulesJson::tie),
                choices.get("open").asBoolean());
    }

    private static Practice practice(JsonNode practice) {
        return new Practice(
                practice.get("id").asString(),
                practice.get("name").asString(),
                map(practice.get("typed")),
                map(practice.get("answers")),
                constant(Practice.Outcome.class, practice.get("outcome")),
                practice.get("code").asString(),
                map(practice.get("values")));
    }

    private static Map<String, String> map(JsonNode object) {
        var map = new LinkedHashMap<String, String>();
        object.properties()
                .forEach(each -> map.put(each.getKey(), each.getValue().asString()));
        return map;
    }
}
