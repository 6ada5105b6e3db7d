package weft.server.people;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.http.Problem;
import weft.store.people.Audit.Deed;
import weft.store.people.Groups;

/** Groups of persons: for administrators. */
@RestController
class GroupsApi {

    private final Groups groups;
    private final AuditTrail told;

    GroupsApi(Groups groups, AuditTrail told) {
        this.groups = groups;
        this.told = told;
    }

    record GroupJson(String name, String title, int people) {}

    record GroupAsked(@Nullable String name, @Nullable String title) {}

    @GetMapping("/api/groups")
    List<GroupJson> groups() {
        return groups.all().stream()
                .map(group -> new GroupJson(group.name(), group.title(), group.people()))
                .toList();
    }

    @PostMapping("/api/groups")
    ResponseEntity<GroupJson> addGroup(@RequestBody GroupAsked asked) {
        var title = Optional.ofNullable(asked.title())
                .orElse(Optional.ofNullable(asked.name()).orElse(""));
        var name = Optional.ofNullable(asked.name()).orElse(title).strip();
        groups.add(name, title);
        told.of(Deed.GROUP_MADE, name);
        return ResponseEntity.status(HttpStatus.CREATED).body(new GroupJson(name, title.strip(), 0));
    }

    @PutMapping("/api/groups/{group}")
    GroupJson changeGroup(@PathVariable String group, @RequestBody GroupAsked asked) {
        if (asked.name() != null && !asked.name().equals(group)) {
            throw Problem.refused("A group keeps its name, since doors say it. Its title can change.");
        }
        if (!groups.retitle(group, Optional.ofNullable(asked.title()).orElse(group))) {
            throw Problem.unknown("group “" + group + "”");
        }
        told.of(Deed.GROUP_CHANGED, group);
        return groups().stream()
                .filter(each -> each.name().equals(group))
                .findFirst()
                .orElseThrow();
    }

    @DeleteMapping("/api/groups/{group}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void removeGroup(@PathVariable String group) {
        if (!groups.remove(group)) {
            throw Problem.unknown("group “" + group + "”");
        }
        told.of(Deed.GROUP_REMOVED, group);
    }
}
