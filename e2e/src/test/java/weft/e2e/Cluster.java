package weft.e2e;

import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.sql.DriverManager;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import weft.store.local.LocalPostgres;

/**
 * Two PostgreSQL nodes under Patroni with etcd, one of them a synchronous standby, and HAProxy before two Weft servers: all of them
 * Debian's programs with the files of {@code docs/failover}, on this machine. As root they run as Debian's {@code postgres}.
 */
final class Cluster implements AutoCloseable {

    private static final Path FILES = Path.of("../docs/failover");
    private static final HttpClient HTTP =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(2)).build();
    private static final String PASSWORD = "only-for-the-trial";

    private final Path folder;
    private final boolean lent = "root".equals(System.getProperty("user.name"));
    private final int etcdPort = LocalPostgres.freePort();
    private final int balancerPort = LocalPostgres.freePort();
    private final Map<String, Node> nodes = new HashMap<>();
    private final List<Process> others = new ArrayList<>();
    private Process balancer;

    /** One of the two nodes. */
    private record Node(String name, int port, int rest, Path folder, Process patroni) {}

    Cluster(Path folder) throws Exception {
        this.folder = folder;
        var etcd = own(Files.createDirectory(folder.resolve("etcd")));
        var client = "http://127.0.0.1:" + etcdPort;
        var peer = "http://127.0.0.1:" + LocalPostgres.freePort();
        others.add(start(
                "etcd",
                "etcd",
                "--enable-v2=true",
                "--name=one",
                "--data-dir=" + etcd.resolve("data"),
                "--listen-client-urls=" + client,
                "--advertise-client-urls=" + client,
                "--listen-peer-urls=" + peer,
                "--initial-advertise-peer-urls=" + peer,
                "--initial-cluster=one=" + peer));
        await("etcd", Duration.ofSeconds(30), () -> answers(etcdPort));
        node("a");
        await("the first node", Duration.ofSeconds(90), () -> "a".equals(leader()));
        node("b");
        await("the standby", Duration.ofSeconds(120), () -> status(nodes.get("b"), "/synchronous") == 200);
        try (var connection = DriverManager.getConnection(address("postgres"), "postgres", PASSWORD);
                var statement = connection.createStatement()) {
            statement.execute("create role weft login password '" + PASSWORD + "'");
            statement.execute("create database weft owner weft");
        }
    }

    private Path own(Path path) throws IOException {
        if (lent) {
            Files.getFileAttributeView(path, PosixFileAttributeView.class)
                    .setOwner(
                            path.getFileSystem().getUserPrincipalLookupService().lookupPrincipalByName("postgres"));
        }
        return path;
    }

    private void node(String name) throws IOException {
        var at = own(Files.createDirectory(folder.resolve(name)));
        int port = LocalPostgres.freePort();
        int rest = LocalPostgres.freePort();
        var file = configured(
                "patroni.yml",
                at.resolve("patroni.yml"),
                Map.of(
                        "NAME",
                        name,
                        "ADDRESS",
                        "127.0.0.1",
                        "NETWORK",
                        "127.0.0.1/32",
                        "REST",
                        "" + rest,
                        "PORT",
                        "" + port,
                        "ETCD",
                        "127.0.0.1:" + etcdPort,
                        "DATA",
                        at.resolve("data").toString(),
                        "BIN",
                        LocalPostgres.binaries().toString(),
                        "FOLDER",
                        at.toString(),
                        "PASSWORD",
                        PASSWORD));
        nodes.put(name, new Node(name, port, rest, at, start("patroni-" + name, "patroni", file.toString())));
    }

    private Path configured(String name, Path to, Map<String, String> values) throws IOException {
        var text = Files.readString(FILES.resolve(name));
        for (var each : values.entrySet()) {
            text = text.replace("${" + each.getKey() + "}", each.getValue());
        }
        Files.writeString(to, text);
        return own(to);
    }

    private Process start(String name, String... command) throws IOException {
        var whole = new ArrayList<String>();
        if (lent) {
            whole.addAll(List.of("setpriv", "--reuid=postgres", "--regid=postgres", "--clear-groups"));
        }
        whole.addAll(List.of(command));
        var builder = new ProcessBuilder(whole)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(
                        folder.resolve(name + ".log").toFile()));
        builder.environment().put("PATH", System.getenv("PATH") + ":/usr/sbin");
        return builder.start();
    }

    /** The address of the database of that name, on whichever node writes. */
    String address(String database) {
        var hosts = "127.0.0.1:" + nodes.get("a").port()
                + (nodes.containsKey("b") ? ",127.0.0.1:" + nodes.get("b").port() : "");
        return "jdbc:postgresql://" + hosts + "/" + database + "?targetServerType=primary";
    }

    /** What a Weft server is told of it. */
    String forWeft() {
        return "jdbc:postgresql://127.0.0.1:%d,127.0.0.1:%d/weft?user=weft&password=%s"
                .formatted(nodes.get("a").port(), nodes.get("b").port(), PASSWORD);
    }

    /** Puts the balancer before these two servers; the address at which it answers. */
    String balance(ServerProcess one, ServerProcess two) throws Exception {
        var at = own(Files.createDirectories(folder.resolve("balancer")));
        var file = configured(
                "haproxy.cfg",
                at.resolve("haproxy.cfg"),
                Map.of(
                        "FOLDER",
                        at.toString(),
                        "HOST",
                        "localhost",
                        "ADDRESS",
                        "127.0.0.1",
                        "PORT",
                        "" + balancerPort,
                        "ONE",
                        "127.0.0.1:" + one.port(),
                        "TWO",
                        "127.0.0.1:" + two.port()));
        balancer = start("haproxy", "haproxy", "-db", "-f", file.toString());
        await("the balancer", Duration.ofSeconds(20), () -> answers(balancerPort));
        return "http://127.0.0.1:" + balancerPort;
    }

    /** Ends the balancer outright, with every connection through it, and starts it again. */
    void cutBalancer() throws Exception {
        balancer.descendants().forEach(ProcessHandle::destroyForcibly);
        balancer.destroyForcibly().waitFor();
        balancer = start(
                "haproxy",
                "haproxy",
                "-db",
                "-f",
                folder.resolve("balancer/haproxy.cfg").toString());
        await("the balancer", Duration.ofSeconds(20), () -> answers(balancerPort));
    }

    /** The name of the node that writes, or empty. */
    String leader() {
        return nodes.values().stream()
                .filter(node -> status(node, "/primary") == 200)
                .map(Node::name)
                .findFirst()
                .orElse("");
    }

    private Node other(String name) {
        return nodes.get(name.equals("a") ? "b" : "a");
    }

    /** Until the nodes are as they should be: one writes, and the other one has all of it. */
    void awaitWhole() throws Exception {
        await("both nodes", Duration.ofSeconds(180), () -> {
            var leads = leader();
            return !leads.isEmpty() && status(other(leads), "/synchronous") == 200;
        });
    }

    /** Ends every process of the primary's PostgreSQL outright. */
    void killPrimary() throws Exception {
        signal("-9", nodes.get(leader()), false);
    }

    /** Stops the standby, with its Patroni, and starts it again after so long. */
    void stopStandby(Duration away) throws Exception {
        var standby = other(leader());
        standby.patroni().destroy();
        if (!standby.patroni().waitFor(60, TimeUnit.SECONDS)) {
            throw new IllegalStateException("The standby does not stop.");
        }
        Thread.sleep(away);
        nodes.put(
                standby.name(),
                new Node(
                        standby.name(),
                        standby.port(),
                        standby.rest(),
                        standby.folder(),
                        start(
                                "patroni-" + standby.name(),
                                "patroni",
                                standby.folder().resolve("patroni.yml").toString())));
    }

    /** Lets every process of the primary's node stand still for so long, as if its machine did. */
    void pausePrimary(Duration still) throws Exception {
        var primary = nodes.get(leader());
        signal("-STOP", primary, true);
        try {
            Thread.sleep(still);
        } finally {
            signal("-CONT", primary, true);
        }
    }

    private static void signal(String which, Node node, boolean patroniToo) throws Exception {
        var pid = Files.readAllLines(node.folder().resolve("data/postmaster.pid"))
                .getFirst()
                .strip();
        var all = new ArrayList<String>(List.of("kill", which, pid));
        // All at once: what its parent has left alive keeps the folder from the next one.
        ProcessHandle.of(Long.parseLong(pid)).stream()
                .flatMap(ProcessHandle::children)
                .forEach(child -> all.add("" + child.pid()));
        if (patroniToo) {
            all.add("" + node.patroni().pid());
        }
        run(all.toArray(String[]::new));
    }

    private static void run(String... command) throws Exception {
        new ProcessBuilder(command).inheritIO().start().waitFor();
    }

    private static int status(Node node, String path) {
        try {
            var request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + node.rest() + path))
                    .timeout(Duration.ofSeconds(2))
                    .build();
            return HTTP.send(request, BodyHandlers.discarding()).statusCode();
        } catch (IOException e) {
            return 0;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return 0;
        }
    }

    private static boolean answers(int port) {
        try (var socket = new Socket("127.0.0.1", port)) {
            return socket.isConnected();
        } catch (IOException e) {
            return false;
        }
    }

    private interface So {
        boolean yet();
    }

    private void await(String what, Duration longest, So so) throws Exception {
        for (long end = System.nanoTime() + longest.toNanos(); !so.yet(); ) {
            if (System.nanoTime() > end) {
                throw new IllegalStateException(what + " did not come. What the programs said is in " + folder);
            }
            Thread.sleep(100);
        }
    }

    /** Ends all that was started. */
    @Override
    public void close() {
        var all = new ArrayList<Process>();
        if (balancer != null) {
            all.add(balancer);
        }
        nodes.values().forEach(node -> all.add(node.patroni()));
        all.addAll(others);
        for (var process : all) {
            process.destroy();
            try {
                if (!process.waitFor(30, TimeUnit.SECONDS)) {
                    process.descendants().forEach(ProcessHandle::destroyForcibly);
                    process.destroyForcibly().waitFor();
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }
}
