package hardproof.server.web;

import hardproof.core.wording.Coded;
import org.springframework.core.convert.converter.Converter;
import org.springframework.core.convert.converter.ConverterFactory;
import org.springframework.format.FormatterRegistry;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.BeanDescription;
import tools.jackson.databind.DeserializationConfig;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.JavaType;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.deser.std.StdDeserializer;
import tools.jackson.databind.module.SimpleDeserializers;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.ser.std.StdSerializer;

/** In JSON and in addresses a constant is its code, as in files and in SQL. */
@Component
class CodedJson extends SimpleModule implements WebMvcConfigurer {
  CodedJson() {
    super("codes");
    addSerializer(new ToCode());
    setDeserializers(new SimpleDeserializers() {
      @Override
      public ValueDeserializer<?> findEnumDeserializer(
          JavaType type, DeserializationConfig config, BeanDescription.Supplier description) {
        return Coded.class.isAssignableFrom(type.getRawClass())
            ? new FromCode(type.getRawClass())
            : super.findEnumDeserializer(type, config, description);
      }
    });
  }

  @Override
  public void addFormatters(FormatterRegistry registry) {
    registry.addConverterFactory(new FromText());
  }

  private static final class FromText implements ConverterFactory<String, Coded> {
    @Override
    public <T extends Coded> Converter<String, T> getConverter(Class<T> type) {
      return code -> code.isBlank() ? null : type.cast(constant(type, code));
    }
  }

  @SuppressWarnings("unchecked")
  private static <E extends Enum<E> & Coded> Object constant(Class<?> type, String code) {
    return Coded.of((Class<E>) type, code);
  }

  private static final class ToCode extends StdSerializer<Coded> {
    ToCode() {
      super(Coded.class);
    }

    @Override
    public void serialize(Coded value, JsonGenerator json, SerializationContext context) {
      json.writeString(value.code());
    }
  }

  private static final class FromCode extends StdDeserializer<Object> {
    FromCode(Class<?> type) {
      super(type);
    }

    @Override
    public Object deserialize(JsonParser json, DeserializationContext context) {
      String code = json.getValueAsString();
      return code == null || code.isBlank() ? null : constant(handledType(), code);
    }
  }
}
