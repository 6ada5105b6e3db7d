package weft.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import weft.server.WeftServer;

/** A Weft of one's own on a free port, in a folder that goes with it. */
public final class LocalWeft implements AutoCloseable {

    private final Path folder = folder();
    private final WeftServer.Running running;

    /**
     * Starts it.
     *
     * @param demo whether it holds the demo
     * @param settings further settings of its PostgreSQL
     */
    public LocalWeft(boolean demo, String... settings) {
        running = WeftServer.start(new WeftServer.Start(0, folder, demo, List.of(settings)));
    }

    /** A new folder that PostgreSQL's own user can reach too. */
    public static Path folder() {
        try {
            var folder = Files.createTempDirectory("weft-e2e");
            folder.toFile().setExecutable(true, false);
            return folder;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Removes a folder and all in it. */
    public static void remove(Path folder) {
        try (var files = Files.walk(folder)) {
            files.sorted(Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The running server. */
    public WeftServer.Running running() {
        return running;
    }

    /** Where it serves. */
    public String url() {
        return running.url();
    }

    @Override
    public void close() {
        running.close();
        remove(folder);
    }
}
