package weft.store.local;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/**
 * The account that PostgreSQL runs as. It refuses to run as root, so root lends it to Debian's {@code postgres}.
 *
 * @param name the account's name
 * @param lent whether it is another than the one Weft runs as
 */
record Account(String name, boolean lent) {

    /** What a command left behind. */
    record CommandResult(int status, String output) {
        boolean ok() {
            return status == 0;
        }

        void orFail(String sentence) {
            if (!ok()) {
                throw new CannotStart(sentence + ". " + output.strip());
            }
        }
    }

    static Account forCluster() {
        var me = System.getProperty("user.name");
        return "root".equals(me) ? new Account("postgres", true) : new Account(me, false);
    }

    /** The folder itself, or, where the account can't reach into it, one that stands for it under /var/lib. */
    Path reachable(Path folder) {
        var real = folder.toAbsolutePath().normalize();
        if (!lent || run(List.of("test", "-x", real.toString())).ok()) {
            return real;
        }
        var stand = UUID.nameUUIDFromBytes(real.toString().getBytes(StandardCharsets.UTF_8));
        return Path.of("/var/lib/weft", stand.toString());
    }

    /** Makes a folder that only the account can look into, or checks that an existing one is the account's. */
    void makeFolder(Path folder) throws IOException {
        if (!Files.exists(folder)) {
            Files.createDirectories(folder);
            own(folder);
            Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
        }
        var owner = Files.getOwner(folder).getName();
        if (!owner.equals(name)) {
            throw new CannotStart("The data folder " + folder + " belongs to " + owner + ", not to " + name
                    + ". Start Weft as the user who made it, or give it another folder with --data DIR.");
        }
    }

    void own(Path path) throws IOException {
        if (lent) {
            var principals = path.getFileSystem().getUserPrincipalLookupService();
            Files.getFileAttributeView(path, PosixFileAttributeView.class)
                    .setOwner(principals.lookupPrincipalByName(name));
        }
    }

    /** Runs a command as this account and waits for it. */
    CommandResult run(List<String> command) {
        var whole = new ArrayList<String>();
        if (lent) {
            whole.addAll(List.of("runuser", "-u", name, "--"));
        }
        whole.addAll(command);
        try {
            // A file, not a pipe: the cluster would hold a pipe open for as long as it runs.
            var output = Files.createTempFile("weft", ".out");
            try {
                var process = new ProcessBuilder(whole)
                        .directory(Path.of("/").toFile())
                        .redirectErrorStream(true)
                        .redirectOutput(output.toFile())
                        .redirectInput(ProcessBuilder.Redirect.from(
                                Path.of("/dev/null").toFile()))
                        .start();
                int status = process.waitFor();
                return new CommandResult(status, Files.readString(output));
            } finally {
                Files.delete(output);
            }
        } catch (IOException e) {
            throw new CannotStart("The command " + command.getFirst() + " could not be run: " + e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CannotStart("Starting was broken off.");
        }
    }
}
