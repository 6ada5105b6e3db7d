package weft.store.find;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.value.Conventions;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Forms;

@ExtendWith(TestDatabase.class)
class KeptFindsTest {

    @Test
    void finds_are_kept_under_their_names() {
        var forms = new Forms(TestDatabase.get().sql());
        var form = forms.make(Given.table("after-last", "site text"), Conventions.DEFAULT)
                .form()
                .id();
        var finds = new KeptFinds(TestDatabase.get().sql());
        finds.keep(form, form, new KeptFinds.NamedFind("b", List.of("site:x, \"y\""), "", "site"), "Odile");
        finds.keep(form, form, new KeptFinds.NamedFind("A", List.of(), "perch", "-site"), "Odile");
        finds.keep(form, form, new KeptFinds.NamedFind("b", List.of("site:z"), "", "row"), "Bram");
        assertThat(finds.of(form))
                .containsExactly(
                        new KeptFinds.NamedFind("A", List.of(), "perch", "-site"),
                        new KeptFinds.NamedFind("b", List.of("site:z"), "", "row"));
        finds.forget(form, "A");
        assertThat(finds.of(form)).extracting(KeptFinds.NamedFind::name).containsExactly("b");
        assertThat(finds.of("none")).isEmpty();
    }
}
