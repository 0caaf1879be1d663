package weftex.core.row;

import java.util.AbstractMap;
import java.util.AbstractSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Set;

/**
 * An unchangeable map from column to value, in the order of its making. It takes a quarter of the
 * memory of a hash map, which counts where thousands of rows are held.
 */
public final class ColumnValues extends AbstractMap<String, Value> {
  private final String[] names;
  private final Value[] values;

  private ColumnValues(String[] names, Value[] values) {
    this.names = names;
    this.values = values;
  }

  /** The values of a whole row, which are in the order of the table's columns. */
  public static Map<String, Value> of(Table table, List<Value> row) {
    Builder values = new Builder(row.size());
    for (int i = 0; i < row.size(); i++) {
      values.add(table.columns().get(i).name(), row.get(i));
    }
    return values.build();
  }

  /** Takes columns one by one. */
  public static final class Builder {
    private String[] names;
    private Value[] values;
    private int size;

    /**
     * @param columns how many are expected
     */
    public Builder(int columns) {
      names = new String[columns];
      values = new Value[columns];
    }

    /** Adds a column, once. */
    public void add(String name, Value value) {
      if (size == names.length) {
        resize(size * 2 + 1);
      }
      names[size] = name;
      values[size++] = value;
    }

    /** The columns so far; nothing is added afterwards. */
    public Map<String, Value> build() {
      if (size < names.length) {
        resize(size);
      }
      return new ColumnValues(names, values);
    }

    private void resize(int capacity) {
      String[] newNames = new String[capacity];
      System.arraycopy(names, 0, newNames, 0, size);
      names = newNames;
      Value[] newValues = new Value[capacity];
      System.arraycopy(values, 0, newValues, 0, size);
      values = newValues;
    }
  }

  private int position(Object name) {
    // Names are mostly the very same object, so that few texts are compared.
    for (int i = 0; i < names.length; i++) {
      if (names[i] == name) {
        return i;
      }
    }
    for (int i = 0; i < names.length; i++) {
      if (names[i].equals(name)) {
        return i;
      }
    }
    return -1;
  }

  @Override
  public int size() {
    return names.length;
  }

  @Override
  public Value get(Object name) {
    int at = position(name);
    return at < 0 ? null : values[at];
  }

  @Override
  public boolean containsKey(Object name) {
    return position(name) >= 0;
  }

  @Override
  public Set<Entry<String, Value>> entrySet() {
    return new AbstractSet<>() {
      @Override
      public int size() {
        return names.length;
      }

      @Override
      public Iterator<Entry<String, Value>> iterator() {
        return new Entries();
      }
    };
  }

  private final class Entries implements Iterator<Entry<String, Value>> {
    private int next;

    @Override
    public boolean hasNext() {
      return next < names.length;
    }

    @Override
    public Entry<String, Value> next() {
      if (!hasNext()) {
        throw new NoSuchElementException();
      }
      return new SimpleImmutableEntry<>(names[next], values[next++]);
    }
  }
}
