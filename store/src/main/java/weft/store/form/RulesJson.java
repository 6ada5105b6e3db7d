package weft.store.form;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Locale;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.MapperConfig;
import tools.jackson.databind.introspect.AnnotatedClass;
import tools.jackson.databind.introspect.JacksonAnnotationIntrospector;
import tools.jackson.databind.json.JsonMapper;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.table.Faults;

/** The rules of a form in JSON: a member for each part of a rule, and {@code kind} where there are several of one sort. */
public final class RulesJson {

    private static final JsonMapper JSON = JsonMapper.builder()
            .annotationIntrospector(new PlainEnums())
            .addMixIn(Check.Rule.class, OfCheck.class)
            .addMixIn(Step.Action.class, OfStep.class)
            .build();

    private RulesJson() {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @Type(value = Check.AnyOf.class, name = "any-of"),
        @Type(value = Check.Range.class, name = "range"),
        @Type(value = Check.Length.class, name = "length"),
        @Type(value = Check.Matches.class, name = "matches"),
        @Type(value = Check.OneOf.class, name = "one-of"),
        @Type(value = Check.Needs.class, name = "needs"),
        @Type(value = Check.Holds.class, name = "holds"),
        @Type(value = Check.Complete.class, name = "complete")
    })
    private interface OfCheck {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @Type(value = Step.Press.class, name = "press"),
        @Type(value = Step.Open.class, name = "open"),
        @Type(value = Step.SetField.class, name = "set-field"),
        @Type(value = Step.AddRow.class, name = "add-row"),
        @Type(value = Step.ChangeRow.class, name = "change-row"),
        @Type(value = Step.Send.class, name = "send"),
        @Type(value = Step.Say.class, name = "say"),
        @Type(value = Step.Ask.class, name = "ask")
    })
    private interface OfStep {}

    /** Constants in lower case, with a dash between words. */
    private static final class PlainEnums extends JacksonAnnotationIntrospector {
        @Override
        public String[] findEnumValues(
                MapperConfig<?> config, AnnotatedClass type, Enum<?>[] constants, String[] names) {
            for (int i = 0; i < constants.length; i++) {
                names[i] = constants[i].name().toLowerCase(Locale.ROOT).replace('_', '-');
            }
            return names;
        }
    }

    /** The rules as a tree. */
    public static JsonNode write(Rules rules) {
        return JSON.valueToTree(rules);
    }

    /** The rules of a tree that the JSON Schema of forms has passed; none where there is none. */
    public static Rules read(JsonNode rules) {
        return rules.isMissingNode() ? Rules.NONE : JSON.treeToValue(rules, Rules.class);
    }

    /**
     * A check that somebody sent alone.
     *
     * @throws Faults naming each place where it is none
     */
    public static Check readCheck(JsonNode check) {
        FormSchema.checkCheck(check);
        return JSON.treeToValue(check, Check.class);
    }
}
