package weft.store.form;

import static weft.store.form.Wire.constant;
import static weft.store.form.Wire.list;
import static weft.store.form.Wire.object;
import static weft.store.form.Wire.wire;

import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;
import weft.core.rule.Command;
import weft.core.rule.Step;
import weft.core.rule.Step.Reply;
import weft.core.rule.Step.Setting;

/** Steps in JSON. */
final class StepsJson {

    private StepsJson() {}

    static ObjectNode write(Step step) {
        var object = object().put("onlyIf", step.onlyIf());
        object.set("action", write(step.action()));
        return object;
    }

    private static ObjectNode write(Step.Action action) {
        var object = object();
        switch (action) {
            case Step.Press(var command) -> object.put("kind", "press").put("action", wire(command));
            case Step.Open(var form, var values) ->
                object.put("kind", "open").put("form", form).set("values", list(values, StepsJson::write));
            case Step.SetField(var value) -> object.put("kind", "set-field").set("value", write(value));
            case Step.AddRow(var table, var values) ->
                object.put("kind", "add-row").put("table", table).set("values", list(values, StepsJson::write));
            case Step.ChangeRow(var table, var where, var values) -> {
                object.put("kind", "change-row").put("table", table).set("where", list(where, StepsJson::write));
                object.set("values", list(values, StepsJson::write));
            }
            case Step.Send(var to, var subject, var text) ->
                object.put("kind", "send").put("to", to).put("subject", subject).put("text", text);
            case Step.Say(var text) -> object.put("kind", "say").put("text", text);
            case Step.Ask(var id, var text, var usual) ->
                object.put("kind", "ask").put("id", id).put("text", text).put("usual", wire(usual));
        }
        return object;
    }

    private static ObjectNode write(Setting setting) {
        return object().put("column", setting.column()).put("formula", setting.formula());
    }

    static Step step(JsonNode step) {
        return new Step(step.get("onlyIf").asString(), action(step.get("action")));
    }

    private static Step.Action action(JsonNode action) {
        return switch (action.get("kind").asString()) {
            case "press" -> new Step.Press(constant(Command.class, action.get("action")));
            case "open" -> new Step.Open(action.get("form").asString(), list(action.get("values"), StepsJson::setting));
            case "set-field" -> new Step.SetField(setting(action.get("value")));
            case "add-row" ->
                new Step.AddRow(action.get("table").asString(), list(action.get("values"), StepsJson::setting));
            case "change-row" ->
                new Step.ChangeRow(
                        action.get("table").asString(),
                        list(action.get("where"), StepsJson::setting),
                        list(action.get("values"), StepsJson::setting));
            case "send" ->
                new Step.Send(
                        action.get("to").asString(),
                        action.get("subject").asString(),
                        action.get("text").asString());
            case "say" -> new Step.Say(action.get("text").asString());
            case "ask" ->
                new Step.Ask(
                        action.get("id").asString(),
                        action.get("text").asString(),
                        constant(Reply.class, action.get("usual")));
            case String other -> throw new IllegalStateException(other);
        };
    }

    private static Setting setting(JsonNode setting) {
        return new Setting(
                setting.get("column").asString(), setting.get("formula").asString());
    }
}
