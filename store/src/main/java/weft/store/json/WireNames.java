package weft.store.json;

import java.util.Arrays;
import java.util.List;
import tools.jackson.databind.cfg.MapperConfig;
import tools.jackson.databind.introspect.Annotated;
import tools.jackson.databind.introspect.AnnotatedClass;
import tools.jackson.databind.introspect.JacksonAnnotationIntrospector;
import tools.jackson.databind.jsontype.NamedType;
import weft.core.value.Wire;

/** Names in JSON: constants, and the kinds of what is one of several, as {@link Wire} spells them. */
public class WireNames extends JacksonAnnotationIntrospector {

    @Override
    public String[] findEnumValues(MapperConfig<?> config, AnnotatedClass type, Enum<?>[] constants, String[] names) {
        super.findEnumValues(config, type, constants, names);
        if (ours(type.getRawType())) {
            Arrays.setAll(names, at -> Wire.word(constants[at]));
        }
        return names;
    }

    /** Their names in Java are read too, as earlier versions wrote them. */
    @Override
    public void findEnumAliases(MapperConfig<?> config, AnnotatedClass type, Enum<?>[] constants, String[][] aliases) {
        super.findEnumAliases(config, type, constants, aliases);
        if (ours(type.getRawType())) {
            Arrays.setAll(aliases, at -> new String[] {constants[at].name()});
        }
    }

    @Override
    public List<NamedType> findSubtypes(MapperConfig<?> config, Annotated type) {
        var named = super.findSubtypes(config, type);
        return named == null && ours(type.getRawType()) && type.getRawType().isSealed()
                ? Arrays.stream(type.getRawType().getPermittedSubclasses())
                        .map(NamedType::new)
                        .toList()
                : named;
    }

    @Override
    public String findTypeName(MapperConfig<?> config, AnnotatedClass type) {
        var named = super.findTypeName(config, type);
        return named == null && ours(type.getRawType()) ? Wire.word(type.getRawType()) : named;
    }

    private static boolean ours(Class<?> type) {
        return type.getName().startsWith("weft.");
    }
}
