package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/**
 * Two Weft servers on two PostgreSQL nodes, all of which fail one after another while 16 clients and two Desks save: {@code ./weft
 * trial}. It prints what was lost, doubled or left as a hole, and how long saving stood still. Too long for every run of the tests.
 */
class FailoverTrial {

    private static final int CLIENTS = 16;
    private static final int DESKS = 2;
    private static final int PACE_MS = 1_000;

    private interface Blow {
        void fall() throws Exception;
    }

    @Test
    void everythingFailsOnceWhileAllSave() throws Exception {
        var folder = LocalWeft.folder();
        boolean fine = false;
        try (var cluster = new Cluster(folder)) {
            var env = Map.of("WEFT_DATABASE_URL", cluster.forWeft());
            var one = new ServerProcess(folder.resolve("one"), env);
            var two = new ServerProcess(folder.resolve("two"), env);
            try {
                one.start();
                two.start();
                one.table("t");
                one.send("POST", "/api/forms", "{\"table\":\"t\"}", "");
                one.send("POST", "/api/forms/t/publish", "", "");
                var url = cluster.balance(one, two);
                try (var keyers = new Keyers(one, url, CLIENTS);
                        var desks = new Desks(url)) {
                    assertThat(keyers.more(500)).isTrue();
                    blow("a Weft server is killed", keyers, () -> {
                        two.kill();
                        Thread.sleep(3_000);
                        two.start();
                    });
                    blow("the balancer is killed", keyers, cluster::cutBalancer);
                    blow("the primary's PostgreSQL is killed", keyers, cluster::killPrimary);
                    cluster.awaitWhole();
                    blow("the standby is stopped", keyers, () -> cluster.stopStandby(Duration.ofSeconds(10)));
                    cluster.awaitWhole();
                    blow(
                            "the primary stands still for 40 s",
                            keyers,
                            () -> cluster.pausePrimary(Duration.ofSeconds(40)));
                    cluster.awaitWhole();
                    assertThat(keyers.more(500)).isTrue();
                    desks.end();
                    keyers.told("all of it");
                    told(desks, one.stored("t"));
                    fine = true;
                }
            } finally {
                one.kill();
                two.kill();
            }
        } finally {
            // What the programs said tells why, where it ended badly.
            if (fine) {
                LocalWeft.remove(folder);
            } else {
                System.out.println("What the programs said is kept in " + folder);
            }
        }
    }

    private static void blow(String what, Keyers keyers, Blow blow) throws Exception {
        keyers.standstill();
        blow.fall();
        assertThat(keyers.more(200)).as(what).isTrue();
        System.out.printf("%-36s saving stood still for %.1f s%n", what, keyers.standstill() / 1e3);
    }

    /** What was keyed at the Desks is there once, and rows have no hole. */
    private static void told(Desks desks, List<String> stored) {
        var rows = new TreeSet<Integer>();
        var times = new HashMap<String, Integer>();
        for (var each : stored) {
            rows.add(Integer.valueOf(each.substring(each.indexOf(' ') + 1)));
            times.merge(each.substring(0, each.indexOf(' ')), 1, Integer::sum);
        }
        long lost = desks.keyed().stream()
                .filter(value -> !times.containsKey(value))
                .count();
        long doubled = desks.keyed().stream()
                .filter(value -> times.getOrDefault(value, 1) > 1)
                .count();
        int holes = rows.isEmpty() ? 0 : rows.last() - rows.size();
        System.out.printf(
                "%-36s %,d keyed, %d lost, %d doubled; %,d rows, %d holes; beside “waiting” they said: %s%n",
                "at " + DESKS + " Desks",
                desks.keyed().size(),
                lost,
                doubled,
                rows.size(),
                holes,
                desks.said().isEmpty() ? "nothing" : desks.said());
        assertThat(lost + doubled + holes).isZero();
        assertThat(desks.said()).isEmpty();
    }

    /** Desks in browsers of their own, at which somebody keys one entry after another. */
    private static final class Desks implements AutoCloseable {
        private final Set<String> keyed = ConcurrentHashMap.newKeySet();
        private final Set<String> said = ConcurrentHashMap.newKeySet();
        private final ExecutorService hands = Executors.newFixedThreadPool(DESKS);
        private final List<Future<?>> done = Collections.synchronizedList(new ArrayList<>());
        private volatile boolean going = true;

        Desks(String url) {
            for (int desk = 0; desk < DESKS; desk++) {
                int each = desk;
                done.add(hands.submit(() -> key(url, each)));
            }
        }

        private void key(String url, int desk) {
            try (var chromium = new Chromium()) {
                var page = chromium.page(url, ColorScheme.LIGHT, Optional.of(ServerProcess.session()));
                page.navigate("/d/t");
                field(page).waitFor();
                for (int n = 0; going; n++) {
                    var value = "desk" + desk + "-" + n;
                    page.keyboard().type(value);
                    page.keyboard().press("Enter");
                    keyed.add(value);
                    page.waitForCondition(() -> field(page).inputValue().isEmpty());
                    heard(page);
                    // As fast as somebody keys.
                    page.waitForTimeout(PACE_MS);
                }
                // What waits is sent by itself.
                page.waitForCondition(
                        () -> page.getByText("waiting").count() == 0,
                        new Page.WaitForConditionOptions().setTimeout(90_000));
                heard(page);
            }
        }

        private static Locator field(Page page) {
            return page.getByLabel("A", new Page.GetByLabelOptions().setExact(true))
                    .first();
        }

        private void heard(Page page) {
            page.locator("[role=alert], [role=dialog]").allInnerTexts().stream()
                    .filter(text -> !text.isBlank())
                    .forEach(said::add);
        }

        void end() throws Exception {
            going = false;
            for (var each : done) {
                each.get(120, TimeUnit.SECONDS);
            }
        }

        Set<String> keyed() {
            return keyed;
        }

        Set<String> said() {
            return said;
        }

        @Override
        public void close() {
            going = false;
            hands.shutdown();
        }
    }
}
