package weft.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.store.local.CannotStart;

class StartTest {

    @Test
    void withoutOptionsItServesTheDemoOnItsUsualPort() {
        var start = WeftServer.Start.of();
        assertThat(start.port()).isEqualTo(8080);
        assertThat(start.demo()).isTrue();
        assertThat(start.data()).isEqualTo(Path.of(".weft").toAbsolutePath());
    }

    @Test
    void optionsSayOtherwise() {
        var start = WeftServer.Start.of("--empty", "--port", "9000", "--data", "/srv/weft");
        assertThat(start.port()).isEqualTo(9000);
        assertThat(start.demo()).isFalse();
        assertThat(start.data()).isEqualTo(Path.of("/srv/weft"));
    }

    @ParameterizedTest
    @CsvSource({
        "--port, --port needs a value after it.",
        "--port 99999, “99999” is no port. Give a number from 1 to 65535 after --port.",
        "--prot 1, '“--prot” is not known. Use --port N, --data DIR or --empty.'"
    })
    void whatIsNotUnderstoodIsSaidPlainly(String options, String sentence) {
        assertThatThrownBy(() -> WeftServer.Start.of(options.split(" ")))
                .isInstanceOf(CannotStart.class)
                .hasMessage(sentence);
    }
}
