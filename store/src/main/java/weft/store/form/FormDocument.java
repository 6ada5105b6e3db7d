package weft.store.form;

import tools.jackson.databind.node.ObjectNode;
import weft.core.form.Form;
import weft.core.table.Faults;

/**
 * A form and its document, which has passed the {@linkplain FormSchema schema}: what may be kept. It is checked once, where
 * it comes in or is made.
 *
 * @param form what the document describes
 * @param json the document in the present version of the format
 */
public record FormDocument(Form form, String json) {

    /**
     * The form of a document that somebody sent, in this version of the format or an earlier one.
     *
     * @throws Faults naming each place where it is no form document
     */
    public static FormDocument read(ObjectNode sent) {
        var document = FormJson.upgraded(sent);
        FormSchema.check(document);
        return of(FormJson.read(document));
    }

    /**
     * The document of a form that was made or changed here.
     *
     * @throws Faults naming each place where it came out as it must not be, such as a text that is too long
     */
    public static FormDocument checked(Form form) {
        var document = FormJson.node(form);
        FormSchema.check(document);
        return new FormDocument(form, document.toString());
    }

    private static FormDocument of(Form form) {
        return new FormDocument(form, FormJson.write(form));
    }
}
