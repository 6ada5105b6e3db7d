package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.stereotype.Component;
import weft.server.http.Signed;
import weft.store.people.Audit;
import weft.store.people.Audit.Deed;

/** Writes down what is done in a request, with who does it and from where. */
@Component
public class AuditTrail {

    private final Audit audit;
    private final HttpServletRequest request;

    AuditTrail(Audit audit, HttpServletRequest request) {
        this.audit = audit;
        this.request = request;
    }

    /** What whoever is signed in does, and to what. */
    public void of(Deed what, String about) {
        of(Signed.person().map(person -> person.name()).orElse("nobody"), what, about);
    }

    /** What somebody of that name does, or tries to. */
    void of(String by, Deed what, String about) {
        audit.tell(by, what, about, request.getRemoteAddr());
    }
}
