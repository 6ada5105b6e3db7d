package weft.server;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.concurrent.ThreadLocalRandom;
import org.jooq.DSLContext;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import weft.core.entry.EntryEngine;
import weft.store.Database;
import weft.store.adopt.Adoptions;
import weft.store.alike.AlikeLooks;
import weft.store.day.Days;
import weft.store.door.Doors;
import weft.store.door.KnownDoors;
import weft.store.door.Throttle;
import weft.store.door.Tokens;
import weft.store.door.Ways;
import weft.store.entry.ChangingMany;
import weft.store.entry.Looking;
import weft.store.entry.MakingOne;
import weft.store.entry.Rehearsing;
import weft.store.entry.Saving;
import weft.store.entry.SavingMany;
import weft.store.entry.SavingSheets;
import weft.store.event.Changes;
import weft.store.event.Seats;
import weft.store.find.Breaks;
import weft.store.find.Indexes;
import weft.store.find.KeptFinds;
import weft.store.find.Views;
import weft.store.form.Definitions;
import weft.store.form.FormSentences;
import weft.store.form.Forms;
import weft.store.form.Lines;
import weft.store.imports.Imports;
import weft.store.message.Outbox;
import weft.store.people.Audit;
import weft.store.people.FailedSignIns;
import weft.store.people.Groups;
import weft.store.people.Invitations;
import weft.store.people.People;
import weft.store.people.Sessions;
import weft.store.picture.Pictures;
import weft.store.record.ChangeSets;
import weft.store.record.EntryWriter;
import weft.store.record.History;
import weft.store.record.Lists;
import weft.store.record.MadeOne;
import weft.store.record.Records;
import weft.store.record.SaidDifferent;
import weft.store.record.TakingBack;
import weft.store.table.Columns;
import weft.store.table.Constraints;
import weft.store.table.Tables;
import weft.store.twice.Papers;
import weft.store.twice.SecondKeying;
import weft.store.twice.Settling;
import weft.store.usual.UnusualLooks;
import weft.store.usual.UsualCounts;
import weft.store.work.Figures;
import weft.store.work.WorkBook;

/** Puts the store and the engine together for the API: one of each, on one database. */
@Configuration(proxyBeanMethods = false)
@EnableScheduling
@Import({
    Audit.class,
    Definitions.class,
    Doors.class,
    KnownDoors.class,
    EntryEngine.class,
    EntryWriter.class,
    FailedSignIns.class,
    Forms.class,
    FormSentences.class,
    Breaks.class,
    History.class,
    Indexes.class,
    UnusualLooks.class,
    UsualCounts.class,
    KeptFinds.class,
    Lines.class,
    Looking.class,
    Lists.class,
    Outbox.class,
    Groups.class,
    Invitations.class,
    People.class,
    Pictures.class,
    Records.class,
    Rehearsing.class,
    Saving.class,
    SavingMany.class,
    SavingSheets.class,
    SecondKeying.class,
    Settling.class,
    ChangingMany.class,
    ChangeSets.class,
    Days.class,
    Seats.class,
    Sessions.class,
    Tables.class,
    TakingBack.class,
    Throttle.class,
    Tokens.class,
    Views.class,
    Ways.class,
    WorkBook.class,
    Figures.class
})
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
    DSLContext sql(Database database) {
        return database.sql();
    }

    @Bean
    Changes changes(Database database) {
        return database.changes();
    }

    @Bean
    Clock clock() {
        return Clock.systemDefaultZone();
    }

    @Bean
    HealthIndicator databaseHealth(Database database) {
        return () -> database.writes() ? Health.up().build() : Health.down().build();
    }

    /** Changes of whole tables take as long as the tables are large. */
    @Bean
    Columns columns(Database database) {
        return new Columns(database.longSql(), Records::anyTable);
    }

    @Bean
    MadeOne madeOne(DSLContext sql, EntryWriter writer, Clock clock) {
        return new MadeOne(sql, writer, clock);
    }

    @Bean
    MakingOne makingOne(Saving saving, SavingSheets sheets, MadeOne madeOne, Records records) {
        return new MakingOne(saving, sheets, madeOne, records);
    }

    @Bean
    SaidDifferent saidDifferent(DSLContext sql, Clock clock) {
        return new SaidDifferent(sql, clock);
    }

    @Bean
    AlikeLooks alikeLooks(Database database, SaidDifferent different, Clock clock) {
        return new AlikeLooks(database.sql(), database.longSql(), different, clock);
    }

    @Bean
    Adoptions adoptions(Database database, Forms forms) {
        return new Adoptions(database, forms);
    }

    @Bean
    Constraints constraints(Database database) {
        return new Constraints(database.longSql());
    }

    @Bean
    Imports imports(Database database, Tables tables, Forms forms, Clock clock) {
        return new Imports(database.longSql(), tables, forms, Records::anyTable, clock);
    }

    @Bean
    Papers papers(DSLContext sql, Records records, KnownDoors doors, Clock clock) {
        return new Papers(sql, records, doors, () -> ThreadLocalRandom.current().nextLong(), clock);
    }

    @Bean
    Keeping keeping(
            WorkBook work,
            EntryWriter writer,
            Imports imports,
            Pictures pictures,
            Indexes indexes,
            UsualCounts usual,
            Seats seats,
            FailedSignIns failures,
            Audit audit,
            Throttle throttle,
            ChangeSets changeSets,
            TakingBack takingBack,
            Changes changes,
            Clock clock,
            @Value("${weft.audit.days}") int auditDays) {
        changes.keepUp("indexes", indexes::keep);
        changes.keepUp("usual", usual::keep);
        return new Keeping(
                work,
                writer,
                imports,
                pictures,
                indexes,
                usual,
                seats,
                failures,
                audit,
                throttle,
                changeSets,
                takingBack,
                clock,
                Duration.ofDays(auditDays));
    }

    /** Clears out, once a day, what is kept only for a while, and keeps the indexes of tables that grow. */
    record Keeping(
            WorkBook work,
            EntryWriter writer,
            Imports imports,
            Pictures pictures,
            Indexes indexes,
            UsualCounts usual,
            Seats seats,
            FailedSignIns failures,
            Audit audit,
            Throttle throttle,
            ChangeSets changeSets,
            TakingBack takingBack,
            Clock clock,
            Duration auditAge) {

        private static final Duration KEYS = Duration.ofDays(30);
        private static final Duration CHANGES = Duration.ofDays(30);
        private static final Duration FILES = Duration.ofDays(1);
        private static final Duration PICTURES = Duration.ofDays(30);

        @Scheduled(initialDelayString = "PT1H", fixedRateString = "PT24H")
        void forget() {
            writer.keys().forgetKeys(OffsetDateTime.now(clock).minus(KEYS));
            work.forget();
            changeSets.forget(CHANGES);
            takingBack.forget(CHANGES);
            imports.forget(FILES);
            pictures.forget(PICTURES);
            failures.forget();
            throttle.forget();
            audit.forget(auditAge);
        }

        @Scheduled(initialDelayString = "PT5S", fixedDelayString = "PT1M")
        void eachMinute() {
            seats.forget();
            indexes.keep();
            usual.keep();
        }

        /** What writes added to it is read by each entry that is held against what is usual. */
        @Scheduled(fixedDelayString = "PT5S")
        void sumUp() {
            usual.sumUp();
        }
    }
}
