package weft.server;

import java.time.Clock;
import java.time.Duration;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import weft.core.entry.EntryEngine;
import weft.server.event.Listeners;
import weft.server.form.PreparedForms;
import weft.store.Database;
import weft.store.event.Change;
import weft.store.event.Changes;
import weft.store.event.Seats;
import weft.store.find.Indexes;
import weft.store.find.KeptFinds;
import weft.store.find.Views;
import weft.store.form.Forms;
import weft.store.imports.Imports;
import weft.store.message.Outbox;
import weft.store.picture.Pictures;
import weft.store.record.Entries;
import weft.store.record.History;
import weft.store.record.Lists;
import weft.store.record.Records;
import weft.store.table.Columns;
import weft.store.table.Constraints;
import weft.store.table.Tables;

/** Puts the store and the engine together for the API. */
@Configuration(proxyBeanMethods = false)
@EnableScheduling
class Wiring {

    @Bean
    Database database(
            @Value("${weft.database.url}") String url,
            @Value("${weft.database.user}") String user,
            @Value("${weft.database.password}") String password,
            @Value("${weft.database.connections}") int connections) {
        return Database.open(url, user, password, connections);
    }

    @Bean
    Tables tables(Database database) {
        return new Tables(database.sql());
    }

    @Bean
    Columns columns(Database database) {
        return new Columns(database.sql());
    }

    @Bean
    Forms forms(Database database) {
        return new Forms(database.sql());
    }

    @Bean
    Records records(Database database) {
        return new Records(database);
    }

    @Bean
    Entries entries(Database database, PreparedForms forms) {
        return new Entries(database, forms::find);
    }

    @Bean
    Lists lists(Database database) {
        return new Lists(database.sql());
    }

    @Bean
    Constraints constraints(Database database) {
        return new Constraints(database.sql());
    }

    @Bean
    Pictures pictures(Database database) {
        return new Pictures(database.sql());
    }

    @Bean
    Outbox outbox(Database database) {
        return new Outbox(database.sql());
    }

    @Bean
    Views views(Database database, Tables tables) {
        return new Views(database, tables);
    }

    @Bean
    History history(Database database) {
        return new History(database.sql());
    }

    @Bean
    Seats seats(Database database) {
        return new Seats(database.sql());
    }

    @Bean
    KeptFinds keptFinds(Database database) {
        return new KeptFinds(database.sql());
    }

    @Bean
    Indexes indexes(Database database, Tables tables, Forms forms) {
        return new Indexes(database, tables, forms);
    }

    @Bean
    Imports imports(Database database, Tables tables, Forms forms) {
        return new Imports(database.sql(), tables, forms);
    }

    @Bean
    Clock clock() {
        return Clock.systemDefaultZone();
    }

    @Bean
    EntryEngine entryEngine(Clock clock) {
        return new EntryEngine(clock);
    }

    @Bean
    Changes changes(Database database, Listeners listeners, PreparedForms prepared, Indexes indexes) {
        return new Changes(database.source(), change -> {
            prepared.hear(change);
            listeners.hear(change);
            if (change instanceof Change.OfDefinitions) {
                Thread.ofVirtual().name("indexes").start(indexes::keep);
            }
        });
    }

    @Bean
    HealthIndicator databaseHealth(Database database) {
        return () -> {
            database.sql().selectOne().fetch();
            return Health.up().build();
        };
    }

    @Bean
    Keeping keeping(Records records, Imports imports, Pictures pictures, Indexes indexes, Seats seats) {
        return new Keeping(records, imports, pictures, indexes, seats);
    }

    /** Clears out, once a day, what is kept only for a while, and keeps the indexes of tables that grow. */
    record Keeping(Records records, Imports imports, Pictures pictures, Indexes indexes, Seats seats) {

        private static final Duration KEYS = Duration.ofDays(30);
        private static final Duration FILES = Duration.ofDays(1);
        private static final Duration PICTURES = Duration.ofDays(30);

        @Scheduled(initialDelayString = "PT1H", fixedRateString = "PT24H")
        void forget() {
            records.forgetKeys(KEYS);
            imports.forget(FILES);
            pictures.forget(PICTURES);
        }

        @Scheduled(initialDelayString = "PT5S", fixedDelayString = "PT1M")
        void eachMinute() {
            seats.forget();
            indexes.keep();
        }
    }
}
