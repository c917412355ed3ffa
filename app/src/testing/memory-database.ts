/**
 * The browser's database in memory, in place of the package that reaches it (tools/specs/bundles.mjs). As in a document
 * without a database every answer fails until a spec opens it.
 */
export const memory = {
  values: new Map<string, unknown>(),
  /** What comes in place of an answer, or null where all is well: a spec says here what goes wrong. */
  trouble: (_act: Act): Promise<never> | null => null,
};

type Act = 'read' | 'write' | 'remove';

const none = (): Promise<never> => Promise.reject(new Error('No available storage method found.'));

export function closeMemory(): void {
  memory.values.clear();
  memory.trouble = none;
}
closeMemory();

/** An empty database that works. */
export function openMemory(): void {
  memory.values.clear();
  memory.trouble = () => null;
}

const copy = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null)) as unknown;
const answer = <T>(act: Act, work: () => T): Promise<T> => memory.trouble(act) ?? Promise.resolve(work());

export default {
  INDEXEDDB: 'indexeddb',
  createInstance: () => ({
    getItem: (key: string) => answer('read', () => copy(memory.values.get(key))),
    setItem: (key: string, value: unknown) => answer('write', () => memory.values.set(key, copy(value))),
    removeItem: (key: string) => answer('remove', () => memory.values.delete(key)),
    keys: () => answer('read', () => [...memory.values.keys()]),
  }),
};
