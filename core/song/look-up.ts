/**
 * What a record holds under a name of its own. Ids come from files: a plain look-up of “constructor” would find what
 * every object has by birth.
 */
export const own = <T>(record: Readonly<Record<string, T>> | undefined, name: string): T | undefined =>
  record !== undefined && Object.hasOwn(record, name) ? record[name] : undefined;
