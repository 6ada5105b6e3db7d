package weft.store.json;

import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.json.JsonMapper;

/** How Weft's own types become JSON that is kept. */
public final class Json {

    /** Makes members of components, in their order. */
    public static final JsonMapper MAPPER = builder().build();

    private Json() {}

    /** The same, to be told what is different about some types. */
    public static JsonMapper.Builder builder() {
        return JsonMapper.builder()
                .annotationIntrospector(new WireNames())
                .disable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY);
    }
}
