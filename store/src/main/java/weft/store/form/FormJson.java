package weft.store.form;

import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.core.form.Form;
import weft.core.form.FormLines;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Step;
import weft.core.table.Constraint;
import weft.core.table.Faults;

/** Form documents in JSON, in Weft's own format. Version 3 is written; version 1, which knew
 * fields only, and version 2, which knew no rules, are still read. */
public final class FormJson {

    /** The version of the format that is written. */
    public static final int VERSION = 3;

    private static final String PART = "part";
    private static final String RULE = "rule";
    private static final JsonMapper JSON = FormMixIns.mapper();

    private FormJson() {}

    /** The document of a form. */
    public static String write(Form form) {
        return node(form).toString();
    }

    /** The document of a form, as a tree. */
    public static ObjectNode node(Form form) {
        ObjectNode members = JSON.valueToTree(form);
        return JSON.createObjectNode()
                .put("format", "weft-form")
                .put("formatVersion", VERSION)
                .setAll(members);
    }

    /** Lines as they stand in a document. */
    public static ObjectNode lines(FormLines lines) {
        return JSON.valueToTree(lines);
    }

    /** A rule that stands alone: with the member of a form's rules that it belongs in, or "between" for what a table keeps. */
    public static ObjectNode declared(Declaration rule) {
        var alone = JSON.createObjectNode();
        switch (rule) {
            case Check check -> alone.put(PART, "checks").set(RULE, JSON.valueToTree(check));
            case Fill fill -> alone.put(PART, "fills").set(RULE, JSON.valueToTree(fill));
            case Derived derived -> alone.put(PART, "formulas").set(RULE, JSON.valueToTree(derived));
            case Choices choices -> alone.put(PART, "choices").set(RULE, JSON.valueToTree(choices));
            case Numbering numbering -> alone.put(PART, "numbers").set(RULE, JSON.valueToTree(numbering));
            case Placed(var when, var step) ->
                alone.put(PART, "steps").put("when", when).set(RULE, JSON.valueToTree(step));
            case Between(var constraint) -> {
                ObjectNode bare = JSON.valueToTree(constraint);
                bare.remove("id");
                alone.put(PART, "between").set(RULE, bare);
            }
        }
        return alone;
    }

    /**
     * The rule that {@link #declared} wrote, or somebody sent.
     *
     * @throws Faults naming each place where it is none
     */
    public static Declaration readDeclared(JsonNode alone) {
        FormSchema.checkPart("declared", alone);
        var whole = FormSchema.wholePart("declared", alone);
        var rule = whole.get(RULE);
        return switch (whole.get(PART).asString()) {
            case "checks" -> JSON.treeToValue(rule, Check.class);
            case "fills" -> JSON.treeToValue(rule, Fill.class);
            case "formulas" -> JSON.treeToValue(rule, Derived.class);
            case "choices" -> JSON.treeToValue(rule, Choices.class);
            case "numbers" -> JSON.treeToValue(rule, Numbering.class);
            case "steps" -> new Placed(whole.get("when").asString(), JSON.treeToValue(rule, Step.class));
            default -> new Between(JSON.treeToValue(((ObjectNode) rule).put("id", ""), Constraint.class));
        };
    }

    /** The form of a document that the JSON Schema of forms has passed. */
    public static Form read(String json) {
        return read((ObjectNode) JSON.readTree(json));
    }

    /** The same of a tree. */
    static Form read(ObjectNode any) {
        return JSON.treeToValue(FormSchema.whole(upgraded(any)), Form.class);
    }

    /** The document in the present version of the format. */
    static ObjectNode upgraded(ObjectNode document) {
        int version = document.path("formatVersion").asInt(0);
        if (version == 2) {
            return document.deepCopy().put("formatVersion", VERSION);
        }
        if (version != 1) {
            return document;
        }
        var upgraded = document.deepCopy().put("formatVersion", VERSION);
        objects(upgraded.path("sections")).forEach(section -> {
            objects(section.path("fields")).forEach(field -> field.put("kind", "field"));
            section.set("items", section.remove("fields"));
        });
        return upgraded;
    }

    /** Those of a list that are objects; the schema says of the others that they must be. */
    private static Stream<ObjectNode> objects(JsonNode list) {
        return list.valueStream().filter(ObjectNode.class::isInstance).map(ObjectNode.class::cast);
    }
}
