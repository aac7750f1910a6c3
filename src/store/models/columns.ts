import { DataTypes, type Model } from 'sequelize';

/** The primary key that every record has. */
export function id(): { type: DataTypes.StringDataTypeConstructor; primaryKey: true } {
  return { type: DataTypes.STRING, primaryKey: true };
}

/** A text that must be there. Each column has an object of its own, since Sequelize writes into it. */
export function text(): { type: DataTypes.StringDataTypeConstructor; allowNull: false } {
  return { type: DataTypes.STRING, allowNull: false };
}

export function optional(): { type: DataTypes.StringDataTypeConstructor } {
  return { type: DataTypes.STRING };
}

export function count(): { type: DataTypes.IntegerDataTypeConstructor; allowNull: false } {
  return { type: DataTypes.INTEGER, allowNull: false };
}

/** A time as RFC 3339 text in UTC with milliseconds: sorts as text, and is what the API says. */
export function time(allowNull = false): { type: DataTypes.StringDataTypeConstructor; allowNull: boolean } {
  return { type: DataTypes.STRING, allowNull };
}

/** A value kept as JSON text. */
export function jsonColumn(name: string): {
  type: DataTypes.TextDataTypeConstructor;
  get(this: Model): unknown;
  set(this: Model, value: unknown): void;
} {
  return {
    type: DataTypes.TEXT,
    get() {
      const text = this.getDataValue(name) as string | null | undefined;
      return text === null || text === undefined ? null : JSON.parse(text);
    },
    set(value) {
      this.setDataValue(name, value === null || value === undefined ? null : JSON.stringify(value));
    },
  };
}
