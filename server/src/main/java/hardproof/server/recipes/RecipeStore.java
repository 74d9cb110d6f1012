package hardproof.server.recipes;

import hardproof.core.recipes.Recipe;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import tools.jackson.databind.json.JsonMapper;

/** Recipes that were kept for other people's reports. */
public final class RecipeStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;

  public RecipeStore(Database database) {
    this.database = database;
  }

  public List<Recipe> all() {
    return database
        .reads()
        .sql("SELECT body FROM recipe ORDER BY name")
        .query((r, n) -> read(r.getString(1)))
        .list();
  }

  /** By its name, without regard to case. */
  public Optional<Recipe> find(String name) {
    return database
        .reads()
        .sql("SELECT body FROM recipe WHERE name = :name")
        .param("name", name)
        .query((r, n) -> read(r.getString(1)))
        .optional();
  }

  private static Recipe read(String body) {
    return JSON.readValue(body, RecipeForm.class).recipe();
  }

  /** Keeps a recipe; one of the same name is replaced. */
  public void keep(Recipe recipe, String by, Instant now) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO recipe VALUES (:name, :body, :at, :by)
            ON CONFLICT (name) DO UPDATE SET name = excluded.name, body = excluded.body,
              kept_at = excluded.kept_at, kept_by = excluded.kept_by
            """)
        .param("name", recipe.name())
        .param("body", JSON.writeValueAsString(RecipeForm.of(recipe)))
        .param("at", now.toEpochMilli())
        .param("by", by)
        .update());
  }

  /** @return false when there is none of that name */
  public boolean remove(String name) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM recipe WHERE name = :name")
            .param("name", name)
            .update())
        == 1;
  }
}
