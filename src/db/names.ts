/** A name of the code as the database writes it: `yearGroupId` becomes `year_group_id`. */
export const snakeCase = (name: string): string =>
  name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)

/** A name of the database as the code writes it: `year_group_id` becomes `yearGroupId`. */
export const camelCase = (name: string): string =>
  name.replace(/_([a-z0-9])/g, (_, letter: string) => letter.toUpperCase())

/** An object with the keys of a row of the database, as the code names them. */
export const camelKeys = <T>(row: Readonly<Record<string, T>>): Record<string, T> =>
  Object.fromEntries(Object.entries(row).map(([name, value]) => [camelCase(name), value]))
