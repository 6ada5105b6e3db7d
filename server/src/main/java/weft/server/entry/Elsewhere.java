package weft.server.entry;

import java.util.List;
import org.springframework.stereotype.Component;
import weft.core.door.Pass;
import weft.core.entry.step.Write;
import weft.core.table.Table;
import weft.server.entry.ElsewhereJson.What;
import weft.store.form.Definitions;
import weft.store.record.EntryWriter.DoneBeside;

/** Tells whoever saves what the save did beside; nobody in particular is told of no table. */
@Component
class Elsewhere {

    private final Definitions definitions;

    Elsewhere(Definitions definitions) {
        this.definitions = definitions;
    }

    List<ElsewhereJson> of(Pass pass, List<DoneBeside> done) {
        return pass.person().isEmpty()
                ? List.of()
                : done.stream().map(this::told).toList();
    }

    private ElsewhereJson told(DoneBeside done) {
        var what = switch (done.write()) {
            case Write.Add _, Write.AddAll _ -> What.ADDED;
            case Write.Change _ -> What.CHANGED;
            case Write.Remove _ -> What.REMOVED;
            case Write.Message _ -> What.SENT;
        };
        var title = done.write()
                .into()
                .flatMap(definitions::table)
                .map(table -> table.definition())
                .map(Table::title)
                .orElse("");
        return new ElsewhereJson(what, title, done.row());
    }
}
