package hardproof.server.web;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.fasterxml.jackson.databind.JavaType;
import hardproof.core.wording.Coded;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What is exact in Java is exact in the description: of a record every field is required that may not be null, and a
 * code is one of the codes there are.
 */
@Component
class RecordSchemas implements ModelConverter {
  private final Map<String, Class<?>> named = new ConcurrentHashMap<>();

  @Override
  public @Nullable Schema<?> resolve(
      AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
    // Whoever asks names types in the way of its own JSON library.
    JavaType java = Json.mapper().constructType(type.getType());
    Class<?> raw = java == null ? Object.class : java.getRawClass();
    if (raw.isEnum() && Coded.class.isAssignableFrom(raw)) {
      return codes(raw, context);
    }
    Schema<?> schema = chain.hasNext() ? chain.next().resolve(type, context, chain) : null;
    require(context, raw, schema);
    return schema;
  }

  private void require(ModelConverterContext context, Class<?> raw, Schema<?> schema) {
    if (schema != null && raw.isRecord()) {
      oneName(raw);
      Schema<?> model = schema.get$ref() == null
          ? schema
          : context
              .getDefinedModels()
              .get(schema.get$ref().substring(schema.get$ref().lastIndexOf('/') + 1));
      if (model != null && model.getProperties() != null) {
        model.setRequired(required(raw));
      }
    }
  }

  /** Of two records with one name the description would hold one, and whoever reads it believe it of both. */
  private void oneName(Class<?> record) {
    Class<?> other = named.putIfAbsent(record.getSimpleName(), record);
    if (other != null && other != record) {
      throw new IllegalStateException(
          record.getName() + " and " + other.getName() + " have one name in the description");
    }
  }

  private static Schema<?> codes(Class<?> type, ModelConverterContext context) {
    String name = name(type);
    StringSchema schema = new StringSchema();
    for (Object constant : type.getEnumConstants()) {
      schema.addEnumItem(((Coded) constant).code());
    }
    schema.setName(name);
    context.defineModel(name, schema);
    return new Schema<>().$ref("#/components/schemas/" + name);
  }

  /** An enum inside another type is named with it: there are several states. */
  private static String name(Class<?> type) {
    return type.getDeclaringClass() == null
        ? type.getSimpleName()
        : type.getDeclaringClass().getSimpleName() + type.getSimpleName();
  }

  private static List<String> required(Class<?> record) {
    List<String> required = new ArrayList<>();
    for (RecordComponent component : record.getRecordComponents()) {
      boolean absent = component.getAnnotatedType().isAnnotationPresent(Nullable.class);
      if (component.getAccessor().isAnnotationPresent(JsonUnwrapped.class)) {
        if (!absent) {
          required.addAll(required(component.getType()));
        }
      } else if (!absent) {
        required.add(component.getName());
      }
    }
    return required;
  }
}
